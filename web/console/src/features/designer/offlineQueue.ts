import type { Edit } from '#layout';

/** A change on its way to the service. */
export interface QueuedChange {
  /** What it is called, so that the service applies it once however often, and from however many tabs, it is sent. */
  name: string;
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
    return (JSON.parse(of.getItem(key) ?? 'null') as T) ?? undefined;
  } catch {
    return undefined;
  }
}

/** A change as it is kept: with when it was made, since the browser keeps no order. */
interface StoredChange extends QueuedChange {
  at: number;
}

function readChange(key: string): StoredChange | undefined {
  const found = read<StoredChange>(localStorage, key);
  return typeof found?.name === 'string' && typeof found.at === 'number' && Array.isArray(found.edits) ? found : undefined;
}

/**
 * What a draft's changes leave in this browser, under the person's name: those the service has not taken yet, so that a lost connection, a
 * crash or a
 * reload costs none of them; and the steps that can be undone, for as long as the window lives. Each change is kept by itself: of two tabs
 * that change
 * one layout neither takes away what the other has not sent, and what both send is applied once.
 */
export function queueStore(person: string, layout: string) {
  const unsent = `designing:${person}:${layout}:`;
  const steps = `steps:${person}:${layout}`;
  /** The changes of this tab, and those it took over. */
  const own = new Set<string>();
  let last = 0;
  return {
    /** Everything that waits for this layout, the earliest first; from now on it is this tab's to send. */
    waiting: (): QueuedChange[] => {
      const stored = Object.keys(localStorage)
        .filter((key) => key.startsWith(unsent))
        .flatMap((key) => readChange(key) ?? []);
      return stored
        .toSorted((one, other) => one.at - other.at)
        .map(({ at, ...change }) => {
          last = Math.max(last, at);
          own.add(change.name);
          return change;
        });
    },
    /** Keeps what waits now, and lets go of what this tab kept and does not wait any more. */
    keepWaiting: (all: readonly QueuedChange[]): void => {
      const names = new Set(all.map((change) => change.name));
      for (const name of own)
        if (!names.has(name)) {
          own.delete(name);
          localStorage.removeItem(unsent + name);
        }
      for (const change of all)
        if (!own.has(change.name)) {
          own.add(change.name);
          last = Math.max(Date.now(), last + 1);
          try {
            localStorage.setItem(unsent + change.name, JSON.stringify({ ...change, at: last } satisfies StoredChange));
          } catch {
            // The browser has no room left: it waits as long as the page lives.
          }
        }
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

export type QueueStore = ReturnType<typeof queueStore>;
