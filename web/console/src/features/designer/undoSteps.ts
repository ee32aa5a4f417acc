import { useCallback, useRef, useState } from 'react';
import type { Edit } from '#layout';
import type { QueueStore, UndoStep } from './offlineQueue.ts';

/** Within this time, values typed into the same properties are one step. */
const oneTyping = 2_000;

const targets = (edits: Edit[]) => edits.map((edit) => (edit.op === 'set' ? `${edit.node} ${edit.property}` : '')).join();

type Side = 'past' | 'future';

const labelsOf = (steps: Record<Side, UndoStep[]>) => ({ undo: steps.past.at(-1)?.label, redo: steps.future.at(-1)?.label });

/**
 * What can be undone and done again, kept in the browser. A step is taken from the moment it is asked for: two undos in a row are two
 * steps, whether or not the first is answered.
 */
export function useUndoSteps(kept: QueueStore) {
  const steps = useRef(kept.steps());
  const [labels, setLabels] = useState(() => labelsOf(kept.steps()));
  const show = useCallback(() => {
    kept.keepSteps(steps.current);
    setLabels(labelsOf(steps.current));
  }, [kept]);
  const put = useCallback(
    (side: Side, step: UndoStep) => {
      steps.current[side].push(step);
      show();
    },
    [show],
  );
  const take = useCallback(
    (side: Side) => {
      const last = steps.current[side].pop();
      if (last) show();
      return last;
    },
    [show],
  );
  /**
   * Remembers how a change is undone; values typed one after another into the same properties are one step, and so is what goes on with
   * the step before.
   */
  const remember = useCallback(
    (label: string, inverse: Edit[], typed: boolean, goesOn = false) => {
      const last: UndoStep | undefined = steps.current.past.at(-1);
      const now = Date.now();
      if (goesOn && last) last.edits = [...inverse, ...last.edits];
      else if (typed && last?.at && now - last.at < oneTyping && last.label === label && targets(last.edits) === targets(inverse))
        last.at = now;
      else steps.current.past.push({ label, edits: inverse, at: now });
      steps.current.future = [];
      show();
    },
    [show],
  );
  return { labels, put, take, remember };
}
