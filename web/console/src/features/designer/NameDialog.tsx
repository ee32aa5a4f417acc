import { useState } from 'react';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { say, type TextKey } from '../../shell/configurator/texts.ts';

const questions: Record<string, TextKey> = { section: 'question.section', piece: 'question.piece', width: 'question.width' };

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
