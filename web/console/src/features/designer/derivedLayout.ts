import { useCallback, useEffect, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { useHappenings } from '../../shell/hooks.ts';
import { walk, type Edit, type TreeNode } from './tree.ts';
import { applied, asChanges } from './variants.ts';

/** What a derived layout rests on: the key it extends, and that layout put together. */
export interface Under {
  key: string;
  tree: TreeNode;
}

/** A layout's own changes of what it extends, as what they are: children of it. */
export const holderOf = (tree: TreeNode): TreeNode => ({ ...tree, children: tree.children.filter((child) => child.kind === 'change') });

/** A derived layout as it is drawn: what it extends with its own changes over it, under its own name. The widths of what it extends are that layout's to change. */
export function derived(under: TreeNode, own: TreeNode): TreeNode {
  const whole = applied(under, holderOf(own));
  return { ...whole, id: own.id, properties: { ...whole.properties, ...own.properties }, children: [...whole.children.filter((child) => child.kind !== 'variant'), ...own.children.filter((child) => child.kind === 'variant')] };
}

/** Edits made on a derived layout as it is drawn, as edits of what it has differently; its own name and settings are its own. */
export function asOwn(under: TreeNode, own: TreeNode, edits: Edit[]): Edit[] {
  const direct = (edit: Edit) => (edit.op === 'set' && edit.node === own.id) || (edit.op === 'insert' && edit.node.kind === 'variant') || ('node' in edit && typeof edit.node === 'string' && [...walk({ ...own, children: own.children.filter((child) => child.kind === 'variant') })].some((node) => node.id === edit.node && node.id !== own.id));
  return edits.flatMap((edit) => (direct(edit) ? [edit] : asChanges(under, holderOf(own), [edit])));
}

async function read(key: string, met: readonly string[] = []): Promise<TreeNode> {
  const tree = (await answer(api.GET('/api/layouts/{key}', { params: { path: { key } } }))).tree as unknown as TreeNode;
  const next = tree.properties['extends'];
  return typeof next === 'string' && !met.includes(next) ? derived(await read(next, [...met, key]), tree) : tree;
}

/** What a draft extends, read again whenever it changes; nothing for a layout of its own. */
export function useUnder(tree: TreeNode | undefined): Under | undefined {
  const [under, setUnder] = useState<Under>();
  const key = tree?.properties['extends'];
  const look = useCallback(() => {
    if (typeof key === 'string') read(key).then((found) => setUnder({ key, tree: found }), () => setUnder(undefined));
  }, [key]);
  useEffect(look, [look]);
  useHappenings(useCallback((happening) => { if (happening.type === 'draft' && happening.data.kind === 'layout') look(); }, [look]));
  return under?.key === key ? under : undefined;
}
