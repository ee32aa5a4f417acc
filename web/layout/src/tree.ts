/** A layout's nodes as the service writes them (docs/api.md). A changed node is a new one; what did not change stays the object it was. */
export interface TreeNode {
  id: string;
  kind: Kind;
  properties: Record<string, PropertyValue>;
  children: TreeNode[];
}

export type Kind =
  | 'layout'
  | 'slot'
  | 'top'
  | 'start'
  | 'body'
  | 'end'
  | 'bottom'
  | 'page'
  | 'section'
  | 'row'
  | 'cell'
  | 'column'
  | 'variant'
  | 'change'
  | 'field'
  | 'heading'
  | 'text'
  | 'divider'
  | 'spacer'
  | 'image'
  | 'link'
  | 'action'
  | 'related'
  | 'panel'
  | 'piece';

/** A word, number or truth value; texts in several languages are maps from tag to text. */
export type PropertyValue = string | number | boolean | string[] | Record<string, string>;

/** Where among a parent's children something goes; siblings are named by id, never by index. */
export type Anchor = 'first' | 'last' | { before: string } | { after: string };

/** A node that is to be inserted; those without an id are given one. */
export interface NewNode {
  id?: string;
  kind: Kind;
  properties?: Record<string, PropertyValue>;
  children?: NewNode[];
}

/** One change of a layout. There are these four and no others. */
export type Edit =
  | { op: 'insert'; node: NewNode; parent: string; at: Anchor }
  | { op: 'remove'; node: string }
  | { op: 'move'; node: string; parent: string; at: Anchor }
  | { op: 'set'; node: string; property: string; value: PropertyValue | null };

const itemKinds: readonly Kind[] = [
  'field',
  'heading',
  'text',
  'divider',
  'spacer',
  'image',
  'link',
  'action',
  'related',
  'panel',
  'piece',
];

export const isItem = (kind: Kind) => itemKinds.includes(kind);

/** Whether a layout is a list: its parts are columns. */
export const isList = (tree: TreeNode) => tree.properties['kind'] === 'list';

/** A node and all below it, in reading order. */
export function* walk<T extends { children?: T[] }>(node: T): Generator<T> {
  const waiting = [node];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    yield next;
    const children = next.children ?? [];
    for (let i = children.length - 1; i >= 0; i--) waiting.push(children[i]!);
  }
}

/** From the root to the node, both included; empty when it is not there. */
export function pathTo(tree: TreeNode, id: string): TreeNode[] {
  const path: TreeNode[] = [];
  const leads = (node: TreeNode): boolean => {
    path.push(node);
    if (node.id === id || node.children.some(leads)) return true;
    path.pop();
    return false;
  };
  leads(tree);
  return path;
}

export const find = (tree: TreeNode, id: string): TreeNode | undefined => pathTo(tree, id).at(-1);
export const parentOf = (tree: TreeNode, id: string): TreeNode | undefined => pathTo(tree, id).at(-2);
export const ancestorOf = (tree: TreeNode, id: string, kind: Kind): TreeNode | undefined =>
  pathTo(tree, id).findLast((node) => node.kind === kind);

/** The tree without a node; the same where it is not there. Only what held it is copied. */
export function without(node: TreeNode, id: string): TreeNode {
  const at = node.children.findIndex((child) => child.id === id);
  if (at >= 0) return { ...node, children: node.children.toSpliced(at, 1) };
  for (const [i, child] of node.children.entries()) {
    const next = without(child, id);
    if (next !== child) return { ...node, children: node.children.with(i, next) };
  }
  return node;
}

/** The tree with one node in the place of that with its id. Only what holds it is copied: a large form stays the objects it was. */
export function replaced(node: TreeNode, by: TreeNode): TreeNode {
  if (node.id === by.id) return by;
  for (const [i, child] of node.children.entries()) {
    const next = replaced(child, by);
    if (next !== child) return { ...node, children: node.children.with(i, next) };
  }
  return node;
}
