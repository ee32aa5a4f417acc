import { textIn } from '../../shell/localTexts.ts';

/** A draft's nodes as the service writes them (docs/api.md). */
export interface TreeNode {
  id: string;
  kind: Kind;
  properties: Record<string, PropertyValue>;
  children: TreeNode[];
}

export type Kind =
  | 'layout' | 'slot' | 'top' | 'start' | 'body' | 'end' | 'bottom' | 'page' | 'section' | 'row' | 'cell' | 'column' | 'variant' | 'change'
  | 'field' | 'heading' | 'text' | 'divider' | 'spacer' | 'image' | 'link' | 'action' | 'related' | 'panel' | 'piece';

/** A word, number or truth value; texts in several languages are maps from tag to text. */
export type PropertyValue = string | number | boolean | string[] | Record<string, string>;

export type Anchor = 'first' | 'last' | { before: string } | { after: string };

/** A node that is to be inserted; those without an id are given one by the service. */
export interface NewNode {
  id?: string;
  kind: Kind;
  properties?: Record<string, PropertyValue>;
  children?: NewNode[];
}

export type Edit =
  | { op: 'insert'; node: NewNode; parent: string; at: Anchor }
  | { op: 'remove'; node: string }
  | { op: 'move'; node: string; parent: string; at: Anchor }
  | { op: 'set'; node: string; property: string; value: PropertyValue | null };

const itemKinds: Kind[] = ['field', 'heading', 'text', 'divider', 'spacer', 'image', 'link', 'action', 'related', 'panel', 'piece'];
const nouns: Record<string, string> = { full: 'form', short: 'short form', card: 'card', list: 'list', print: 'print layout', piece: 'piece' };

/** What a layout of this kind is called. */
export const nounOf = (tree: TreeNode): string => nouns[String(tree.properties['kind'] ?? 'full')] ?? 'form';

/** Whether a layout is a list: its parts are columns. */
export const isList = (tree: TreeNode) => tree.properties['kind'] === 'list';

export const isItem = (kind: Kind) => itemKinds.includes(kind);

/** A node and all below it, in reading order. */
export function* walk(node: TreeNode): Generator<TreeNode> {
  const waiting = [node];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    yield next;
    for (let i = next.children.length - 1; i >= 0; i--) waiting.push(next.children[i]!);
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
export const ancestorOf = (tree: TreeNode, id: string, kind: Kind): TreeNode | undefined => pathTo(tree, id).findLast((node) => node.kind === kind);

/** The tree without a node. Only what held it is copied: a large form stays the objects it was. */
export function without(node: TreeNode, id: string): TreeNode {
  const at = node.children.findIndex((child) => child.id === id);
  if (at >= 0) return { ...node, children: node.children.toSpliced(at, 1) };
  for (const [i, child] of node.children.entries()) {
    const next = without(child, id);
    if (next !== child) return { ...node, children: node.children.with(i, next) };
  }
  return node;
}

/** An id like a stem that no node of the tree has. */
export function freshId(tree: TreeNode, stem: string, also: string[] = []): string {
  const taken = new Set([...walk(tree)].map((node) => node.id).concat(also));
  let id = stem;
  for (let number = 2; taken.has(id); number++) id = `${stem}${number}`;
  return id;
}

/** What a person calls a node. */
export function nameOf(node: TreeNode, labels: Map<string, string>, language: string): string {
  switch (node.kind) {
    case 'field': {
      const key = String(node.properties['field']);
      return textIn(node.properties['label'], language) || (labels.get(key) ?? key);
    }
    case 'heading':
    case 'text':
      return textIn(node.properties[node.kind], language) || node.kind;
    case 'page':
    case 'section':
      return textIn(node.properties['title'], language) || `Untitled ${node.kind === 'page' ? 'tab' : 'section'}`;
    case 'row':
    case 'cell': {
      const [first, second] = [...walk(node)].filter((each) => isItem(each.kind));
      // What holds one thing is called like it.
      return !first ? `Empty ${node.kind}` : second ? `${node.kind === 'row' ? 'Row' : 'Cell'} of ${nameOf(first, labels, language)}` : nameOf(first, labels, language);
    }
    case 'column': {
      const key = String(node.properties['column']);
      return textIn(node.properties['label'], language) || (labels.get(key) ?? key);
    }
    case 'layout':
      return nounOf(node)[0]!.toUpperCase() + nounOf(node).slice(1);
    default:
      return textIn(node.properties['label'], language) || String(node.properties[node.kind] ?? '') || { top: 'Top band', bottom: 'Bottom band', start: 'Column before', end: 'Column behind', body: 'Body' }[node.kind as 'top'] || node.kind;
  }
}

/** The property that says what a node is called, for those that can be named where they stand. */
export function namingProperty(kind: Kind): string | undefined {
  const named: Partial<Record<Kind, string>> = { field: 'label', column: 'label', page: 'title', section: 'title', heading: 'heading', text: 'text', link: 'label', action: 'label', related: 'label', top: 'text', bottom: 'text' };
  return named[kind];
}

/** A word with its article. */
export const a = (word: string) => `${/^[aeiou]/.test(word) ? 'an' : 'a'} ${word}`;
