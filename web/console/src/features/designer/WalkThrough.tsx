import { useEffect, useRef, useState } from 'react';

const steps = [
  {
    at: '.desk .sheet',
    title: 'The form itself',
    text: 'This is what users get, to the pixel. Click a part to edit it, drag it to move it. Keys: arrows select, Alt+arrows move, F2 renames, Delete removes.',
  },
  {
    at: '[aria-label="Fields and parts"]',
    title: 'Fields and parts',
    text: 'Drag a field or a part onto the form, or press Enter on it and choose a place with the arrow keys. The tabs above lead to the outline, the changes and the source.',
  },
  {
    at: '[aria-label="Properties"]',
    title: 'Properties of the selection',
    text: 'Texts, size, behaviour and visibility. Several parts selected with Shift or Ctrl change together.',
  },
  {
    at: '.preview-bar',
    title: 'Preview as',
    text: 'Preview the form in another role, with another record, in another language or at another width. Nothing changes for users.',
  },
  {
    at: '.width-scale',
    title: 'Wide and narrow',
    text: 'Each range of widths can have a form of its own, which stores only its differences.',
  },
  {
    at: '.designer-bar',
    title: 'Nothing is published until you say so',
    text: 'Everything can be undone and is saved as a draft. Ctrl+K lists all commands. Publish sends it to everyone at once; an earlier release can be restored.',
  },
] as const;

const seen = (person: string) => `walked:${person}`;

/** Whether somebody has been shown round, or said she needs it not. */
export const wasShown = (person: string) => localStorage.getItem(seen(person)) !== null;

export const neverMind = (person: string) => localStorage.setItem(seen(person), 'yes');

/** A round through the designer, pane by pane; each is marked while it is told about. */
export function WalkThrough({ person, onClose }: { person: string; onClose: () => void }) {
  const [at, setAt] = useState(0);
  const next = useRef<HTMLButtonElement>(null);
  const step = steps[at]!;
  useEffect(() => {
    const place = document.querySelector(step.at);
    place?.setAttribute('data-walked', '');
    next.current?.focus();
    return () => place?.removeAttribute('data-walked');
  }, [step]);
  const close = () => {
    neverMind(person);
    onClose();
  };
  return (
    <div
      className="walk"
      role="dialog"
      aria-labelledby="walk-title"
      aria-describedby="walk-text"
      onKeyDown={(event) => {
        if (event.key === 'Escape') close();
        event.stopPropagation();
      }}
    >
      <h2 id="walk-title">{step.title}</h2>
      <p id="walk-text">{step.text}</p>
      <div className="walk-acts">
        <span>
          {at + 1} of {steps.length}
        </span>
        {at > 0 && (
          <button type="button" className="tool" onClick={() => setAt(at - 1)}>
            Back
          </button>
        )}
        <button type="button" className="tool" onClick={close}>
          {at + 1 < steps.length ? 'Enough' : 'Close'}
        </button>
        {at + 1 < steps.length && (
          <button type="button" className="tool primary" ref={next} onClick={() => setAt(at + 1)}>
            Next
          </button>
        )}
      </div>
    </div>
  );
}
