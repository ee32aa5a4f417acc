import { useCallback, useRef, useState } from 'react';
import { find, isItem, type TreeNode } from '#layout';

export interface Selection {
  /** What is selected, the last chosen last. */
  selection: string[];
  selected: string | undefined;
  /** Selects a node alone; adding, takes it into what is selected or out of it; up to it, all between the last one and it of its kind. */
  select: (id: string | undefined, how?: boolean | 'upTo') => void;
  selectAll: (ids: string[]) => void;
  /** Answers how to select what comes of something begun now; what somebody chooses meanwhile stays, be it the same as before. */
  later: () => (next: string | undefined) => void;
  /** Arrows walk what is drawn, in reading order; adding goes from one of its kind to the next. */
  walkTo: (back: boolean, adding: boolean) => void;
}

/** What is selected on the form. Showing tells the rest of the designer which node is chosen now. */
export function useSelection(root: HTMLElement | null, tree: TreeNode | undefined, onChoose: (id: string | undefined) => void): Selection {
  const [selection, setSelection] = useState<string[]>([]);
  const selected = selection.at(-1);
  const choices = useRef(0);
  const later = useCallback(() => {
    const begun = choices.current;
    return (next: string | undefined) => {
      if (choices.current === begun && next !== undefined) setSelection([next]);
    };
  }, []);
  /** What is drawn, in reading order. */
  const drawn = () =>
    [...(root?.querySelectorAll<HTMLElement>('.canvas :is(.bt-band, .bt-section, .bt-item, .list-column)[data-node]') ?? [])]
      .map((element) => element.dataset['node']!)
      .filter((id) => !id.includes('/'));
  const isOfItems = (id: string | undefined) => Boolean(id && tree && isItem(find(tree, id)?.kind ?? 'layout'));
  const select = (id: string | undefined, how: boolean | 'upTo' = false) => {
    choices.current++;
    if (how === 'upTo' && id && selected && tree && find(tree, id)) {
      const order = drawn();
      const [from = 0, to = 0] = [order.indexOf(selected), order.indexOf(id)].sort((one, other) => one - other);
      const between = order.slice(from, to + 1).filter((each) => isOfItems(each) === isOfItems(id));
      setSelection([...between.filter((each) => each !== id), id]);
    } else if (how && id) setSelection((now) => (now.includes(id) ? now.filter((each) => each !== id) : [...now, id]));
    else setSelection(id === undefined ? [] : [id]);
    onChoose(id);
  };
  const walkTo = (back: boolean, adding: boolean) => {
    const order = drawn().filter((id) => !adding || isOfItems(id) === isOfItems(selected));
    const at = selected ? order.indexOf(selected) : -1;
    const next = order[Math.min(order.length - 1, Math.max(0, at + (back ? -1 : 1)))];
    if (next && next !== selected) select(next, adding);
  };
  return { selection, selected, select, selectAll: setSelection, later, walkTo };
}
