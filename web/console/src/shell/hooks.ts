import { useEffect, useRef, useSyncExternalStore } from 'react';
import type { Session } from '../api/client.ts';
import { onServerEvent, type ServerEvent } from './events.ts';
import { onSession, session } from './session.ts';
import { nameWindow } from './pageTitle.ts';
import { words, type Translate } from './words.ts';

/** Who works here. */
export const useSession = (): Session => useSyncExternalStore(onSession, session);

/** The frame's words in her language. */
export const useWords = (): Translate => useSyncExternalStore(onSession, words);

/** Told of everything that happens while this is drawn. */
export function useServerEvents(listener: (event: ServerEvent) => void): void {
  useEffect(() => onServerEvent(listener), [listener]);
}

/** How long nothing must have happened until what follows from it is asked for; in milliseconds. */
const quiet = 400;

/** Does something once after what matters to it has happened, however much of it there was at once; both stay the same between drawings. */
export function useAfterServerEvents(matters: (event: ServerEvent) => boolean, act: () => void): void {
  const soon = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(
    () =>
      onServerEvent((event) => {
        if (!matters(event)) return;
        clearTimeout(soon.current);
        soon.current = setTimeout(act, quiet);
      }),
    [matters, act],
  );
  useEffect(() => () => clearTimeout(soon.current), []);
}

/** Names the window after what this draws, while it is drawn. */
export function usePageTitle(view: string | undefined): void {
  useEffect(() => {
    nameWindow(view);
    return () => nameWindow();
  }, [view]);
}
