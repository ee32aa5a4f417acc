import { useRef, useState } from 'react';
import { places, walk, type Facts, type Place, type Subject, type TreeNode } from '#layout';
import { describe } from './names.ts';
import { say } from '../../shell/configurator/texts.ts';

interface PlacementOptions {
  subject: Subject;
  places: Place[];
  at: number;
}

/** How long typed letters count as one name, in milliseconds. */
const oneName = 1_500;

/**
 * Placing what was chosen: a click on the form places it there; arrows, or a name that is typed, go round the legal places; Enter places,
 * Escape cancels.
 */
export function usePlacement(tree: TreeNode | undefined, facts: Facts, nameOf: (id: string) => string, onShow: (page: string) => void) {
  const [placing, setPlacing] = useState<PlacementOptions>();
  const sought = useRef({ typed: '', at: 0 });
  const current = placing?.places[placing.at];
  const show = (at: number) => {
    if (!placing || !tree) return;
    const index = (at + placing.places.length) % placing.places.length;
    const { target } = placing.places[index]!;
    setPlacing({ ...placing, at: index });
    const onto = [...walk(tree)].filter((node) => node.kind === 'page').find((page) => [...walk(page)].some((node) => node.id === target));
    if (onto && onto.id !== target) onShow(onto.id);
  };
  return {
    spot: current,
    subject: placing?.subject,
    sentence:
      placing && current
        ? say('usePlacement.placeOfClickWhereIt', placing.at + 1, placing.places.length, describe(current, nameOf))
        : undefined,
    /** Begins at the place of a node; answers whether there is any. */
    begin: (subject: Subject, at: string | undefined): boolean => {
      const legal = tree ? places(tree, subject, facts) : [];
      sought.current = { typed: '', at: 0 };
      if (legal.length > 0)
        setPlacing({
          subject,
          places: legal,
          at: Math.max(
            0,
            legal.findIndex((each) => each.target === at),
          ),
        });
      return legal.length > 0;
    },
    stop: () => setPlacing(undefined),
    /** What a key does while placing; nothing when one is not, or the key means nothing. */
    key: (
      event: React.KeyboardEvent,
      direction: string | undefined,
      place: (chosen: Place, subject: Subject) => void,
    ): (() => void) | undefined => {
      if (!placing || !current) return undefined;
      if (direction) return () => show(placing.at + (direction === 'down' || direction === 'right' ? 1 : -1));
      if (event.key === 'Enter') return () => place(current, placing.subject);
      if (event.key === 'Escape') return () => setPlacing(undefined);
      if (event.key.length !== 1 || event.ctrlKey || event.metaKey) return undefined;
      return () => {
        const typed = (event.timeStamp - sought.current.at < oneName ? sought.current.typed : '') + event.key.toLowerCase();
        sought.current = { typed, at: event.timeStamp };
        const found = placing.places.findIndex((each) => describe(each, nameOf).toLowerCase().includes(typed));
        if (found >= 0) show(found);
      };
    },
  };
}
