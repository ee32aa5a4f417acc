import { freshId, freshIds } from './ids.ts';
import { removal } from './removal.ts';
import {
  ancestorOf,
  find,
  isItem,
  parentOf,
  pathTo,
  walk,
  without,
  type Anchor,
  type Edit,
  type NewNode,
  type PropertyValue,
  type TreeNode,
} from './tree.ts';

/** The selected nodes without those that stand inside another of them, in the order of the form. */
export function outermost(tree: TreeNode, ids: string[]): string[] {
  const chosen = new Set(ids);
  return [...walk(tree)]
    .map((node) => node.id)
    .filter(
      (id) =>
        chosen.has(id) &&
        !pathTo(tree, id)
          .slice(0, -1)
          .some((above) => chosen.has(above.id)),
    );
}

/** Takes several nodes off, one after another, each from what the ones before have left. */
export function removeAll(tree: TreeNode, ids: string[]): Edit[] {
  const edits: Edit[] = [];
  let left = tree;
  for (const id of outermost(tree, ids)) {
    const own = find(left, id) ? removal(left, id) : [];
    edits.push(...own);
    for (const edit of own) if (edit.op === 'remove') left = without(left, edit.node);
  }
  return edits;
}

/** Puts the selected items into a section of their own behind the one the first of them is in; rows that are selected whole stay rows. */
export function wrap(tree: TreeNode, ids: string[], title: string): { edits: Edit[]; section: string } | undefined {
  const items = outermost(tree, ids).filter((id) => isItem(find(tree, id)!.kind) && ancestorOf(tree, id, 'row'));
  const [first] = items;
  const home = first === undefined ? undefined : ancestorOf(tree, first, 'section');
  const page = home && parentOf(tree, home.id);
  if (!home || page?.kind !== 'page') return undefined;
  const fresh = freshIds(tree);
  const section = fresh(stemOf(title));
  const edits: Edit[] = [
    { op: 'insert', node: { id: section, kind: 'section', properties: { title } }, parent: page.id, at: { after: home.id } },
  ];
  const chosen = new Set(items);
  const done = new Set<string>();
  let left = tree;
  for (const id of items) {
    if (done.has(id)) continue;
    const row = ancestorOf(tree, id, 'row')!;
    const all = row.children.flatMap((cell) => cell.children.map((item) => item.id));
    if (all.every((each) => chosen.has(each))) {
      edits.push({ op: 'move', node: row.id, parent: section, at: 'last' });
      left = without(left, row.id);
      all.forEach((each) => done.add(each));
      continue;
    }
    const [made, cell] = [fresh(`${id}Row`), fresh(`${id}Cell`)];
    const tidy = removal(left, id).slice(1);
    edits.push(
      { op: 'insert', node: { id: made, kind: 'row', children: [{ id: cell, kind: 'cell' }] }, parent: section, at: 'last' },
      { op: 'move', node: id, parent: cell, at: 'last' },
      ...tidy,
    );
    left = without(left, id);
    for (const edit of tidy) if (edit.op === 'remove') left = without(left, edit.node);
  }
  const rest = find(left, home.id);
  return { edits: rest && rest.children.length === 0 ? [...edits, { op: 'remove', node: home.id }] : edits, section };
}

/** Puts one item in the place of the selected nodes: in a section of its own before the first section, or in a row before the first row. */
export function inPlace(tree: TreeNode, ids: string[], item: NewNode): Edit[] {
  const [first] = outermost(tree, ids);
  const node = first === undefined ? undefined : find(tree, first);
  if (!node) return [];
  const row = (ancestorOf(tree, node.id, 'row') ?? (node.kind === 'row' ? node : undefined))?.id;
  const made: NewNode = { kind: 'row', children: [{ kind: 'cell', children: [item] }] };
  const at = row && node.kind !== 'section' && node.kind !== 'page' ? find(tree, row)! : node;
  const inserted: NewNode = at.kind === 'row' ? made : { kind: 'section', children: [made] };
  const where: Edit =
    at.kind === 'page'
      ? { op: 'insert', node: inserted, parent: at.id, at: 'first' }
      : { op: 'insert', node: inserted, parent: parentOf(tree, at.id)!.id, at: { before: at.id } };
  return [where, ...removeAll(tree, node.kind === 'page' ? node.children.map((child) => child.id) : ids)];
}

/**
 * A page more, beside others. Where the form is one stack that makes tabs of it: what was there becomes the first, with a title of its own.
 * @param first the title of what was there, where it has none
 */
export function addTab(tree: TreeNode, edits: readonly Edit[], first: PropertyValue): Edit[] {
  const body = tree.children.find((child) => child.kind === 'body');
  const begun = edits.find((edit) => edit.op === 'insert' && edit.node.kind === 'page' && edit.parent === body?.id);
  if (!body || !begun || (body.properties['arrangement'] ?? 'stack') !== 'stack' || body.children.length !== 1) return [...edits];
  const [page] = body.children;
  return [
    { op: 'set', node: body.id, property: 'arrangement', value: 'tabs' },
    ...(page!.properties['title'] === undefined ? [{ op: 'set', node: page!.id, property: 'title', value: first } satisfies Edit] : []),
    ...edits,
  ];
}

/** Gives a section up: its rows go to the end of the one before it, or to the beginning of the one behind. */
export function ungroup(tree: TreeNode, id: string): Edit[] {
  const section = find(tree, id);
  const siblings = parentOf(tree, id)?.children ?? [];
  const at = siblings.findIndex((each) => each.id === id);
  const [before, behind] = [siblings[at - 1], siblings[at + 1]];
  const home = before ?? behind;
  if (section?.kind !== 'section' || home?.kind !== 'section') return [];
  const rows = before ? section.children : section.children.toReversed();
  return [
    ...rows.map((row): Edit => ({ op: 'move', node: row.id, parent: home.id, at: before ? 'last' : 'first' })),
    { op: 'remove', node: id },
  ];
}

/** One more cell in the row beside a cell, which gives up half of the units that are written for it; the other cells keep theirs. */
export function split(tree: TreeNode, id: string, edge: 'left' | 'right' = 'right'): Edit[] {
  const cell = find(tree, id);
  const row = parentOf(tree, id);
  if (cell?.kind !== 'cell' || !row) return [];
  const at: Anchor = edge === 'left' ? { before: id } : { after: id };
  const fresh = freshId(tree, 'cell');
  const span = cell.properties['span'];
  if (typeof span !== 'number') return [{ op: 'insert', node: { id: fresh, kind: 'cell' }, parent: row.id, at }];
  const half = Math.floor(span / 2);
  return half < 1
    ? []
    : [
        { op: 'set', node: id, property: 'span', value: span - half },
        { op: 'insert', node: { id: fresh, kind: 'cell', properties: { span: half } }, parent: row.id, at },
      ];
}

/** The cells of each row of a section share it evenly; a row that is even already is left alone. */
export function balance(tree: TreeNode, id: string): Edit[] {
  const section = find(tree, id);
  if (section?.kind !== 'section') return [];
  const uneven = section.children.filter((row) => new Set(row.children.map((cell) => cell.properties['span'])).size > 1);
  return uneven
    .flatMap((row) => row.children)
    .filter((cell) => cell.properties['span'] !== undefined)
    .map((cell) => ({ op: 'set', node: cell.id, property: 'span', value: null }));
}

const stemOf = (title: string) => {
  const [first = '', ...rest] = title
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9 ]/g, '')
    .trim()
    .split(/\s+/);
  const stem = first.toLowerCase() + rest.map((word) => word.charAt(0).toUpperCase() + word.slice(1).toLowerCase()).join('');
  return /^[a-z]/.test(stem) ? stem : 'section';
};

/** Flows a section's items into n columns, keeping the reading order; wide items keep a row of their own. */
export function flow(tree: TreeNode, sectionId: string, columns: number, isWide: (item: TreeNode) => boolean): Edit[] {
  const section = find(tree, sectionId);
  if (!section) return [];
  const items = [...walk(section)].filter((node) => isItem(node.kind));
  const rows: TreeNode[][] = [];
  for (const item of items) {
    const open = rows.at(-1);
    if (!isWide(item) && open && open.length < columns && !isWide(open[0]!)) open.push(item);
    else rows.push([item]);
  }
  const fresh = freshIds(tree);
  const edits: Edit[] = [{ op: 'set', node: sectionId, property: 'columns', value: columns }];
  for (const row of rows) {
    const wide = isWide(row[0]!);
    const cells = (wide ? row : Array.from({ length: columns }, (_, i) => row[i])).map((item, i) => ({
      id: fresh(item ? `${item.id}Cell` : `${row[0]!.id}Cell${i + 1}`),
      item,
    }));
    edits.push({
      op: 'insert',
      node: { id: fresh(`${row[0]!.id}Row`), kind: 'row', children: cells.map(({ id }) => ({ id, kind: 'cell' })) },
      parent: sectionId,
      at: 'last',
    });
    for (const { id, item } of cells) if (item) edits.push({ op: 'move', node: item.id, parent: id, at: 'last' });
  }
  return [...edits, ...section.children.map((row): Edit => ({ op: 'remove', node: row.id }))];
}
