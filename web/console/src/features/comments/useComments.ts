import { useMemo } from 'react';
import { answer, api, type CommentInfo } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';

export interface Comments {
  all: readonly CommentInfo[];
  /** How many are open on each item; under the empty name those on the whole. */
  open: ReadonlyMap<string, number>;
  add: (text: string, item: string | undefined) => Promise<void>;
  resolve: (comment: CommentInfo, resolved: boolean) => Promise<void>;
}

const none: CommentInfo[] = [];

/** What is said about a draft and, of a layout, its items; followed as it is said. */
export function useComments(kind: string, key: string): Comments {
  const path = { kind, key };
  const { data: all = none, reload } = useAnswer(['comments', kind, key], () =>
    answer(api.GET('/api/drafts/{kind}/{key}/comments', { params: { path } })),
  );
  const open = useMemo(() => {
    const counts = new Map<string, number>();
    for (const comment of all) if (!comment.resolvedBy) counts.set(comment.item ?? '', (counts.get(comment.item ?? '') ?? 0) + 1);
    return counts;
  }, [all]);
  return {
    all,
    open,
    add: async (text, item) => {
      await answer(api.POST('/api/drafts/{kind}/{key}/comments', { params: { path }, body: { text, item: item ?? null } }));
      reload();
    },
    resolve: async (comment, resolved) => {
      await answer(api.PUT('/api/comments/{id}/resolved', { params: { path: { id: comment.id } }, body: { resolved } }));
      reload();
    },
  };
}
