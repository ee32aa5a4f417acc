import { useEffect, useRef, useState } from 'react';
import { say, type TextKey } from '../../shell/configuring/texts.ts';

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
  const dialog = useRef<HTMLDialogElement>(null);
  const [name, setName] = useState('');
  const given = useRef<string>(undefined);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog ref={dialog} className="dialog" aria-labelledby="name-question" onClose={() => onDone(given.current)}>
      <form
        method="dialog"
        onSubmit={() => {
          given.current = name.trim() || undefined;
        }}
      >
        <label id="name-question" htmlFor="part-name">
          {say(questions[part]!)}
        </label>
        <input
          id="part-name"
          className="tool-input"
          autoFocus
          autoComplete="off"
          dir="auto"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <div className="dialog-acts">
          <button type="button" className="button" onClick={() => dialog.current?.close()}>
            {say('common.cancel')}
          </button>
          <button type="submit" className="button primary" disabled={!name.trim()}>
            {part === 'piece' || part === 'width' ? say('common.create') : say('pane.fields')}
          </button>
        </div>
      </form>
    </dialog>
  );
}
