import { limits, order } from './grammar.gen.ts';
import { isId, withIds } from './ids.ts';
import { isChangeMalformed, misshapen, propertyOf, refusal, singleIn } from './shape.ts';
import {
  parentOf,
  pathTo,
  replaced,
  walk,
  without,
  type Anchor,
  type Edit,
  type NewNode,
  type PropertyValue,
  type TreeNode,
} from './tree.ts';

/** What became of edits: the new tree, the edits as they were applied (ids filled in) and those that undo them; or why none was. */
export type ApplyOutcome =
  { tree: TreeNode; done: Edit[]; inverse: Edit[]; refused?: undefined } | { tree?: undefined; refused: string; index: number };

type Outcome = { tree: TreeNode; done: Edit; inverse: Edit } | string;

/**
 * Applies all edits, in order, or none, as the service does (the core's EditApplier; tests/vectors/edits holds both to the same). What a
 * property's value
 * may be, only the service decides.
 */
export function apply(tree: TreeNode, edits: readonly Edit[]): ApplyOutcome {
  if (edits.length > limits.edits) return { refused: 'change-too-long', index: limits.edits };
  const [done, inverse]: [Edit[], Edit[]] = [[], []];
  let at = tree;
  for (const [index, edit] of edits.entries()) {
    const outcome = applyOne(at, edit);
    if (typeof outcome === 'string') return { refused: outcome, index };
    at = outcome.tree;
    done.push(outcome.done);
    inverse.unshift(outcome.inverse);
  }
  return { tree: at, done, inverse };
}

/** The tree as it will be once an edit is done; the same where it cannot be. */
export function applied(tree: TreeNode, edit: Edit): TreeNode {
  const outcome = applyOne(tree, edit);
  return typeof outcome === 'string' ? tree : outcome.tree;
}

function applyOne(tree: TreeNode, edit: Edit): Outcome {
  switch (edit.op) {
    case 'insert':
      return insert(tree, edit);
    case 'remove':
      return remove(tree, edit);
    case 'move':
      return move(tree, edit);
    default:
      return set(tree, edit);
  }
}

const depthOf = (node: NewNode): number => 1 + Math.max(0, ...(node.children ?? []).map(depthOf));

function insert(tree: TreeNode, edit: Extract<Edit, { op: 'insert' }>): Outcome {
  const path = pathTo(tree, edit.parent);
  const parent = path.at(-1);
  if (!parent) return 'node-missing';
  const refused = refusal(parent, edit.node);
  if (refused) return refused;
  const nodes = [...walk(edit.node)];
  const given = nodes.flatMap((node) => (node.id ? [node.id] : []));
  const used = new Set([...walk(tree)].map((node) => node.id));
  if (given.some((id) => used.has(id)) || new Set(given).size < given.length) return 'id-taken';
  if (!given.every(isId)) return 'id-malformed';
  if (nodes.some(misshapen)) return 'node-malformed';
  if (used.size + nodes.length > limits.nodes) return 'layout-too-large';
  if (path.length + depthOf(edit.node) > limits.depth) return 'too-deep';
  const place = placeOf(parent, edit.at);
  if (place < 0) return 'anchor-missing';
  const node = withIds(edit.node, used);
  return { tree: hung(tree, parent, node, place), done: { ...edit, node }, inverse: { op: 'remove', node: node.id } };
}

function remove(tree: TreeNode, edit: Extract<Edit, { op: 'remove' }>): Outcome {
  const path = pathTo(tree, edit.node);
  const [node, parent] = [path.at(-1), path.at(-2)];
  if (!node) return 'node-missing';
  if (!parent || parent.kind === 'change') return 'cannot-remove';
  // What extends another layout has its body from there.
  if (node.kind === 'body' && tree.properties['extends'] === undefined) return 'cannot-remove';
  return { tree: without(tree, node.id), done: edit, inverse: { op: 'insert', node, parent: parent.id, at: anchorOf(parent, node.id) } };
}

function move(tree: TreeNode, edit: Extract<Edit, { op: 'move' }>): Outcome {
  const path = pathTo(tree, edit.node);
  const [node, from] = [path.at(-1), path.at(-2)];
  const above = pathTo(tree, edit.parent);
  const parent = above.at(-1);
  if (!node || !parent) return 'node-missing';
  if (!from || (from.kind === 'change' && from.id !== parent.id)) return 'cannot-move';
  if (above.some((each) => each.id === node.id)) return 'cycle';
  const refused = from.id === parent.id ? undefined : refusal(parent, node);
  if (refused) return refused;
  if (typeof edit.at === 'object' && ('before' in edit.at ? edit.at.before : edit.at.after) === node.id) return 'anchor-itself';
  if (from.id !== parent.id && above.length + depthOf(node) > limits.depth) return 'too-deep';
  const left = without(tree, node.id);
  const rest = from.id === parent.id ? { ...parent, children: parent.children.filter((child) => child.id !== node.id) } : parent;
  const place = placeOf(rest, edit.at);
  if (place < 0) return 'anchor-missing';
  const holder = pathTo(left, parent.id).at(-1)!;
  return {
    tree: hung(left, holder, node, place),
    done: edit,
    inverse: { op: 'move', node: node.id, parent: from.id, at: anchorOf(from, node.id) },
  };
}

function set(tree: TreeNode, edit: Extract<Edit, { op: 'set' }>): Outcome {
  const node = pathTo(tree, edit.node).at(-1);
  if (!node) return 'node-missing';
  const rule = propertyOf(node, edit.property);
  if (!rule) return 'property-unknown';
  if (edit.value === null && rule.required) return 'property-required';
  const before = node.properties[edit.property];
  if (node.kind === 'layout' && edit.property === 'kind' && !same(edit.value, before ?? null)) return 'kind-fixed';
  if (
    node.kind === 'layout' &&
    edit.property === 'extends' &&
    edit.value === null &&
    hasBody(node) &&
    !node.children.some((child) => child.kind === 'body')
  )
    return 'body-needed';
  // A default is kept as absence, so that one layout has one form.
  const value = same(edit.value, rule.default) ? null : edit.value;
  const next = withProperty(node, edit.property, value);
  if (isChangeMalformed(next)) return 'change-malformed';
  if (node.kind === 'variant' && edit.property === 'variant') {
    const others = parentOf(tree, node.id)!.children.filter((child) => child.id !== node.id);
    if (others.some((other) => singleIn(tree, other) === singleIn(tree, next))) return 'only-one';
  }
  return { tree: replaced(tree, next), done: edit, inverse: { ...edit, value: before ?? null } };
}

/** Whether a layout of this kind has a body. */
const hasBody = (layout: TreeNode) => refusal({ ...layout, children: [] }, { kind: 'body' }) === undefined;

const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

function withProperty(node: TreeNode, property: string, value: PropertyValue | null): TreeNode {
  const rest = Object.fromEntries(Object.entries(node.properties).filter(([name]) => name !== property));
  return { ...node, properties: value === null ? rest : { ...rest, [property]: value } };
}

function hung(tree: TreeNode, parent: TreeNode, node: TreeNode, place: number): TreeNode {
  return replaced(tree, { ...parent, children: parent.children.toSpliced(inOrder(parent, node, place), 0, node) });
}

/** The parts of a layout have one order, whatever is asked: top, body, bottom, and so on; within a kind the place stands. */
function inOrder(parent: TreeNode, node: TreeNode, place: number): number {
  if (parent.kind !== 'layout') return place;
  const [at, ranks] = [order.indexOf(node.kind), parent.children.map((child) => order.indexOf(child.kind))];
  return Math.min(Math.max(place, ranks.filter((rank) => rank < at).length), ranks.filter((rank) => rank <= at).length);
}

/** Where among a parent's children an anchor is; -1 where what it names is not there. */
function placeOf(parent: TreeNode, at: Anchor): number {
  if (at === 'first') return 0;
  if (at === 'last') return parent.children.length;
  const index = parent.children.findIndex((child) => child.id === ('before' in at ? at.before : at.after));
  return index < 0 || 'before' in at ? index : index + 1;
}

function anchorOf(parent: TreeNode, child: string): Anchor {
  const index = parent.children.findIndex((each) => each.id === child);
  return index === 0 ? 'first' : { after: parent.children[index - 1]!.id };
}
