import { useCallback, useEffect, useState } from 'react';
import { derived, type TreeNode } from '#layout';
import { answer, api } from '../../api/client.ts';
import { useServerEvents } from '../../shell/hooks.ts';

/** What a derived layout rests on: the key it extends, and that layout put together. */
export interface ParentLayout {
  key: string;
  tree: TreeNode;
}

async function read(key: string, met: readonly string[] = []): Promise<TreeNode> {
  const tree = (await answer(api.GET('/api/layouts/{key}', { params: { path: { key } } }))).tree as unknown as TreeNode;
  const next = tree.properties['extends'];
  return typeof next === 'string' && !met.includes(next) ? derived(await read(next, [...met, key]), tree) : tree;
}

/** What a draft extends, read again whenever it changes; nothing for a layout of its own. */
export function useParentLayout(tree: TreeNode | undefined): ParentLayout | undefined {
  const [under, setUnder] = useState<ParentLayout>();
  const key = tree?.properties['extends'];
  const reload = useCallback(() => {
    if (typeof key === 'string')
      read(key).then(
        (found) => setUnder({ key, tree: found }),
        () => setUnder(undefined),
      );
  }, [key]);
  useEffect(reload, [reload]);
  useServerEvents(
    useCallback(
      (event) => {
        if (event.type === 'draft' && event.data.kind === 'layout') reload();
      },
      [reload],
    ),
  );
  return under?.key === key ? under : undefined;
}
