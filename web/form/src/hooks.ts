import { createContext, useCallback, useContext, useSyncExternalStore } from 'react';
import type { FormStore } from './store.ts';
import type { RelatedRows } from './related.ts';
import type { RelatedItem } from './types.ts';

export const StoreContext = createContext<FormStore | null>(null);

export function useStore(): FormStore {
  const store = useContext(StoreContext);
  if (!store) throw new Error('This is drawn inside a form only.');
  return store;
}

/**
 * Redraws whenever one of these is told of: 'field:', 'node:' or 'related:' with a name, 'values' for any value, 'content' for what is drawn at
 * all. One subscription for each thing drawn: a form is hundreds of them.
 */
export function useTold(...keys: string[]): FormStore {
  const store = useStore();
  const joined = keys.join(' ');
  const subscribe = useCallback((listener: () => void) => {
    const stops = joined.split(' ').map((key) => store.subscribe(key, listener));
    return () => stops.forEach((stop) => stop());
  }, [store, joined]);
  useSyncExternalStore(subscribe, () => store.toldAt(keys));
  return store;
}

/** Redraws whenever the rows of related records change. */
export function useRelated(item: RelatedItem): RelatedRows {
  return useTold(`related:${item.id}`, `node:${item.id}`).relatedOf(item);
}

/** How deep headings are where one is: the form's own is the first level, or the page's round it. */
export const LevelContext = createContext(2);
