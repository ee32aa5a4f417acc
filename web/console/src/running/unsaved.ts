import type { RecordName, Values } from '#form';

/** What somebody typed and did not save: kept in this browser, under her name, until it is saved or thrown away, and gone when she signs out. */
export interface Unsaved {
  at: number;
  /** The version it was typed over; 0 for a new record. */
  version: number;
  values: Values;
  names: Record<string, RecordName>;
}

const prefix = (person: string) => `unsaved:${person}:`;

const key = (person: string, entity: string, id: number | undefined) => `${prefix(person)}${entity}/${id ?? 'new'}`;

export function findUnsaved(person: string, entity: string, id: number | undefined): Unsaved | undefined {
  try {
    return JSON.parse(localStorage.getItem(key(person, entity, id)) ?? 'null') as Unsaved | undefined ?? undefined;
  } catch {
    return undefined;
  }
}

export function keepUnsaved(person: string, entity: string, id: number | undefined, unsaved: Unsaved | undefined): void {
  if (unsaved) localStorage.setItem(key(person, entity, id), JSON.stringify(unsaved));
  else localStorage.removeItem(key(person, entity, id));
}

/** Everything kept for a person goes. */
export function forgetPerson(person: string): void {
  for (const each of Object.keys(localStorage)) if (each.startsWith(prefix(person)) || each === `recents:${person}`) localStorage.removeItem(each);
  for (const each of Object.keys(sessionStorage)) if (each.startsWith('list:')) sessionStorage.removeItem(each);
}
