import type { RecordName, Values } from '#form';

export interface Begun {
  values: Values;
  names: Record<string, RecordName>;
}

const key = (entity: string) => `begun:${entity}`;

/** Leaves what a new record begins with for the page that makes it. */
export function begin(entity: string, begun: Begun): void {
  sessionStorage.setItem(key(entity), JSON.stringify(begun));
}

/** Takes it up, once. */
export function begun(entity: string): Begun | undefined {
  const left = sessionStorage.getItem(key(entity));
  sessionStorage.removeItem(key(entity));
  return left ? (JSON.parse(left) as Begun) : undefined;
}
