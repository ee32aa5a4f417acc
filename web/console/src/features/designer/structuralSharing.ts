type Part = Record<string, unknown>;

const idOf = (value: unknown): unknown => (typeof value === 'object' && value !== null ? (value as Part)['id'] : undefined);

/**
 * The same as `now`, with every part that is as it was `before` the same object as it was: what is drawn of those need not be drawn again.
 * Parts of a list are told by their ids.
 */
export function shared<T>(before: unknown, now: T): T {
  if (
    before === now ||
    typeof now !== 'object' ||
    now === null ||
    typeof before !== 'object' ||
    before === null ||
    Array.isArray(before) !== Array.isArray(now)
  )
    return now;
  if (Array.isArray(now)) {
    const was = before as unknown[];
    const byId = new Map(was.map((each) => [idOf(each), each]));
    const next = now.map((each, i) => shared(idOf(each) === undefined ? was[i] : byId.get(idOf(each)), each as unknown));
    return (next.length === was.length && next.every((each, i) => each === was[i]) ? before : next) as T;
  }
  const [was, is] = [before as Part, now as unknown as Part];
  const keys = Object.keys(is);
  const next = Object.fromEntries(keys.map((key) => [key, shared(was[key], is[key])]));
  return (keys.length === Object.keys(was).length && keys.every((key) => next[key] === was[key]) ? before : next) as T;
}
