/** An entry of the menu as its file has it. */
export interface Entry {
  key: string;
  title: string | Record<string, string>;
  icon?: string | undefined;
  entity?: string | undefined;
  address?: string | undefined;
  roles?: string[] | undefined;
  entries?: Entry[] | undefined;
}

/** Where an entry stands: its place among those around it, from the outside in. */
export type Path = readonly number[];

export interface MenuChange {
  next: Entry[];
  path: Path;
}

export function* walkEntries(entries: readonly Entry[]): Generator<Entry> {
  for (const entry of entries) {
    yield entry;
    yield* walkEntries(entry.entries ?? []);
  }
}

export const at = (entries: readonly Entry[], path: Path): Entry | undefined =>
  path.slice(1).reduce((entry: Entry | undefined, i) => entry?.entries?.[i], entries[path[0] ?? -1]);

/** The entries with the list an entry stands in replaced. */
function inList(entries: Entry[], path: Path, change: (list: Entry[]) => Entry[]): Entry[] {
  const [first, ...rest] = path;
  if (rest.length === 0 || first === undefined) return change(entries);
  return entries.map((entry, i) => (i === first ? withEntries(entry, inList(entry.entries ?? [], rest, change)) : entry));
}

function withEntries(entry: Entry, entries: Entry[]): Entry {
  const bare = { ...entry };
  delete bare.entries;
  return entries.length > 0 ? { ...bare, entries } : bare;
}

const last = (path: Path) => path.at(-1)!;

export const changed = (entries: Entry[], path: Path, entry: Entry): Entry[] =>
  inList(entries, path, (list) => list.with(last(path), entry));

export const removed = (entries: Entry[], path: Path): Entry[] => inList(entries, path, (list) => list.toSpliced(last(path), 1));

/** A new entry behind the one chosen, or inside it at the end; without one, at the end of all. */
export function added(entries: Entry[], chosen: Path | undefined, inside: boolean, entry: Entry): MenuChange {
  const one = chosen && at(entries, chosen);
  if (!chosen || !one) return { next: [...entries, entry], path: [entries.length] };
  if (inside)
    return {
      next: changed(entries, chosen, { ...one, entries: [...(one.entries ?? []), entry] }),
      path: [...chosen, one.entries?.length ?? 0],
    };
  return {
    next: inList(entries, chosen, (list) => list.toSpliced(last(chosen) + 1, 0, entry)),
    path: [...chosen.slice(0, -1), last(chosen) + 1],
  };
}

/** Up or down among those around it; nothing at the end. */
export function moved(entries: Entry[], path: Path, by: 1 | -1): MenuChange | undefined {
  const to = last(path) + by;
  const list = path.length === 1 ? entries : at(entries, path.slice(0, -1))?.entries;
  const entry = at(entries, path);
  if (!entry || !list || to < 0 || to >= list.length) return undefined;
  return { next: inList(entries, path, (all) => all.toSpliced(last(path), 1).toSpliced(to, 0, entry)), path: [...path.slice(0, -1), to] };
}

/** Into the entry before it, at its end; nothing where none is before it. */
export function indented(entries: Entry[], path: Path): MenuChange | undefined {
  const [before, entry] = [at(entries, [...path.slice(0, -1), last(path) - 1]), at(entries, path)];
  if (!before || !entry) return undefined;
  const holder = [...path.slice(0, -1), last(path) - 1];
  return {
    next: changed(removed(entries, path), holder, { ...before, entries: [...(before.entries ?? []), entry] }),
    path: [...holder, before.entries?.length ?? 0],
  };
}

/** Out of the entry it stands in, behind that; nothing at the outside. */
export function outdented(entries: Entry[], path: Path): MenuChange | undefined {
  const entry = at(entries, path);
  if (!entry || path.length < 2) return undefined;
  const holder = path.slice(0, -1);
  return {
    next: inList(removed(entries, path), holder, (list) => list.toSpliced(last(holder) + 1, 0, entry)),
    path: [...holder.slice(0, -1), last(holder) + 1],
  };
}

/** What somebody in these roles sees, by the service's rule: headings left without entries go. */
export const seenBy = (entries: readonly Entry[], roles: readonly string[]): Entry[] =>
  entries
    .filter((entry) => !entry.roles?.length || entry.roles.some((role) => roles.includes(role)))
    .map((entry) => withEntries(entry, seenBy(entry.entries ?? [], roles)))
    .filter((entry) => entry.entity !== undefined || entry.address !== undefined || entry.entries !== undefined);
