import { useEffect, useRef, useSyncExternalStore } from 'react';
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

/** How long nothing must have happened until what follows from it is asked for; in milliseconds. */
const calm = 400;

/** Does something once after what matters to it has happened, however much of it there was at once; both stay the same between drawings. */
export function useAfterHappenings(matters: (happening: Happening) => boolean, act: () => void): void {
  const soon = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => onHappening((happening) => {
    if (!matters(happening)) return;
    clearTimeout(soon.current);
    soon.current = setTimeout(act, calm);
  }), [matters, act]);
  useEffect(() => () => clearTimeout(soon.current), []);
}
