import { keepPreviousData, QueryClient, skipToken, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { onServerEvent, type ServerEvent } from './events.ts';

/** What is asked for: what happens makes answers old by it. */
export type Subject =
  | 'approvals'
  | 'comments'
  | 'databases'
  | 'documents'
  | 'drafts'
  | 'entities'
  | 'layouts'
  | 'people'
  | 'pieces'
  | 'records'
  | 'releases'
  | 'tokens'
  | 'unchanging'
  | 'views';

type Key = readonly [Subject, ...unknown[]];

/** Which answers are old after something happened. */
function changedBy({ type, data }: ServerEvent): readonly Key[] {
  switch (type) {
    case 'draft':
      return [['approvals'], ['databases'], ['documents'], ['drafts'], ['layouts'], ['pieces']];
    case 'release':
      return [['approvals'], ['documents'], ['drafts'], ['entities'], ['layouts'], ['pieces'], ['releases']];
    case 'rollout':
    case 'scheduled-release':
      return [['releases']];
    case 'approval':
      return [['approvals']];
    case 'person':
      return [['people']];
    case 'comment':
      return data.draft ? [['comments', data.draft.kind, data.draft.key], ['layouts']] : [['comments', 'record', data.entity, data.record]];
    default:
      return [];
  }
}

/** How long nothing must have happened until what follows from it is asked for, in milliseconds. */
const quiet = 300;

/** The answers pages were given: shown at once where they are asked for again, and asked for anew. */
export const queries = new QueryClient({
  defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false, networkMode: 'always' } },
});

const old = new Map<string, Key>();
let soon: ReturnType<typeof setTimeout> | undefined;

onServerEvent((event) => {
  if (event.type === 'resync') {
    void queries.invalidateQueries();
    return;
  }
  for (const key of changedBy(event)) old.set(JSON.stringify(key), key);
  clearTimeout(soon);
  soon = setTimeout(() => {
    for (const queryKey of old.values()) void queries.invalidateQueries({ queryKey });
    old.clear();
  }, quiet);
});

/** An answer as it is known. */
export interface Answer<T> {
  /** Nothing until it is there. */
  data: T | undefined;
  /** Why it is not there; what was answered before stays. */
  problem: Error | undefined;
  /** Asks anew. */
  reload: () => Promise<void>;
}

/**
 * What the service answers, while this is drawn: again after what happened that matters to it.
 * @param key the subject, and all else the question depends on
 * @param ask asks; without it nothing is asked
 * @param every asks again by itself, after so many milliseconds
 * @param keeps whether the last answer stands until another question is answered
 */
export function useAnswer<T>(
  key: Key,
  ask: (() => Promise<T>) | undefined,
  { every, keeps }: { every?: number; keeps?: boolean } = {},
): Answer<T> {
  const { data, error, refetch } = useQuery(
    {
      queryKey: key,
      queryFn: ask ? async () => ({ given: await ask() }) : skipToken,
      refetchInterval: every ?? false,
      placeholderData: keeps ? keepPreviousData : undefined,
    },
    queries,
  );
  const reload = useCallback(() => refetch().then(() => undefined), [refetch]);
  return { data: data?.given, problem: error ?? undefined, reload };
}

/** Asks now, where no answer is known yet. */
export const askOnce = <T>(key: Key, ask: () => Promise<T>): Promise<T> =>
  queries.fetchQuery({ queryKey: key, queryFn: async () => ({ given: await ask() }), staleTime: Infinity }).then(({ given }) => given);
