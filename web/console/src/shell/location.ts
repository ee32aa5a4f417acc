import { useSyncExternalStore } from 'react';

/** Where one is: the parts of the address behind the hash. */
export type Place = string[];

const read = () => window.location.hash.replace(/^#\/?/, '');

let guard: (() => boolean) | undefined;

/** While set, leaving the place asks first; used where something typed would be lost. */
export function guardLeaving(mayLeave: (() => boolean) | undefined): void {
  guard = mayLeave;
}

let leaving = false;

/** Leaves everything behind, as signing out does, unless something typed keeps one here; from then on nothing asks again. */
export function leaveAll(): boolean {
  if (guard && !guard()) return false;
  guard = undefined;
  leaving = true;
  return true;
}

/** Whether everything is being left, so that the browser need not ask. */
export const isLeaving = () => leaving;

let current = read();
const listeners = new Set<() => void>();

window.addEventListener('hashchange', () => {
  if (read() === current) return;
  if (guard && !guard()) {
    window.location.hash = `/${current}`;
    return;
  }
  current = read();
  for (const listener of listeners) listener();
});

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

const partsOf = (place: string): Place => place.split('/').filter(Boolean).map(decodeURIComponent);

export const usePlace = (): Place => partsOf(useSyncExternalStore(subscribe, () => current));

/** Where the page begins. */
export const beginning = (): Place => partsOf(current);

export const address = (...parts: (string | number)[]) => `#/${parts.map((part) => encodeURIComponent(part)).join('/')}`;

export function go(...parts: (string | number)[]): void {
  window.location.hash = address(...parts).slice(1);
}
