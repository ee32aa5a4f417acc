import { textIn } from '../../shell/localTexts.ts';
import { find, isItem, nameOf, parentOf, walk, without, type Anchor, type Edit, type NewNode, type PropertyValue, type TreeNode } from './tree.ts';

/** The node that holds what a width has differently from the base; nothing where the width has no form of its own. */
export const variantOf = (tree: TreeNode, width: string): TreeNode | undefined => tree.children.find((child) => child.kind === 'variant' && child.properties['variant'] === width);

/** What a change of a variant stands for, as the edit it is. */
export function editOf(change: TreeNode): Edit {
  const { op, target, property, value, parent, at, sibling } = change.properties as Record<string, PropertyValue | undefined>;
  const anchor: Anchor = at === 'first' ? 'first' : at === 'before' ? { before: String(sibling) } : at === 'after' ? { after: String(sibling) } : 'last';
  switch (op) {
    case 'set':
      return { op: 'set', node: String(target), property: String(property), value: value ?? null };
    case 'remove':
      return { op: 'remove', node: String(target) };
    case 'move':
      return { op: 'move', node: String(target), parent: String(parent), at: anchor };
    default:
      return { op: 'insert', node: change.children[0]!, parent: String(parent), at: anchor };
  }
}

/** The tree as a width shows it: the base with the variant's changes over it. One that finds nothing to change is stranded, and changes nothing. */
export function applied(tree: TreeNode, variant: TreeNode | undefined): TreeNode {
  return (variant?.children ?? []).map(editOf).reduce(apply, tree);
}

/** The tree as it will be once an edit is done; the same where it cannot be. */
export function apply(tree: TreeNode, edit: Edit): TreeNode {
  if (edit.op === 'set') {
    const node = find(tree, edit.node);
    // The width of an item is that of the cell it stands alone in.
    const holder = node && edit.property === 'span' && isItem(node.kind) ? parentOf(tree, node.id) : node;
    if (!holder) return tree;
    const rest = Object.entries(holder.properties).filter(([name]) => name !== edit.property);
    return replaced(tree, { ...holder, properties: Object.fromEntries(edit.value === null ? rest : [...rest, [edit.property, edit.value]]) });
  }
  if (edit.op === 'remove') return without(tree, edit.node);
  const moved = edit.op === 'move' ? find(tree, edit.node) : whole(edit.node);
  const left = edit.op === 'move' ? without(tree, edit.node) : tree;
  const parent = find(left, edit.parent);
  if (!moved || !parent) return tree;
  const { at } = edit;
  const index = at === 'first' ? 0 : at === 'last' ? parent.children.length : parent.children.findIndex((child) => child.id === ('before' in at ? at.before : at.after)) + ('after' in at ? 1 : 0);
  return index < 0 ? tree : replaced(left, { ...parent, children: [...parent.children.slice(0, index), moved, ...parent.children.slice(index)] });
}

const whole = (node: NewNode): TreeNode => ({ id: node.id ?? '', kind: node.kind, properties: node.properties ?? {}, children: (node.children ?? []).map(whole) });

/** The tree with one node in the place of that with its id. Only what holds it is copied: a large form stays the objects it was. */
function replaced(node: TreeNode, by: TreeNode): TreeNode {
  if (node.id === by.id) return by;
  for (const [i, child] of node.children.entries()) {
    const next = replaced(child, by);
    if (next !== child) return { ...node, children: node.children.with(i, next) };
  }
  return node;
}

/** Edits made while a width is looked at, as edits of what the variant has differently: the base stays as it is. */
export function asChanges(tree: TreeNode, variant: TreeNode, edits: Edit[]): Edit[] {
  return edits.flatMap((edit): Edit[] => {
    if (edit.op !== 'set') return [{ op: 'insert', node: changeNode(edit), parent: variant.id, at: 'last' }];
    const node = find(tree, edit.node);
    // Named by what stands in the cell, as it is written in files.
    const target = edit.property === 'span' && node?.kind === 'cell' && node.children.length === 1 ? node.children[0]!.id : edit.node;
    const before = variant.children.find((child) => child.properties['op'] === 'set' && child.properties['property'] === edit.property && (child.properties['target'] === target || child.properties['target'] === edit.node));
    const base = (edit.property === 'span' && node && isItem(node.kind) ? parentOf(tree, node.id) : node)?.properties[edit.property] ?? null;
    const same = JSON.stringify(base) === JSON.stringify(edit.value);
    // Clearing what differs takes the difference back.
    if (before) return same || edit.value === null ? [{ op: 'remove', node: before.id }] : [{ op: 'set', node: before.id, property: 'value', value: edit.value }];
    return same ? [] : [{ op: 'insert', node: changeNode({ ...edit, node: target }), parent: variant.id, at: 'last' }];
  });
}

function changeNode(edit: Edit): NewNode {
  const place = (at: Anchor): Record<string, PropertyValue> => (at === 'first' ? { at } : at === 'last' ? {} : 'before' in at ? { at: 'before', sibling: at.before } : { at: 'after', sibling: at.after });
  switch (edit.op) {
    case 'set':
      return { kind: 'change', properties: { op: 'set', target: edit.node, property: edit.property, ...(edit.value === null ? {} : { value: edit.value }) } };
    case 'remove':
      return { kind: 'change', properties: { op: 'remove', target: edit.node } };
    case 'move':
      return { kind: 'change', properties: { op: 'move', target: edit.node, parent: edit.parent, ...place(edit.at) } };
    default:
      return { kind: 'change', properties: { op: 'insert', parent: edit.parent, ...place(edit.at) }, children: [edit.node] };
  }
}

/** Makes a width's own form: from everything, or with everything hidden that need not be filled in. */
export function beginVariant(tree: TreeNode, width: string, hiding: (field: string) => boolean): Edit {
  const hidden = [...walk(tree)].filter((node) => node.kind === 'field' && hiding(String(node.properties['field'])));
  return { op: 'insert', node: { kind: 'variant', properties: { variant: width }, children: hidden.map((node) => changeNode({ op: 'set', node: node.id, property: 'hidden', value: true })) }, parent: tree.id, at: 'last' };
}

/** A difference from the base, in words. */
export function tell(change: TreeNode, tree: TreeNode, labels: Map<string, string>, language: string): string {
  const edit = editOf(change);
  const name = (id: string) => { const node = find(tree, id); return node ? nameOf(node, labels, language) : `${id} (not there any more)`; };
  switch (edit.op) {
    case 'set':
      return edit.property === 'hidden' ? (edit.value === true ? `${name(edit.node)} is hidden` : `${name(edit.node)} is shown`) : edit.value === null ? `${edit.property} of ${name(edit.node)} is as usual` : `${edit.property} of ${name(edit.node)} is ${textIn(edit.value, language)}`;
    case 'remove':
      return `${name(edit.node)} is taken off`;
    case 'move':
      return `${name(edit.node)} is moved`;
    default:
      return `${nameOf(whole(edit.node), labels, language)} is added`;
  }
}

/**
 * What a width has differently in one layout, for another: parts are told by the field they show, others by their id. What has no match there is
 * left out and named.
 */
export function carried(variant: TreeNode, from: TreeNode, to: TreeNode): { changes: NewNode[]; strays: string[] } {
  const strays = new Set<string>();
  const counterpart = (id: string): string | undefined => {
    const node = find(from, id);
    const field = node?.properties['field'] ?? node?.properties['column'];
    const match = field === undefined ? find(to, id) : [...walk(to)].find((each) => (each.properties['field'] ?? each.properties['column']) === field);
    if (!match || (node && match.kind !== node.kind)) strays.add(String(field ?? id));
    return match && (!node || match.kind === node.kind) ? match.id : undefined;
  };
  const changes = variant.children.flatMap((change): NewNode[] => {
    const edit = editOf(change);
    const named: Record<string, string | undefined> = {};
    for (const part of ['target', 'parent', 'sibling']) if (typeof change.properties[part] === 'string') named[part] = counterpart(change.properties[part]);
    // A part that is added brings itself; where it would show what is not there, it is a stray too.
    if (edit.op === 'insert' && !find(to, String(change.properties['parent']))) strays.add(String(edit.node.id ?? edit.node.kind));
    return Object.values(named).some((each) => each === undefined) ? [] : [{ kind: 'change', properties: { ...change.properties, ...(named as Record<string, string>) }, children: change.children }];
  });
  return { changes, strays: [...strays] };
}
