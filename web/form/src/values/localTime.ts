const clocks = new Map<string, Intl.DateTimeFormat>();

/** What the clock of a zone shows, in milliseconds as if it were UTC; without seconds. */
function shownAt(ms: number, timeZone: string): number {
  let clock = clocks.get(timeZone);
  if (!clock)
    clocks.set(
      timeZone,
      (clock = new Intl.DateTimeFormat('en-CA', {
        timeZone,
        year: 'numeric',
        month: '2-digit',
        day: '2-digit',
        hour: '2-digit',
        minute: '2-digit',
        hourCycle: 'h23',
      })),
    );
  const parts = clock.formatToParts(ms);
  const part = (type: string) => Number(parts.find((each) => each.type === type)?.value);
  const shown = new Date(0);
  shown.setUTCFullYear(part('year'), part('month') - 1, part('day'));
  return shown.setUTCHours(part('hour'), part('minute'));
}

/** A date-time by the wall clock of a time zone, without an offset: 2026-12-31T14:30. */
export const toLocal = (moment: string, timeZone: string): string =>
  new Date(shownAt(Date.parse(moment), timeZone)).toISOString().replace(/:\d\d\.\d+Z$/, '');

/**
 * The moment at which a zone's clock shows a wall time; in the hour that is skipped in spring, the hour after; in the one that comes twice
 * in autumn, the second.
 */
export function fromLocal(local: string, timeZone: string): string {
  const wanted = Date.parse(`${local}:00Z`);
  let guess = wanted;
  for (let i = 0; i < 3; i++) guess += wanted - shownAt(guess, timeZone);
  return new Date(guess).toISOString().replace(/\.\d+Z$/, 'Z');
}
