import { changeOf, editOf, find, walk, type Edit, type NewNode, type TreeNode } from '#layout';
import type { Session } from '../../api/client.ts';
import { textIn } from '../../shell/localTexts.ts';
import { nameOf } from './names.ts';
import { say } from '../../shell/configurator/texts.ts';

export type WidthInfo = Session['application']['widths'][number];

/** A width in pixels, as people think of windows. */
export const rangeOf = ({ from, below }: WidthInfo) =>
  below === null || below === undefined
    ? say('widthRange.from', from * 16)
    : from === 0
      ? say('widthRange.upTo', below * 16 - 1)
      : say('widthRange.between', from * 16, below * 16 - 1);

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
  if (!edit) return say('variants.aChangeThatSaysToo');
  const name = (id: string) => {
    const node = find(tree, id);
    return node ? nameOf(node, labels, language) : say('variants.notThereAnyMore', id);
  };
  switch (edit.op) {
    case 'set':
      return edit.property === 'hidden'
        ? edit.value === true
          ? say('variants.isHidden', name(edit.node))
          : say('variants.isShown', name(edit.node))
        : edit.value === null
          ? say('variants.ofIsAsUsual', edit.property, name(edit.node))
          : say('variants.ofIs', edit.property, name(edit.node), textIn(edit.value, language));
    case 'remove':
      return say('variants.isTakenOff', name(edit.node));
    case 'move':
      return say('variants.isMoved', name(edit.node));
    default:
      return say('variants.isAdded', nameOf(change.children[0]!, labels, language));
  }
}

/**
 * What a width has differently in one layout, for another: parts are told by the field they show, others by their id. What has no match
 * there is
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
