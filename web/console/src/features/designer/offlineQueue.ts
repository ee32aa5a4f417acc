import type { Edit } from '#layout';

/** A change on its way to the service. */
export interface QueuedChange {
  /** What it is called, so that the service applies it once however often it is sent. */
  name?: string;
  /** Edits of what is seen. */
  edits: Edit[];
  /** The width whose own form they are made on; without one, the base. */
  width?: string;
  label: string;
}

/** A name no other change has, also where the page did not come over TLS. */
export const newName = (): string => [...crypto.getRandomValues(new Uint32Array(4))].map((part) => part.toString(36)).join('-');

/** One that can be undone or done again. */
export interface UndoStep {
  label: string;
  edits: Edit[];
  /** When it was done last, in milliseconds; steps undone or done again have none. */
  at?: number;
}

export interface UndoHistory {
  past: UndoStep[];
  future: UndoStep[];
}

const most = 200;

function read<T>(of: Storage, key: string): T | undefined {
  try {
    return JSON.parse(of.getItem(key) ?? 'null') as T ?? undefined;
  } catch {
    return undefined;
  }
}

/**
 * What a draft's changes leave in this browser, under the person's name: those the service has not taken yet, so that a lost connection, a crash or a
 * reload costs none of them; and the steps that can be undone, for as long as the window lives.
 */
export function keeping(person: string, layout: string) {
  const unsent = `designing:${person}:${layout}`;
  const steps = `steps:${person}:${layout}`;
  return {
    waiting: (): QueuedChange[] => read<QueuedChange[]>(localStorage, unsent) ?? [],
    keepWaiting: (all: readonly QueuedChange[]): void => {
      if (all.length > 0) localStorage.setItem(unsent, JSON.stringify(all));
      else localStorage.removeItem(unsent);
    },
    steps: (): UndoHistory => read<UndoHistory>(sessionStorage, steps) ?? { past: [], future: [] },
    keepSteps: ({ past, future }: UndoHistory): void => {
      try {
        sessionStorage.setItem(steps, JSON.stringify({ past: past.slice(-most), future: future.slice(-most) }));
      } catch {
        // The browser has no room left: the steps live as long as the page.
      }
    },
  };
}
