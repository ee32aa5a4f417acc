import { useState } from 'react';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { say, type TextKey } from '../../shell/configurator/texts.ts';

const questions: Record<string, TextKey> = {
  page: 'question.page',
  section: 'question.section',
  heading: 'question.heading',
  text: 'question.text',
  link: 'question.link',
  action: 'question.action',
  image: 'question.image',
  panel: 'question.panel',
  top: 'question.top',
  bottom: 'question.bottom',
  start: 'question.start',
  end: 'question.end',
  piece: 'question.piece',
  width: 'question.width',
};

/** Whether a part must say something to be one. */
export const hasQuestion = (part: string): boolean => part in questions && part !== 'piece' && part !== 'width';

/** Asks for a part's name before it is made, so that nothing is called Section 3. */
export function NameDialog({ part, onDone }: { part: string; onDone: (name: string | undefined) => void }) {
  const [name, setName] = useState('');
  return (
    <FormDialog
      title={<label htmlFor="part-name">{say(questions[part]!)}</label>}
      submit={part === 'piece' || part === 'width' ? say('common.create') : say('pane.fields')}
      incomplete={!name.trim()}
      onSubmit={() => name.trim()}
      onClose={onDone}
    >
      <input
        id="part-name"
        className="tool-input"
        autoFocus
        autoComplete="off"
        dir="auto"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
    </FormDialog>
  );
}
