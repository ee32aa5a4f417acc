import { useEffect, useRef, useState } from 'react';

const steps = [
  { at: '.desk .sheet', title: 'The form itself', text: 'This is what users get, to the pixel. Click a part to change it, drag it to move it; with keys, the arrows walk, Alt with them moves, F2 names, Delete takes off.' },
  { at: '[aria-label="What can be placed"]', title: 'What can be placed', text: 'Drag a field or a part onto the form, or press Enter on it and choose a place with the arrows. The tabs above hold the outline, what changed, and the form as text.' },
  { at: '[aria-label="Properties"]', title: 'What is chosen', text: 'Words, size, behaviour, and who sees it when. Several parts chosen with Shift or Ctrl are changed together.' },
  { at: '.eyes', title: 'Preview as', text: 'Look at the form as somebody in another role, with another record, in another language or at another width. It changes nothing for anybody.' },
  { at: '.width-scale', title: 'Wide and narrow', text: 'Each range of widths may have a form of its own, which keeps only what it has differently.' },
  { at: '.designer-bar', title: 'Nothing is published until you say so', text: 'Everything can be undone, and is kept as a draft. Ctrl+K lists all that can be done. Publish gives it to everyone at once; an earlier release can be had back.' },
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
    <div className="walk" role="dialog" aria-labelledby="walk-title" aria-describedby="walk-text" onKeyDown={(event) => { if (event.key === 'Escape') close(); event.stopPropagation(); }}>
      <h2 id="walk-title">{step.title}</h2>
      <p id="walk-text">{step.text}</p>
      <div className="walk-acts">
        <span>{at + 1} of {steps.length}</span>
        {at > 0 && <button type="button" className="tool" onClick={() => setAt(at - 1)}>Back</button>}
        <button type="button" className="tool" onClick={close}>{at + 1 < steps.length ? 'Enough' : 'Close'}</button>
        {at + 1 < steps.length && <button type="button" className="tool primary" ref={next} onClick={() => setAt(at + 1)}>Next</button>}
      </div>
    </div>
  );
}
