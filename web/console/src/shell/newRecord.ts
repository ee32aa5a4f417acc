import type { RecordName, Values } from '#form';

export interface InitialValues {
  values: Values;
  names: Record<string, RecordName>;
}

const left = new Map<string, InitialValues>();

/** Leaves what a new record begins with for the page that makes it. */
export function leaveInitialValues(entity: string, prefilled: InitialValues): void {
  left.set(entity, prefilled);
}

/** Takes it up, once. */
export function takeInitialValues(entity: string): InitialValues | undefined {
  const found = left.get(entity);
  left.delete(entity);
  return found;
}
