import type { RecordName, Values } from '#form';

export interface Begun {
  values: Values;
  names: Record<string, RecordName>;
}

const left = new Map<string, Begun>();

/** Leaves what a new record begins with for the page that makes it. */
export function begin(entity: string, begun: Begun): void {
  left.set(entity, begun);
}

/** Takes it up, once. */
export function begun(entity: string): Begun | undefined {
  const found = left.get(entity);
  left.delete(entity);
  return found;
}
