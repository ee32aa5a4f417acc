import { useState } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { steps, stepsDone, type JobState, type Step } from './jobSteps.ts';

const kept = (person: string) => `first-job:${person}`;

/** Whether somebody has done a first job here, or wants none. */
export const wasOffered = (person: string) => localStorage.getItem(kept(person)) !== null;

export const neverMind = (person: string) => localStorage.setItem(kept(person), 'yes');

const words = {
  place: ['firstJob.place', 'firstJob.placeHow'],
  pair: ['firstJob.pair', 'firstJob.pairHow'],
  widen: ['firstJob.widen', 'firstJob.widenHow'],
  try: ['firstJob.try', 'firstJob.tryHow'],
  publish: ['firstJob.publish', 'firstJob.publishHow'],
} as const;

/** A first job on one's own form, step by step: each is ticked once it is done, and the next one says how. */
export function FirstJob({ person, now, onClose }: { person: string; now: JobState; onClose: () => void }) {
  const [before, setBefore] = useState(now);
  const [ticked, setTicked] = useState<ReadonlySet<Step>>(new Set());
  // Each change is looked at by itself; what was done once stays done, be it undone since.
  if (now.tree !== before.tree || now.trying !== before.trying || now.published !== before.published) {
    setBefore(now);
    setTicked(new Set([...ticked, ...stepsDone(before, now)]));
  }
  const next = steps.find((step) => !ticked.has(step));
  const close = () => {
    neverMind(person);
    onClose();
  };
  return (
    <section className="first-job" aria-labelledby="first-job-title">
      <h2 id="first-job-title">{say('firstJob.title')}</h2>
      <ol>
        {steps.map((step) => (
          <li key={step} data-done={ticked.has(step) ? '' : undefined} aria-current={step === next ? 'step' : undefined}>
            <b>{say(words[step][0])}</b>
            {ticked.has(step) && <span className="bt-visually-hidden"> {say('firstJob.isDone')}</span>}
            {step === next && <p>{say(words[step][1])}</p>}
          </li>
        ))}
      </ol>
      <p role="status">{next ? '' : say('firstJob.done')}</p>
      <button type="button" className={next ? 'tool' : 'tool primary'} onClick={close}>
        {next ? say('firstJob.stop') : say('common.done')}
      </button>
    </section>
  );
}
