import type { FormStore, RecordName, RelatedSave, Values } from '#form';
import { answer, api } from '../api/client.ts';

/**
 * What somebody typed and did not save: kept in this browser, under her name, until it is saved or thrown away, and gone when she signs
 * out.
 */
export interface UnsavedEntries {
  at: number;
  /** The version it was typed over; 0 for a new record. */
  version: number;
  values: Values;
  names: Record<string, RecordName>;
  /** What was changed of related records. */
  related?: RelatedSave[];
}

const store = 'unsaved';

const key = (person: string, entity: string, id: number | undefined) => `${person}/${entity}/${id ?? 'new'}`;

let opened: Promise<IDBDatabase> | undefined;

function database(): Promise<IDBDatabase> {
  opened ??= new Promise((done, failed) => {
    const opening = indexedDB.open('bright-tier', 1);
    opening.onupgradeneeded = () => opening.result.createObjectStore(store);
    opening.onsuccess = () => done(opening.result);
    opening.onerror = () => failed(opening.error ?? new Error('The browser stores nothing.'));
  });
  return opened;
}

/** Runs a request; strict, because what is kept is for the case that the browser is gone the next moment. */
async function run<T>(mode: IDBTransactionMode, ask: (entries: IDBObjectStore) => IDBRequest<T>): Promise<T> {
  const transaction = (await database()).transaction(store, mode, { durability: 'strict' });
  const request = ask(transaction.objectStore(store));
  return new Promise((done, failed) => {
    transaction.oncomplete = () => done(request.result);
    transaction.onerror = () => failed(transaction.error ?? new Error('The browser stored nothing.'));
  });
}

/** What is kept of a record; undefined too where the browser keeps nothing at all. */
export async function findUnsaved(person: string, entity: string, id: number | undefined): Promise<UnsavedEntries | undefined> {
  try {
    return await run('readonly', (entries) => entries.get(key(person, entity, id)) as IDBRequest<UnsavedEntries | undefined>);
  } catch {
    return undefined;
  }
}

export async function keepUnsaved(
  person: string,
  entity: string,
  id: number | undefined,
  unsaved: UnsavedEntries | undefined,
): Promise<void> {
  try {
    await run('readwrite', (entries): IDBRequest =>
      unsaved ? entries.put(unsaved, key(person, entity, id)) : entries.delete(key(person, entity, id)),
    );
  } catch {
    // A browser that keeps nothing, as in private windows, costs only this comfort.
  }
}

/** What a person may no longer read goes from what is kept for her. */
export async function withhold(person: string): Promise<void> {
  try {
    const everything = IDBKeyRange.bound(`${person}/`, `${person}0`, false, true);
    const keys = (await run('readonly', (entries) => entries.getAllKeys(everything))) as string[];
    const known = new Map<string, Promise<Set<string>>>();
    const readable = (entity: string) => known.get(entity) ?? known.set(entity, readableFields(entity)).get(entity)!;
    const only = async <T>(of: Record<string, T>, entity: string) => {
      const fields = await readable(entity);
      return Object.fromEntries(Object.entries(of).filter(([field]) => fields.has(field)));
    };
    for (const each of keys) {
      const entity = each.split('/')[1]!;
      const kept = await run('readonly', (entries) => entries.get(each) as IDBRequest<UnsavedEntries>);
      const values = await only(kept.values, entity);
      const names = await only(kept.names, entity);
      const related = await Promise.all(
        (kept.related ?? []).map(async (save) => ({
          ...save,
          created: await Promise.all(save.created.map((row) => only(row, save.entity))),
          changed: await Promise.all(save.changed.map(async (row) => ({ ...row, values: await only(row.values, save.entity) }))),
        })),
      );
      await run('readwrite', (entries): IDBRequest =>
        Object.keys(values).length > 0 || related.length > 0
          ? entries.put({ ...kept, values, names, related }, each)
          : entries.delete(each),
      );
    }
  } catch {
    // Without the service or the browser's database there is nothing to compare with; what is kept is looked at again at the next start.
  }
}

async function readableFields(entity: string): Promise<Set<string>> {
  const { fields } = await answer(api.GET('/api/entities/{key}', { params: { path: { key: entity } } }));
  return new Set(fields.map((field) => field.key));
}

/** Everything kept for a person goes. */
export async function forgetPerson(person: string): Promise<void> {
  for (const each of Object.keys(localStorage))
    if (each === `recents:${person}` || each.startsWith('picked:') || each.startsWith(`designing:${person}:`))
      localStorage.removeItem(each);
  for (const each of Object.keys(sessionStorage))
    if (each.startsWith('list:') || each.startsWith('steps:')) sessionStorage.removeItem(each);
  try {
    await run('readwrite', (entries) => entries.delete(IDBKeyRange.bound(`${person}/`, `${person}0`, false, true)));
  } catch {
    // Nothing was kept.
  }
}

/** Puts what was typed before into a form, as if it were typed now. */
export function putIn(store: FormStore, unsaved: UnsavedEntries): void {
  for (const [field, name] of Object.entries(unsaved.names)) store.remember(field, name);
  for (const [field, value] of Object.entries(unsaved.values)) store.set(field, value);
  store.putInRelated(unsaved.related ?? []);
}
