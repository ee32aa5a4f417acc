import type { Values } from '#form';
import { answer, api, type RecordName } from '../../api/client.ts';

/** How somebody looks at a list: its search, order and filters, with the titles of the records those name. */
export interface View {
  search: string;
  sort: string;
  filters: Values;
  names: Record<string, RecordName>;
}

export interface NamedView {
  name: string;
  view: View;
}

/** Looks at all of a list in its own order. */
export const plainView: View = { search: '', sort: '', filters: {}, names: {} };

/** Under what a person's views of a list are kept, by the service and in this window. */
export const viewsOf = (entity: string) => `list:${entity}`;

/** A person's own views of a list, kept by the service; what is no view, as another program may have put there, is none. */
export const readViews = async (entity: string): Promise<NamedView[]> => {
  const kept: unknown = await answer(api.GET('/api/preferences/{name}', { params: { path: { name: viewsOf(entity) } } }));
  const views = (kept as { views?: unknown } | null)?.views;
  return Array.isArray(views) ? views.filter(isNamedView).map(({ name, view }) => ({ name, view: { ...plainView, ...view } })) : [];
};

const isNamedView = (each: unknown): each is NamedView => {
  const { name, view } = (each ?? {}) as Partial<NamedView>;
  return typeof name === 'string' && typeof view === 'object' && view !== null;
};

/** How a list was last looked at in this window. */
export function lastView(entity: string): View {
  try {
    return { ...plainView, ...(JSON.parse(sessionStorage.getItem(viewsOf(entity)) ?? '{}') as Partial<View>) };
  } catch {
    return plainView;
  }
}

/** From here on a list is looked at so. */
export const listAs = (entity: string, view: View): void => sessionStorage.setItem(viewsOf(entity), JSON.stringify(view));
