import { say } from '../model/texts.ts';
import { clockLocale, dateLocale } from './locale.ts';
import { fromLocal } from './localTime.ts';

/** A part of a day as it is written in figures. */
export type DayPart = 'day' | 'month' | 'year';

/** How days are written in figures: the parts in their order, and what stands between them. */
interface DayPattern {
  parts: { type: DayPart | 'literal'; text: string }[];
  order: DayPart[];
}

const patterns = new Map<string, DayPattern>();
const months = new Map<string, string[]>();
const clocks = new Map<string, Intl.DateTimeFormat>();
const halves = new Map<string, [string, string]>();

/** What is worked out once for a locale. */
function once<T>(known: Map<string, T>, locale: string, work: () => T): T {
  let found = known.get(locale);
  if (found === undefined) known.set(locale, (found = work()));
  return found;
}

/** English is written either way round: without a region, days are written as ISO 8601 has them. */
const isOpen = (locale: string) => locale === 'en';

/** Marks of direction are for texts, not for figures one types. */
const bare = (text: string) => text.replace(/[\u200e\u200f\u061c]/g, '');

const patternOf = (language: string): DayPattern => {
  const locale = dateLocale(language);
  return once(patterns, locale, () => {
    const parts = new Intl.DateTimeFormat(isOpen(locale) ? 'sv' : locale, {
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      calendar: 'gregory',
      numberingSystem: 'latn',
    })
      .formatToParts(0)
      .map(
        ({ type, value }) =>
          ({ type: type === 'day' || type === 'month' || type === 'year' ? type : 'literal', text: bare(value) }) as const,
      );
    return { parts, order: parts.flatMap(({ type }) => (type === 'literal' ? [] : [type])) };
  });
};

/** The parts of a day in the order in which a language, in the region of whoever reads, writes them. */
export const dayOrder = (language: string): readonly DayPart[] => patternOf(language).order;

/** A day in figures as one types it: 31/12/2026, 12/31/2026, 31-12-2026. */
export const writeDay = (iso: string, language: string): string => withParts(language, dayParts(iso));

/** What a day in figures looks like: dd/mm/yyyy. */
export const dayShape = (language: string): string =>
  withParts(language, { day: say(language, 'dayLetters'), month: say(language, 'monthLetters'), year: say(language, 'yearLetters') });

const dayParts = (iso: string) => ({ year: iso.slice(0, 4), month: iso.slice(5, 7), day: iso.slice(8, 10) });

const withParts = (language: string, of: Record<DayPart, string>) =>
  patternOf(language)
    .parts.map(({ type, text }) => (type === 'literal' ? text : of[type]))
    .join('');

/** A time of day as whoever reads writes it: 14:30, 2:30 PM; after a day as ISO 8601 has it, as that has it too. */
export function writeClock(time: string, language: string, withDay = false): string {
  const { locale, hourCycle } = clockLocale(language);
  if (withDay && isOpen(locale)) return time.slice(0, 5);
  const format = once(clocks, `${locale} ${hourCycle ?? ''}`, () => {
    const clock = hourCycle ? { hourCycle } : {};
    return new Intl.DateTimeFormat(locale, { timeStyle: 'short', timeZone: 'UTC', numberingSystem: 'latn', ...clock });
  });
  return bare(format.format(new Date(`1970-01-01T${time.slice(0, 5)}Z`))).replace(/[\u00a0\u202f]/g, ' ');
}

/** Figures of any script as those of ASCII, without marks of direction. */
const plain = (text: string) =>
  bare(text)
    .replace(/[٠-٩]/g, (digit) => String(digit.charCodeAt(0) - 0x660))
    .replace(/[۰-۹]/g, (digit) => String(digit.charCodeAt(0) - 0x6f0))
    .trim()
    .toLowerCase();

/**
 * The day somebody means by a text, in ISO 8601: in figures in her order, with the month's name, or as ISO 8601. Undefined is what is no
 * day, and what could be two.
 * @param today where it is known, what leaves something out is a day as well: 31, 31/12, 31/12/26, 311226, tomorrow, +7
 */
export function readDay(written: string, language: string, today?: string): string | undefined {
  const text = plain(written);
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/.exec(text);
  if (iso) return real(iso[1]!, iso[2]!, iso[3]!);
  if (today) {
    const far = daysAway(text, language);
    if (far !== undefined) return plusDays(today, far);
  }
  const words = text.split(/[\s,،./-]+|(?<=\d)(?=\p{L})|(?<=\p{L})(?=\d)/u).filter(Boolean);
  const named = words.filter((word) => /\p{L}/u.test(word));
  const figures = words.filter((word) => /^\d+$/.test(word));
  if (named.length + figures.length !== words.length || named.length > 1) return undefined;
  if (named.length === 1) {
    const month = monthOf(named[0]!, language);
    const [first, second] = figures;
    if (!month || !first || figures.length > 2 || (!second && !today)) return undefined;
    const [day, year] = first.length === 4 ? [second, first] : [first, second];
    return day && real(fullYear(year, today), month, day);
  }
  return fromFigures(figures, language, today);
}

function fromFigures(figures: string[], language: string, today: string | undefined): string | undefined {
  const order = dayOrder(language);
  if (figures.length === 1 && today) {
    const [one] = figures as [string];
    const now = dayParts(today);
    if (one.length <= 2) return real(now.year, now.month, one);
    if (one.length === 4) return fromFigures([one.slice(0, 2), one.slice(2)], language, today);
    if (one.length === 6 || one.length === 8) {
      const lengths = order.map((part) => (part === 'year' && one.length === 8 ? 4 : 2));
      const from = lengths.map((_, i) => lengths.slice(0, i).reduce((sum, length) => sum + length, 0));
      return fromFigures(
        lengths.map((length, i) => one.slice(from[i], from[i]! + length)),
        language,
        today,
      );
    }
    return undefined;
  }
  if (figures.length < 2 || figures.length > 3 || (figures.length === 2 && !today)) return undefined;
  let year: string | undefined;
  // A year that comes first is followed by the month, whoever writes.
  let yearFirst = false;
  if (figures.length === 3) {
    const long = figures.findIndex((figure) => figure.length === 4);
    if (long < 0 && !today) return undefined;
    const at = long >= 0 ? long : isOpen(dateLocale(language)) ? -1 : order.indexOf('year');
    if (at < 0) return undefined;
    yearFirst = long === 0;
    [year] = figures.splice(at, 1);
  }
  const [one, two] = figures as [string, string];
  const full = fullYear(year, today);
  if (yearFirst || Number(two) > 12) return real(full, one, two);
  if (Number(one) > 12) return real(full, two, one);
  // Of the two days it could be neither is taken.
  if (isOpen(dateLocale(language)) && Number(one) !== Number(two)) return undefined;
  return order.indexOf('month') < order.indexOf('day') ? real(full, one, two) : real(full, two, one);
}

/** Of two figures the year within fifty of this one. */
function fullYear(year: string | undefined, today: string | undefined): string {
  const now = today?.slice(0, 4) ?? '';
  if (year === undefined) return now;
  if (year.length !== 2 || !now) return year;
  const near = Number(now) - (Number(now) % 100) + Number(year);
  return String(near > Number(now) + 50 ? near - 100 : near <= Number(now) - 50 ? near + 100 : near);
}

/** How many days away something is said to be: today, tomorrow, +7. */
function daysAway(text: string, language: string): number | undefined {
  const count = /^([+\u2212-])\s*(\d{1,4})$/.exec(text);
  if (count) return count[1] === '+' ? Number(count[2]) : -Number(count[2]);
  const names = new Intl.RelativeTimeFormat(language, { numeric: 'auto' });
  return [0, 1, -1].find((days) => plain(names.format(days, 'day')) === text);
}

/** The month a name or its beginning stands for, of two figures. */
function monthOf(name: string, language: string): string | undefined {
  const known = once(months, dateLocale(language), () =>
    [...Array(12).keys()].map((month) =>
      plain(new Intl.DateTimeFormat(dateLocale(language), { month: 'long', calendar: 'gregory' }).format(new Date(2001, month, 1))),
    ),
  );
  const alike = known.flatMap((long, i) => (long === name || (name.length >= 3 && long.startsWith(name)) ? [i] : []));
  const at = alike.length === 1 ? alike[0]! : known.indexOf(name);
  return at < 0 ? undefined : String(at + 1).padStart(2, '0');
}

/** The day in ISO 8601 if there is such a day. */
function real(year: string, month: string, day: string): string | undefined {
  if (year.length !== 4) return undefined;
  const iso = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  const ms = Date.parse(`${iso}T00:00:00Z`);
  return !Number.isNaN(ms) && new Date(ms).toISOString().startsWith(iso) ? iso : undefined;
}

/** The day so many days later. */
export const plusDays = (iso: string, days: number): string =>
  new Date(Date.parse(`${iso}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** The time of day somebody means by a text, as 14:30: 14:30, 14.30, 1430, 14, 2 pm; undefined where it is none. */
export function readClock(written: string, language: string): string | undefined {
  const text = plain(written).replace(/\u202f/g, ' ');
  const found = /^(\d{1,2})(?:[:.h](\d{2})(?::\d{2})?|(\d{2}))?\s*(\p{L}[\p{L}.]*)?$/u.exec(text);
  if (!found) return undefined;
  const minute = found[2] ?? found[3] ?? '00';
  let hour = Number(found[1]);
  if (found[4]) {
    const half = halfOf(found[4].replaceAll('.', ''), language);
    if (half === undefined || hour < 1 || hour > 12) return undefined;
    hour = (hour % 12) + half * 12;
  }
  return hour < 24 && Number(minute) < 60 ? `${String(hour).padStart(2, '0')}:${minute}` : undefined;
}

/** Which half of the day a word stands for. */
function halfOf(word: string, language: string): number | undefined {
  const named = once(halves, dateLocale(language), () => {
    const format = new Intl.DateTimeFormat(dateLocale(language), { hour: 'numeric', hourCycle: 'h12', timeZone: 'UTC' });
    const name = (hour: number) =>
      plain(format.formatToParts(hour * 3_600_000).find(({ type }) => type === 'dayPeriod')?.value ?? '').replaceAll('.', '');
    return [name(9), name(15)];
  });
  const at = ['a', 'am'].includes(word) ? 0 : ['p', 'pm'].includes(word) ? 1 : named.indexOf(word);
  return at < 0 ? undefined : at;
}

/** A moment as one types it, by the wall clock of a zone: 31/12/2026 14:30. */
export const writeLocal = (local: string, language: string): string =>
  `${writeDay(local.slice(0, 10), language)} ${writeClock(local.slice(11), language, true)}`;

/**
 * The moment somebody means by a text: a day and a time by the wall clock of a zone, or ISO 8601 with an offset; in UTC.
 * @param today where it is known, a day alone is its beginning
 */
export function readMoment(written: string, language: string, timeZone: string, today?: string): string | undefined {
  const text = written.trim();
  if (/\d(Z|[+-]\d\d:\d\d)$/.test(text) && !Number.isNaN(Date.parse(text))) return new Date(text).toISOString().replace(/\.\d+Z$/, 'Z');
  for (const { index, 0: gap } of text.matchAll(/[\s,،]+|T(?=\d)/g)) {
    const day = readDay(text.slice(0, index), language, today);
    const time = day && readClock(text.slice(index + gap.length), language);
    if (time) return fromLocal(`${day}T${time}`, timeZone);
  }
  const day = today && readDay(text, language, today);
  return day && fromLocal(`${day}T00:00`, timeZone);
}
