import type { RecordName, Values } from '#form';

/** What somebody typed and did not save: kept in this browser, under her name, until it is saved or thrown away, and gone when she signs out. */
export interface Unsaved {
  at: number;
  /** The version it was typed over; 0 for a new record. */
  version: number;
  values: Values;
  names: Record<string, RecordName>;
}

const store = 'unsaved';

const key = (person: string, entity: string, id: number | undefined) => `${person}/${entity}/${id ?? 'new'}`;

let opened: Promise<IDBDatabase> | undefined;

function database(): Promise<IDBDatabase> {
  opened ??= new Promise((done, failed) => {
    const opening = indexedDB.open('bright-tier', 1);
    opening.onupgradeneeded = () => opening.result.createObjectStore(store);
    opening.onsuccess = () => done(opening.result);
    opening.onerror = () => failed(opening.error ?? new Error('The browser keeps nothing.'));
  });
  return opened;
}

/** Runs a request; strict, because what is kept is for the case that the browser is gone the next moment. */
async function run<T>(mode: IDBTransactionMode, ask: (entries: IDBObjectStore) => IDBRequest<T>): Promise<T> {
  const transaction = (await database()).transaction(store, mode, { durability: 'strict' });
  const request = ask(transaction.objectStore(store));
  return new Promise((done, failed) => {
    transaction.oncomplete = () => done(request.result);
    transaction.onerror = () => failed(transaction.error ?? new Error('The browser kept nothing.'));
  });
}

/** What is kept of a record; undefined too where the browser keeps nothing at all. */
export async function findUnsaved(person: string, entity: string, id: number | undefined): Promise<Unsaved | undefined> {
  try {
    return await run('readonly', (entries) => entries.get(key(person, entity, id)) as IDBRequest<Unsaved | undefined>);
  } catch {
    return undefined;
  }
}

export async function keepUnsaved(person: string, entity: string, id: number | undefined, unsaved: Unsaved | undefined): Promise<void> {
  try {
    await run('readwrite', (entries): IDBRequest => (unsaved ? entries.put(unsaved, key(person, entity, id)) : entries.delete(key(person, entity, id))));
  } catch {
    // A browser that keeps nothing, as in private windows, costs only this comfort.
  }
}

/** Everything kept for a person goes. */
export async function forgetPerson(person: string): Promise<void> {
  for (const each of Object.keys(localStorage)) if (each === `recents:${person}` || each.startsWith('picked:')) localStorage.removeItem(each);
  for (const each of Object.keys(sessionStorage)) if (each.startsWith('list:') || each.startsWith('begun:')) sessionStorage.removeItem(each);
  try {
    await run('readwrite', (entries) => entries.delete(IDBKeyRange.bound(`${person}/`, `${person}0`, false, true)));
  } catch {
    // Nothing was kept.
  }
}
