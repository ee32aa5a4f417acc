import { dayOrder, type DayPart } from '../values/moments.ts';

/** A part of a written day or time, that can be stepped by itself. */
export type MomentPart = DayPart | 'hour' | 'minute' | 'half';

/** Where the parts stand in a text as it is shown: each a number, or the word for a half of the day. */
export function placesOf(text: string, editor: string, language: string): { part: MomentPart; from: number; to: number }[] {
  const numbers: MomentPart[] = [
    ...(editor === 'time' ? [] : dayOrder(language)),
    ...(editor === 'date' ? [] : (['hour', 'minute'] as const)),
  ];
  return [...text.matchAll(/\d+|\p{L}[\p{L}.]*/gu)].flatMap(({ 0: found, index }) => {
    const part = /\d/.test(found) ? numbers.shift() : editor === 'date' ? undefined : 'half';
    return part ? [{ part, from: index, to: index + found.length }] : [];
  });
}

/** The part a caret stands in, or right after. */
export const partAt = (text: string, caret: number, editor: string, language: string): MomentPart | undefined => {
  const places = placesOf(text, editor, language);
  return (places.find(({ to }) => caret <= to) ?? places.at(-1))?.part;
};

/** A wall clock's time with one part so much more; where a month has no such day, its last. */
export function stepped(wall: string, part: MomentPart, by: number): string {
  const at = new Date(`${wall}:00Z`);
  const day = at.getUTCDate();
  if (part === 'minute') at.setUTCMinutes(at.getUTCMinutes() + by);
  else if (part === 'hour' || part === 'half') at.setUTCHours(at.getUTCHours() + by * (part === 'half' ? 12 : 1));
  else if (part === 'day') at.setUTCDate(day + by);
  else {
    at.setUTCMonth(at.getUTCMonth() + by * (part === 'year' ? 12 : 1));
    if (at.getUTCDate() !== day) at.setUTCDate(0);
  }
  const year = at.getUTCFullYear();
  return year < 1 || year > 9999 ? wall : at.toISOString().slice(0, 16);
}
