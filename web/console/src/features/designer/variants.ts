import { changeOf, editOf, find, walk, type Edit, type NewNode, type TreeNode } from '#layout';
import { textIn } from '../../shell/localTexts.ts';
import { nameOf } from './names.ts';

/** Makes a width's own form: from everything, or with everything hidden that need not be filled in. */
export function beginVariant(tree: TreeNode, width: string, hiding: (field: string) => boolean): Edit {
  const hidden = [...walk(tree)].filter((node) => node.kind === 'field' && hiding(String(node.properties['field'])));
  return {
    op: 'insert',
    node: {
      kind: 'variant',
      properties: { variant: width },
      children: hidden.map((node) => changeOf({ op: 'set', node: node.id, property: 'hidden', value: true })),
    },
    parent: tree.id,
    at: 'last',
  };
}

/** A difference from the base, in words. */
export function describeOverride(change: TreeNode, tree: TreeNode, labels: Map<string, string>, language: string): string {
  const edit = editOf(change, tree);
  if (!edit) return 'A change that says too little';
  const name = (id: string) => {
    const node = find(tree, id);
    return node ? nameOf(node, labels, language) : `${id} (not there any more)`;
  };
  switch (edit.op) {
    case 'set':
      return edit.property === 'hidden'
        ? edit.value === true
          ? `${name(edit.node)} is hidden`
          : `${name(edit.node)} is shown`
        : edit.value === null
          ? `${edit.property} of ${name(edit.node)} is as usual`
          : `${edit.property} of ${name(edit.node)} is ${textIn(edit.value, language)}`;
    case 'remove':
      return `${name(edit.node)} is taken off`;
    case 'move':
      return `${name(edit.node)} is moved`;
    default:
      return `${nameOf(change.children[0]!, labels, language)} is added`;
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
    const match =
      field === undefined ? find(to, id) : [...walk(to)].find((each) => (each.properties['field'] ?? each.properties['column']) === field);
    if (!match || (node && match.kind !== node.kind)) strays.add(String(field ?? id));
    return match && (!node || match.kind === node.kind) ? match.id : undefined;
  };
  const changes = variant.children.flatMap((change): NewNode[] => {
    const edit = editOf(change, from);
    if (!edit) return [];
    const named: Record<string, string | undefined> = {};
    for (const part of ['target', 'parent', 'sibling'])
      if (typeof change.properties[part] === 'string') named[part] = counterpart(change.properties[part]);
    // A part that is added brings itself; where it would show what is not there, it is a stray too.
    if (edit.op === 'insert' && !find(to, String(change.properties['parent']))) strays.add(String(edit.node.id ?? edit.node.kind));
    return Object.values(named).some((each) => each === undefined)
      ? []
      : [{ kind: 'change', properties: { ...change.properties, ...(named as Record<string, string>) }, children: change.children }];
  });
  return { changes, strays: [...strays] };
}
