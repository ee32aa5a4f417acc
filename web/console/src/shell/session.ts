import type { FormHost, Values } from '#form';
import { leaveInitialValues } from './newRecord.ts';
import { navigate } from './location.ts';
import { expectSomebody } from '../api/early.ts';
import { answer, api, asProblem, changing, ApiError, setAntiforgery, type Session } from '../api/client.ts';

let current: Session | undefined;
const listeners = new Set<() => void>();

/** Who works in this window from now on. */
export function enter(session: Session): void {
  current = session;
  setAntiforgery(session.antiforgery);
  expectSomebody(session.person !== null);
  for (const listener of listeners) listener();
}

/** Told whenever somebody else works here, or the same person with other rights. */
export function onSession(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Who works here; somebody does, wherever this is asked. */
export function session(): Session {
  if (!current) throw new Error('You are not signed in.');
  return current;
}

export const may = (session: Session, permission: string) => session.permissions.includes(permission);

/** Whether one may look at drafts: to change, to review or to publish them. */
export const readsDrafts = (session: Session) => ['configure', 'review', 'publish'].some((permission) => may(session, permission));

let zone: string | undefined;

const pickedKey = (entity: string) => `picked:${entity}`;

function picked(entity: string): number[] {
  try {
    return JSON.parse(localStorage.getItem(pickedKey(entity)) ?? '[]') as number[];
  } catch {
    return [];
  }
}

const lookUp: FormHost['lookUp'] = (entity, text, how) => {
  const query = {
    ...(text ? { q: text } : {}),
    ...(how?.filter ? { filter: how.filter } : {}),
    ...(how?.display ? { display: how.display } : {}),
    ...(how?.ids ? { ids: how.ids.join(',') } : {}),
  };
  return answer(api.GET('/api/records/{entity}/lookup', { params: { path: { entity }, query } }));
};

const readRelated: NonNullable<FormHost['readRelated']> = async (entity, through, id, sort) => {
  const rows = [];
  for (let after: string | null | undefined; after !== null;) {
    const query = {
      filter: `record.${through} == ${id}`,
      limit: 200,
      ...(sort.length > 0 ? { sort: sort.join(',') } : {}),
      ...(after ? { after } : {}),
    };
    const page = await answer(api.GET('/api/records/{entity}', { params: { path: { entity }, query } }));
    rows.push(
      ...page.records.map((row) => ({ id: row.id, version: row.version, values: row.values as Values, references: row.references })),
    );
    after = page.next ?? null;
  }
  return rows;
};

const upload: FormHost['upload'] = async (file) => {
  const response = await fetch(`/api/files?name=${encodeURIComponent(file.name)}`, {
    method: 'POST',
    body: file,
    headers: { ...changing(), 'Content-Type': 'application/octet-stream' },
  });
  const body: unknown = await response.json();
  if (!response.ok) throw new ApiError(asProblem(body, response));
  return (body as { value: string }).value;
};

/** What forms need of this page: who looks, with the roles of the moment, where to look records up, where to put files. */
export function formHost(more: Partial<FormHost> = {}): FormHost {
  const around: FormHost = {
    userId: current?.person?.id ?? '',
    get roles() {
      return current?.person?.roles ?? [];
    },
    // Asked for only where a moment is shown: finding it costs some milliseconds.
    get timeZone() {
      return (zone ??= Intl.DateTimeFormat().resolvedOptions().timeZone);
    },
    now: () => new Date(),
    lookUp,
    recent: (entity) => picked(entity),
    picked: (entity, id) =>
      localStorage.setItem(pickedKey(entity), JSON.stringify([id, ...picked(entity).filter((each) => each !== id)].slice(0, 5))),
    readRelated,
    read: async (entity, id) =>
      (await answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } }))).values as Values,
    begin: (entity, through, values, record) => {
      leaveInitialValues(entity, { values: { ...values, ...(record === undefined || !through ? {} : { [through]: record }) }, names: {} });
      navigate('records', entity, 'new');
    },
    upload,
    fileAddress: (value) => `/api/files/${value.split('/').map(encodeURIComponent).join('/')}`,
  };
  return Object.defineProperties(around, Object.getOwnPropertyDescriptors(more));
}
