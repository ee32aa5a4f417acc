import type { RecordName, Values } from '#form';

export interface Prefilled {
  values: Values;
  names: Record<string, RecordName>;
}

const left = new Map<string, Prefilled>();

/** Leaves what a new record begins with for the page that makes it. */
export function prefill(entity: string, prefilled: Prefilled): void {
  left.set(entity, prefilled);
}

/** Takes it up, once. */
export function takePrefilled(entity: string): Prefilled | undefined {
  const found = left.get(entity);
  left.delete(entity);
  return found;
}
