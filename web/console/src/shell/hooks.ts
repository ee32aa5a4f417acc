import { useEffect, useSyncExternalStore } from 'react';
import type { Session } from '../api/client.ts';
import { onHappening, type Happening } from './events.ts';
import { onSession, session } from './session.ts';
import { words, type Say } from './words.ts';

/** Who works here. */
export const useSession = (): Session => useSyncExternalStore(onSession, session);

/** The frame's words in her language. */
export const useWords = (): Say => useSyncExternalStore(onSession, words);

/** Told of everything that happens while this is drawn. */
export function useHappenings(listener: (happening: Happening) => void): void {
  useEffect(() => onHappening(listener), [listener]);
}
