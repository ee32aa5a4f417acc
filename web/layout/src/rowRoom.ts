import { limits } from './grammar.gen.ts';
import type { Room } from './rooms.ts';
import { share } from './spans.ts';

/** A cell of a row as sharing sees it: the span that is written, and the room it needs. */
export interface SharingCell {
  span: number | undefined;
  room: Room;
}

const sum = (of: readonly number[]) => of.reduce((so, each) => so + each, 0);

/**
 * The written spans of a row's cells once one more stands among them, each in its place; nothing where the row is full. Where cells share
 * and sharing leaves each what it needs, the newcomer shares too. Else it takes free units, and where those are fewer than it needs the
 * others give way: first what they have beyond what they take naturally, then what they have beyond what they need, in proportion. The
 * core's RowRoom does the same (tests/vectors/sharing).
 * @param at the newcomer's place among the cells
 */
export function admit(cells: readonly SharingCell[], at: number, newcomer: Room): (number | undefined)[] | undefined {
  if (cells.length >= limits.units) return undefined;
  const written = cells.map((cell) => cell.span);
  const now = share(written);
  if (cells.length === 0 || written.includes(undefined)) {
    const together = written.toSpliced(at, 0, undefined);
    const units = share(together);
    const least = cells.map((cell, i) => Math.min(cell.room.needed, now[i]!)).toSpliced(at, 0, newcomer.needed);
    if (sum(units) <= limits.units && units.every((each, i) => each >= least[i]!)) return together;
  }
  const free = limits.units - sum(now);
  if (free >= newcomer.needed) return written.toSpliced(at, 0, Math.min(newcomer.natural, free));
  const easy = cells.map((cell, i) => Math.max(0, now[i]! - cell.room.natural));
  const spare = cells.map((cell, i) => Math.max(0, now[i]! - cell.room.needed));
  if (free + sum(spare) < newcomer.needed) return undefined;
  const taken = Math.max(newcomer.needed, Math.min(newcomer.natural, free + sum(easy)));
  const giving = taken - free;
  const first = portions(easy, Math.min(giving, sum(easy)));
  const rest = portions(
    spare.map((each, i) => each - first[i]!),
    giving - sum(first),
  );
  return now.map((units, i) => units - first[i]! - rest[i]!).toSpliced(at, 0, taken);
}

/** A whole number taken from several in proportion to what each has; what does not divide comes from those with most. */
function portions(of: readonly number[], total: number): number[] {
  const all = sum(of);
  if (total <= 0 || all === 0) return of.map(() => 0);
  const portion = of.map((each) => Math.floor((each * total) / all));
  const order = of
    .map((each, i) => ({ i, each, left: (each * total) % all }))
    .sort((a, b) => b.left - a.left || b.each - a.each || a.i - b.i);
  for (const { i } of order.slice(0, total - sum(portion))) portion[i]!++;
  return portion;
}
