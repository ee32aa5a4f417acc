import { removal } from './placement.ts';
import { ancestorOf, find, freshId, isItem, parentOf, pathTo, walk, without, type Edit, type NewNode, type TreeNode } from './tree.ts';

/** The selected nodes without those that stand inside another of them, in the order of the form. */
export function outermost(tree: TreeNode, ids: string[]): string[] {
  const chosen = new Set(ids);
  return [...walk(tree)].map((node) => node.id).filter((id) => chosen.has(id) && !pathTo(tree, id).slice(0, -1).some((above) => chosen.has(above.id)));
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
  const items = outermost(tree, ids).filter((id) => isItem(find(tree, id)!.kind));
  const [first] = items;
  const home = first === undefined ? undefined : ancestorOf(tree, first, 'section');
  const page = home && parentOf(tree, home.id);
  if (!home || page?.kind !== 'page') return undefined;
  const taken: string[] = [];
  const fresh = (stem: string) => {
    const id = freshId(tree, stem, taken);
    taken.push(id);
    return id;
  };
  const section = fresh(stemOf(title));
  const edits: Edit[] = [{ op: 'insert', node: { id: section, kind: 'section', properties: { title } }, parent: page.id, at: { after: home.id } }];
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
    edits.push({ op: 'insert', node: { id: made, kind: 'row', children: [{ id: cell, kind: 'cell' }] }, parent: section, at: 'last' }, { op: 'move', node: id, parent: cell, at: 'last' }, ...tidy);
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
  const where: Edit = at.kind === 'page' ? { op: 'insert', node: inserted, parent: at.id, at: 'first' } : { op: 'insert', node: inserted, parent: parentOf(tree, at.id)!.id, at: { before: at.id } };
  return [where, ...removeAll(tree, node.kind === 'page' ? node.children.map((child) => child.id) : ids)];
}

/** Puts a section's rows into the section before it and takes its frame away. */
export function ungroup(tree: TreeNode, id: string): Edit[] {
  const section = find(tree, id);
  const page = section && parentOf(tree, id);
  const before = page?.children[page.children.indexOf(section!) - 1];
  if (section?.kind !== 'section' || before?.kind !== 'section') return [];
  return [...section.children.map((row): Edit => ({ op: 'move', node: row.id, parent: before.id, at: 'last' })), { op: 'remove', node: id }];
}

const stemOf = (title: string) => {
  const [first = '', ...rest] = title.normalize('NFKD').replace(/[^A-Za-z0-9 ]/g, '').trim().split(/\s+/);
  const stem = first.toLowerCase() + rest.map((word) => word.charAt(0).toUpperCase() + word.slice(1).toLowerCase()).join('');
  return /^[a-z]/.test(stem) ? stem : 'section';
};
