import { useEffect, useState } from 'react';
import { answer, api, type Person } from '../api/client.ts';

let asked: Promise<Person[]> | undefined;

/** Everybody, asked for once. */
export const people = (): Promise<Person[]> =>
  (asked ??= answer(api.GET('/api/people')).catch(() => {
    asked = undefined;
    return [];
  }));

/** Everybody, for what is drawn. */
export function usePeople(): { all: Person[]; name: (id: string) => string } {
  const [all, setAll] = useState<Person[]>([]);
  useEffect(() => {
    void people().then(setAll);
  }, []);
  return { all, name: (id) => all.find((person) => person.id === id)?.name ?? id };
}
