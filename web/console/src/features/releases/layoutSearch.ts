import { useDeferredValue } from 'react';
import { answer, api } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';

/** What layouts are sought by. */
export interface LayoutSearch {
  /** Words of the title, the key, the kind or the entity; all of them, whatever their case. */
  text: string;
  state: LayoutState;
  /** Of one entity, of one kind; of any where it is empty. */
  entity: string;
  kind: string;
  sort: 'title' | 'changed';
}

/** The states one looks for, by name, each with what it is called. */
export const layoutStates = {
  any: 'layoutState.any',
  unpublished: 'layoutState.unpublished',
  findings: 'layoutState.findings',
  comments: 'layoutState.comments',
  damaged: 'layoutState.damaged',
  archived: 'layoutState.archived',
} as const;

export type LayoutState = keyof typeof layoutStates;

export const layoutKinds = ['full', 'short', 'card', 'list', 'print', 'piece'] as const;

/** As many as the service answers at a time. */
export const mostLayouts = 500;

/** The first layouts that are sought, how many there are, and how many in all; what was found before stays until they are there. */
export function useLayouts(search: LayoutSearch, limit: number) {
  const query = { ...useDeferredValue(search), limit: Math.min(limit, mostLayouts) };
  return useAnswer(['layouts', query], () => answer(api.GET('/api/search/layouts', { params: { query } })), { keeps: true });
}

const whole: LayoutSearch = { text: '', state: 'any', entity: '', kind: '', sort: 'title' };

/** The layouts of an entity, as many as one looks through, the one changed last first. */
export const useLayoutsOf = (entity: string) => useLayouts({ ...whole, entity, sort: 'changed' }, 60).data?.layouts ?? [];

/** The keys that a title may come to and that are taken: its words are in them. */
export const useTakenKeys = (title: string) =>
  (useLayouts({ ...whole, text: title.trim() }, mostLayouts).data?.layouts ?? []).map((layout) => layout.key);
