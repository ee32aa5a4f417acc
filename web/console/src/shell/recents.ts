/** What a person opened lately, kept in this browser under her name and gone when she signs out. */
export interface Recent {
  entity: string;
  id: number;
  title: string;
}

const most = 12;

const key = (person: string) => `recents:${person}`;

export function recents(person: string): Recent[] {
  try {
    return JSON.parse(localStorage.getItem(key(person)) ?? '[]') as Recent[];
  } catch {
    return [];
  }
}

export function rememberRecent(person: string, recent: Recent): void {
  const others = recents(person).filter((each) => each.entity !== recent.entity || each.id !== recent.id);
  localStorage.setItem(key(person), JSON.stringify([recent, ...others].slice(0, most)));
}

export function forgetRecent(person: string, entity: string, id: number): void {
  localStorage.setItem(key(person), JSON.stringify(recents(person).filter((each) => each.entity !== entity || each.id !== id)));
}
