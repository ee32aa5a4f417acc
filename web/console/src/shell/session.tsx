import { createContext, useContext } from 'react';
import type { Surroundings, Values } from '#form';
import { go } from './location.ts';
import { answer, api, asProblem, changing, Refused, type Session } from '../api/client.ts';

export const SessionContext = createContext<Session | null>(null);

export function useSession(): Session {
  const session = useContext(SessionContext);
  if (!session) throw new Error('Nobody is signed in.');
  return session;
}

export const may = (session: Session, act: string) => session.may.includes(act);

/** What forms need of this page: who looks, where to look records up, where to put files. */
export function surroundings(session: Session): Surroundings {
  return {
    userId: session.person?.id ?? '',
    roles: session.person?.roles ?? [],
    timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    now: () => new Date(),
    lookUp: (entity, text) => answer(api.GET('/api/records/{entity}/look-up', { params: { path: { entity }, query: { q: text } } })),
    read: async (entity, id) => (await answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } }))).values as Values,
    begin: (entity) => go('records', entity, 'new'),
    upload: async (file) => {
      const response = await fetch(`/api/files?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file, headers: { ...changing(), 'Content-Type': 'application/octet-stream' } });
      const body: unknown = await response.json();
      if (!response.ok) throw new Refused(asProblem(body, response));
      return (body as { value: string }).value;
    },
    fileAddress: (value) => `/api/files/${value.split('/').map(encodeURIComponent).join('/')}`,
  };
}
