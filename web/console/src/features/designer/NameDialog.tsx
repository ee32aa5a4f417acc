import { useEffect, useRef, useState } from 'react';

const questions: Record<string, string> = {
  page: 'What is the tab called?',
  section: 'What is the section called?',
  heading: 'What does the heading say?',
  text: 'Text',
  link: 'What does the link say?',
  action: 'What does the button say?',
  image: 'What does the picture show, in words?',
  panel: 'What is its first tab called?',
  top: 'What does the band say? Values of the record stand in braces: {name}.',
  bottom: 'What does the band say? Values of the record stand in braces: {name}.',
  start: 'What is written beside the form?',
  end: 'What is written beside the form?',
  piece: 'What is the piece called?',
  width: 'What is this width called?',
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
          {questions[part]}
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
            Cancel
          </button>
          <button type="submit" className="button primary" disabled={!name.trim()}>
            {part === 'piece' || part === 'width' ? 'Create' : 'Add'}
          </button>
        </div>
      </form>
    </dialog>
  );
}
