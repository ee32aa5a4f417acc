import { useEffect, useRef, useState } from 'react';
import { say } from '../../shell/configurator/texts.ts';

const steps = [
  {
    at: '.desk .sheet',
    title: 'tour.form',
    text: 'tour.formText',
  },
  {
    at: '.pane[data-side="start"]',
    title: 'tour.parts',
    text: 'tour.partsText',
  },
  {
    at: '.pane[data-side="end"]',
    title: 'tour.properties',
    text: 'tour.propertiesText',
  },
  {
    at: '.preview-bar',
    title: 'tour.preview',
    text: 'tour.previewText',
  },
  {
    at: '.width-scale',
    title: 'tour.widths',
    text: 'tour.widthsText',
  },
  {
    at: '.designer-bar',
    title: 'tour.publish',
    text: 'tour.publishText',
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
      <h2 id="walk-title">{say(step.title)}</h2>
      <p id="walk-text">{say(step.text)}</p>
      <div className="walk-acts">
        <span>{say('common.of', at + 1, steps.length)}</span>
        {at > 0 && (
          <button type="button" className="tool" onClick={() => setAt(at - 1)}>
            {say('walkThrough.back')}
          </button>
        )}
        <button type="button" className="tool" onClick={close}>
          {at + 1 < steps.length ? say('walkThrough.enough') : say('common.close')}
        </button>
        {at + 1 < steps.length && (
          <button type="button" className="tool primary" ref={next} onClick={() => setAt(at + 1)}>
            {say('walkThrough.next')}
          </button>
        )}
      </div>
    </div>
  );
}
