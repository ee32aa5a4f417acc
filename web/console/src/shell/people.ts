import { answer, api, type Person } from '../api/client.ts';
import { askOnce, useAnswer } from './queries.ts';

const ask = () => answer(api.GET('/api/people'));

/** Everybody, as they are known; nobody where they cannot be asked for. */
export const people = (): Promise<Person[]> => askOnce(['people'], ask).catch(() => []);

const nobody: Person[] = [];

/** Everybody, for what is drawn. */
export function usePeople() {
  const { data: all = nobody, problem, reload } = useAnswer(['people'], ask);
  return { all, problem, reload, name: (id: string) => all.find((person) => person.id === id)?.name ?? id };
}
