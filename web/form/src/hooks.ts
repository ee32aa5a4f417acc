import { createContext, useCallback, useContext, useSyncExternalStore } from 'react';
import type { NodeState } from './states.ts';
import type { FormStore } from './store.ts';
import type { RelatedRows } from './related.ts';
import type { Json, RelatedItem } from './types.ts';

export const StoreContext = createContext<FormStore | null>(null);

export function useStore(): FormStore {
  const store = useContext(StoreContext);
  if (!store) throw new Error('This is drawn inside a form only.');
  return store;
}

function useSubscription<T>(key: string, read: (store: FormStore) => T): T {
  const store = useStore();
  const subscribe = useCallback((listener: () => void) => store.subscribe(key, listener), [store, key]);
  return useSyncExternalStore(subscribe, () => read(store));
}

export const useValue = (field: string): Json => useSubscription(`field:${field}`, (store) => store.get(field));
export const useError = (field: string): string | undefined => useSubscription(`field:${field}`, (store) => store.error(field));
export const useNodeState = (id: string): NodeState => useSubscription(`node:${id}`, (store) => store.state(id));

/** Redraws whenever any value changes; for bands and summaries. */
export const useRevision = (): number => useSubscription('values', (store) => store.revision);

/** Redraws whenever the rows of related records change. */
export const useRelated = (item: RelatedItem): RelatedRows => {
  const store = useStore();
  useSubscription(`related:${item.id}`, (each) => each.revision);
  return store.relatedOf(item);
};

/** How deep headings are where one is: the form's own is the first level, or the page's round it. */
export const LevelContext = createContext(2);
