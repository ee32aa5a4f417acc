import { useCallback, useEffect, useRef, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import type { ServerEvent } from '../../shell/events.ts';
import { useServerEvents } from '../../shell/hooks.ts';

/** How long a selection stands until the others are told, in milliseconds: what is only passed over is nobody's business. */
const settled = 300;

/** Of how many the others are told: whoever selects more selects all, and nobody looks at each. */
const most = 100;

/** How often it is told again, and how long what was told is believed: whose window is gone says no more. */
const again = 20_000;
const believed = 45_000;

/** What somebody told that she has selected. */
export interface SelectionOfOther {
  nodes: readonly string[];
  /** When it was told. */
  at: number;
}

const nobody: ReadonlyMap<string, SelectionOfOther> = new Map();

/** What the others at a draft have selected, by person; and tells them what one has selected oneself. */
export function useOthersSelections(layout: string, person: string, selection: readonly string[]): ReadonlyMap<string, SelectionOfOther> {
  const [others, setOthers] = useState(nobody);
  const own = useRef(selection);
  const known = useRef(new Set<string>());
  const tell = useCallback(
    (nodes: readonly string[]) => {
      if (!navigator.onLine) return;
      const params = { path: { key: layout } };
      // Nothing depends on it: where it does not arrive, the next one does.
      answer(api.POST('/api/layouts/{key}/selection', { params, body: { nodes: nodes.slice(0, most) } })).catch(() => undefined);
    },
    [layout],
  );
  useEffect(() => {
    own.current = selection;
    const soon = setTimeout(() => tell(selection), settled);
    return () => clearTimeout(soon);
  }, [selection, tell]);
  useEffect(() => {
    const timer = setInterval(() => {
      if (own.current.length > 0) tell(own.current);
      setOthers((before) => still(before));
    }, again);
    return () => {
      clearInterval(timer);
      tell([]);
    };
  }, [tell]);
  useServerEvents(
    useCallback(
      ({ type, data }: ServerEvent) => {
        if (type !== 'selection' || data.layout !== layout || !data.person || data.person === person) return;
        const { person: who, nodes = [] } = data;
        // Who has just come knows nothing of what was told before.
        if (!known.current.has(who) && own.current.length > 0) tell(own.current);
        known.current.add(who);
        if (nodes.length === 0) known.current.delete(who);
        setOthers((before) => new Map(before).set(who, { nodes, at: Date.now() }));
      },
      [layout, person, tell],
    ),
  );
  return others;
}

/** Without those who have not been heard of for too long; the same where there are none. */
function still(before: ReadonlyMap<string, SelectionOfOther>): ReadonlyMap<string, SelectionOfOther> {
  const left = [...before].filter(([, told]) => Date.now() - told.at < believed);
  return left.length === before.size ? before : new Map(left);
}
