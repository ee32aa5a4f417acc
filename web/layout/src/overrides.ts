import { apply, type ApplyOutcome } from './apply.ts';
import { withIds } from './ids.ts';
import { propertyOf } from './shape.ts';
import { find, parentOf, walk, type Anchor, type Edit, type NewNode, type PropertyValue, type TreeNode } from './tree.ts';

/**
 * Changes laid over what they are made for: those of a width over the base, those of a layout over what it extends. The core's
 * OverrideApplier and
 * OverrideEdits do the same; tests/vectors/overrides holds both to it.
 */

/** The node that holds what a width has differently from the base; nothing where the width has no form of its own. */
export const variantOf = (tree: TreeNode, width: string): TreeNode | undefined =>
  tree.children.find((child) => child.kind === 'variant' && child.properties['variant'] === width);

/** The changes among a node's children, in their order. */
export const changesOf = (holder: TreeNode | undefined): TreeNode[] => (holder?.children ?? []).filter((child) => child.kind === 'change');

const words = (change: TreeNode | NewNode) => (change.properties ?? {}) as Record<string, string | undefined>;

/**
 * The edit a change stands for over a tree; nothing where it lacks what its operation needs. A lost neighbour gives way: the change still
 * holds, at the end.
 */
export function editOf(change: TreeNode, over: TreeNode): Edit | undefined {
  const { op, target, property, parent } = words(change);
  const at = (holder: string): Anchor => {
    const { at: where, sibling } = words(change);
    const there = sibling !== undefined && parentOf(over, sibling)?.id === holder;
    return where === 'first'
      ? 'first'
      : there && where === 'before'
        ? { before: sibling }
        : there && where === 'after'
          ? { after: sibling }
          : 'last';
  };
  if (op === 'set')
    return target !== undefined && property !== undefined
      ? { op, node: holderOf(over, target, property), property, value: change.properties['value'] ?? null }
      : undefined;
  if (op === 'remove') return target !== undefined ? { op, node: target } : undefined;
  if (parent === undefined) return undefined;
  if (op === 'move') return target !== undefined ? { op, node: target, parent, at: at(parent) } : undefined;
  return op === 'insert' && change.children.length === 1 ? { op, node: change.children[0]!, parent, at: at(parent) } : undefined;
}

/** Placement of an item that stands alone in its cell is the cell's. */
function holderOf(tree: TreeNode, id: string, property: string): string {
  const node = find(tree, id);
  const cell = parentOf(tree, id);
  return node && cell?.kind === 'cell' && cell.children.length === 1 && !propertyOf(node, property) && propertyOf(cell, property)
    ? cell.id
    : id;
}

/** A tree with changes laid over it, in order; and those that found nothing to hold on to, which change nothing. */
export function laid(tree: TreeNode, changes: readonly TreeNode[]): { tree: TreeNode; orphaned: TreeNode[] } {
  const orphaned: TreeNode[] = [];
  let at = tree;
  for (const change of changes) {
    const edit = editOf(change, at);
    const outcome = edit && apply(at, [edit]);
    if (outcome?.tree) at = outcome.tree;
    else orphaned.push(change);
  }
  return { tree: at, orphaned };
}

/** The tree as a width shows it: the base with the variant's changes over it. */
export const atWidth = (tree: TreeNode, variant: TreeNode | undefined): TreeNode => laid(tree, changesOf(variant)).tree;

/**
 * A derived layout as it is drawn: what it extends with its own changes over it, under its own name. The widths of what it extends are that
 * layout's to change.
 */
export function derived(under: TreeNode, own: TreeNode): TreeNode {
  const whole = laid(beneath(under, own), changesOf(own)).tree;
  return { ...whole, children: [...whole.children, ...own.children.filter((child) => child.kind === 'variant')] };
}

/** What a derived layout's changes are laid over. What it says of the form itself stands. */
const beneath = (under: TreeNode, own: TreeNode): TreeNode => ({
  ...bare(under),
  id: own.id,
  properties: { ...under.properties, ...own.properties },
});

/** A layout without what is laid over it. */
export const bare = (tree: TreeNode): TreeNode => ({ ...tree, children: tree.children.filter((child) => !isLaid(child.kind)) });

const isLaid = (kind: string) => kind === 'variant' || kind === 'change';

/** The node of a change that stands for an edit; the opposite of {@link editOf}. */
export function changeOf(edit: Edit): NewNode {
  const place = (at: Anchor): Record<string, PropertyValue> =>
    at === 'first'
      ? { at }
      : at === 'last'
        ? {}
        : 'before' in at
          ? { at: 'before', sibling: at.before }
          : { at: 'after', sibling: at.after };
  switch (edit.op) {
    case 'set':
      return {
        kind: 'change',
        properties: { op: 'set', target: edit.node, property: edit.property, ...(edit.value === null ? {} : { value: edit.value }) },
      };
    case 'remove':
      return { kind: 'change', properties: { op: 'remove', target: edit.node } };
    case 'move':
      return { kind: 'change', properties: { op: 'move', target: edit.node, parent: edit.parent, ...place(edit.at) } };
    default:
      return { kind: 'change', properties: { op: 'insert', parent: edit.parent, ...place(edit.at) }, children: [edit.node] };
  }
}

/** What plain edits are made over: a width of the layout, what it extends, or both. */
export interface EditTarget {
  width?: string | undefined;
  /** What a derived layout extends, put together. */
  under?: TreeNode | undefined;
}

/** What changes are laid over, by which node they are held (nothing where a width has no form of its own), and what is seen with them. */
function readTarget(tree: TreeNode, { width, under }: EditTarget): { holder: TreeNode | undefined; base: TreeNode; seen: TreeNode } {
  const holder = width !== undefined ? variantOf(tree, width) : under ? tree : undefined;
  const own = under ? beneath(under, tree) : bare(tree);
  const base = under && width !== undefined ? laid(own, changesOf(tree)).tree : own;
  return { holder, base, seen: laid(base, changesOf(holder)).tree };
}

/** The layout as it is seen at a width, or over what it extends. */
export const seenOver = (tree: TreeNode, over: EditTarget): TreeNode => readTarget(tree, over).seen;

/**
 * Plain edits of a layout as it is seen at a width, or over what it extends, as edits of what it has differently: the base, and the layout
 * under it, stay
 * as they are. Where neither is given they are the edits themselves.
 */
export function applyOver(tree: TreeNode, edits: readonly Edit[], { width, under }: EditTarget): ApplyOutcome {
  const [done, inverse]: [Edit[], Edit[]] = [[], []];
  let at = tree;
  for (const [index, edit] of edits.entries()) {
    const own = ownEdits(at, edit, width, under);
    if (typeof own === 'string') return { refused: own, index };
    for (const each of own) {
      // The variant that is made for a width has no id before it is there.
      const outcome = apply(at, [each.op === 'insert' && each.parent === '' ? { ...each, parent: variantOf(at, width!)!.id } : each]);
      if (!outcome.tree) return { refused: outcome.refused, index };
      at = outcome.tree;
      done.push(...outcome.done);
      inverse.unshift(...outcome.inverse);
    }
  }
  return { tree: at, done, inverse };
}

const idsOf = (tree: TreeNode) => [...walk(tree)].map((node) => node.id);

/** One edit as edits of the layout itself; or why it cannot be done to what is seen. A width that has no form of its own gets one. */
function ownEdits(tree: TreeNode, edit: Edit, width: string | undefined, under: TreeNode | undefined): Edit[] | string {
  if (width === undefined && !under) return [edit];
  const named = edit.op === 'insert' ? edit.parent : edit.node;
  // What stands in a width's form is seen at that width alone; elsewhere it is named as what it is.
  const inside = (variant: TreeNode) => (width === undefined ? [...walk(variant)] : variant.children).some((node) => node.id === named);
  const isOwn = tree.children.some((child) => isLaid(child.kind) && (child.id === named || (child.kind === 'variant' && inside(child))));
  if (isOwn || (edit.op === 'insert' && isLaid(edit.node.kind)) || (width === undefined && edit.op === 'set' && edit.node === tree.id))
    return [edit];

  const { holder, base, seen } = readTarget(tree, { width, under });
  const plain: Edit = edit.op === 'insert' ? { ...edit, node: withIds(edit.node, [...idsOf(seen), ...idsOf(tree)]) } : edit;
  // What is seen has a body, whoever's it is.
  if (plain.op === 'remove' && find(seen, plain.node)?.kind === 'body') return 'cannot-remove';
  const tried = apply(seen, [plain.op === 'set' ? { ...plain, node: holderOf(seen, plain.node, plain.property) } : plain]);
  if (!tried.tree) return tried.refused;
  const first: Edit[] = holder
    ? []
    : [{ op: 'insert', node: { kind: 'variant', properties: { variant: width! } }, parent: tree.id, at: 'last' }];
  const changing = changeEdits(changesOf(holder), holder?.id ?? '', { base, seen }, plain);
  return changing.length > 0 ? [...first, ...changing] : [];
}

/** One edit as edits of the changes that are laid over a base. */
function changeEdits(changes: TreeNode[], holder: string, over: { base: TreeNode; seen: TreeNode }, edit: Edit): Edit[] {
  const add = (change: Edit): Edit => ({ op: 'insert', node: changeOf(change), parent: holder, at: 'last' });
  const insertionOf = (id: string) =>
    changes.find((change) => change.children.some((child) => [...walk(child)].some((node) => node.id === id)));
  switch (edit.op) {
    case 'insert':
      return [insertionOf(edit.parent) ? edit : add(edit)];
    case 'remove': {
      const change = insertionOf(edit.node);
      if (!change) return [add(edit)];
      return change.children[0]!.id === edit.node ? removalOf(changes, change) : [edit];
    }
    case 'move': {
      const change = insertionOf(edit.node);
      if (change && insertionOf(edit.parent) === change && change.children[0]!.id !== edit.node) return [edit];
      const last = changes.at(-1);
      // What was only just put somewhere is put elsewhere instead.
      if (change && change === last && change.children[0]!.id === edit.node)
        return [{ op: 'remove', node: last.id }, add({ op: 'insert', node: change.children[0]!, parent: edit.parent, at: edit.at })];
      return last && words(last)['op'] === 'move' && words(last)['target'] === edit.node
        ? [{ op: 'remove', node: last.id }, add(edit)]
        : [add(edit)];
    }
    default:
      return setEdits(changes, over, edit, insertionOf(edit.node), add);
  }
}

/** Takes back a change that inserts, with those that are about what it inserted. */
function removalOf(changes: TreeNode[], change: TreeNode): Edit[] {
  const removed = new Set([...walk(change.children[0]!)].map((node) => node.id));
  const about = changes.filter(
    (each) => each !== change && [words(each)['target'], words(each)['parent']].some((id) => id !== undefined && removed.has(id)),
  );
  return [...about, change].map((each) => ({ op: 'remove', node: each.id }));
}

function setEdits(
  changes: TreeNode[],
  { base, seen }: { base: TreeNode; seen: TreeNode },
  edit: Extract<Edit, { op: 'set' }>,
  maker: TreeNode | undefined,
  add: (change: Edit) => Edit,
): Edit[] {
  const { property, value } = edit;
  if (maker) {
    const direct = holderOf(maker, edit.node, property);
    if (propertyOf(find(maker, direct)!, property)) return [{ ...edit, node: direct }];
  }
  const node = find(seen, edit.node);
  const only = node?.kind === 'cell' && node.children.length === 1 ? node.children[0]! : undefined;
  // Named by what stands in the cell, as it is written in files.
  const target = only && propertyOf(node!, property) && !propertyOf(only, property) ? only.id : edit.node;
  const before = changes.findLast(
    (change) =>
      words(change)['op'] === 'set' &&
      words(change)['property'] === property &&
      [target, edit.node].includes(words(change)['target'] ?? ''),
  );
  const held = find(base, holderOf(base, target, property));
  const standard = held && propertyOf(held, property)?.default;
  const plain = (given: PropertyValue | null) => (given === null || JSON.stringify(given) === JSON.stringify(standard) ? null : given);
  const same = held !== undefined && JSON.stringify(plain(held.properties[property] ?? null)) === JSON.stringify(plain(value));
  // Clearing what differs takes the difference back.
  if (before)
    return same || value === null ? [{ op: 'remove', node: before.id }] : [{ op: 'set', node: before.id, property: 'value', value }];
  return same ? [] : [add({ ...edit, node: target })];
}
