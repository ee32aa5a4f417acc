import {
  flow,
  isItem,
  places,
  removal,
  removeAll,
  step,
  ungroup,
  walk,
  widen,
  wrap,
  type Edit,
  type Facts,
  type Subject,
  type TreeNode,
} from '../src/index.ts';

const facts: Facts = new Map([
  ['berth', { type: 'reference', longestWord: 5 }],
  ['name', { type: 'text', longestWord: 4 }],
  ['length', { type: 'decimal', longestWord: 6 }],
]);

/** Numbers that look like chance and are the same for the same seed (mulberry32). */
function chance(seed: number) {
  let state = seed + 1;
  return (below: number) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) % below;
  };
}

/**
 * So many lists of edits as one makes them by hand on a layout: placed, moved, taken off, put into sections and columns, made wider,
 * renamed.
 */
export function someEdits(tree: TreeNode, seed: number, count: number): Edit[][] {
  const below = chance(seed);
  const one = <T>(of: readonly T[]): T | undefined => of[below(Math.max(1, of.length))];
  const nodes = [...walk(tree)].filter((node) => node.kind !== 'variant' && node.kind !== 'change' && node.kind !== 'layout');
  const items = nodes.filter((node) => isItem(node.kind)).map((node) => node.id);
  const sections = nodes.filter((node) => node.kind === 'section').map((node) => node.id);
  const made: Edit[][] = [];
  for (let tries = 0; made.length < count && tries < count * 20; tries++) {
    const [node, item, section] = [one(nodes), one(items), one(sections)];
    const subject = [
      { field: 'berth' },
      { part: 'section', title: 'More' },
      { part: 'heading' },
      { part: 'page', title: 'Papers' },
      ...(item ? [{ node: item }] : []),
    ][below(5)] as Subject | undefined;
    const edits = [
      () => (subject ? one(places(tree, subject, facts))?.edits : undefined),
      () => (node ? removal(tree, node.id) : undefined),
      () => (node ? step(tree, node.id, (['up', 'down', 'left', 'right'] as const)[below(4)]!, facts) : undefined),
      () => (section ? flow(tree, section, 1 + below(3), () => below(4) === 0) : undefined),
      () => (item ? wrap(tree, [item, one(items)!], 'Kept together')?.edits : undefined),
      () => (section ? ungroup(tree, section) : undefined),
      () => (item ? widen(tree, [item], below(2) === 0 ? 1 : -1) : undefined),
      () =>
        removeAll(
          tree,
          items.filter(() => below(3) === 0),
        ),
      () => (item ? ([{ op: 'set', node: item, property: 'hidden', value: below(2) === 0 }] satisfies Edit[]) : undefined),
    ][below(9)]!();
    if (edits && edits.length > 0) made.push(edits);
  }
  return made;
}
