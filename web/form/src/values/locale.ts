/** By what dates and numbers are written: tags of BCP 47 for Intl, and the clock where it is another than that of the dates' tag. */
export interface Locale {
  dates: string;
  numbers: string;
  hourCycle: Intl.DateTimeFormatOptions['hourCycle'];
}

type Style = Pick<Intl.DateTimeFormatOptions, 'dateStyle' | 'timeStyle' | 'timeZone'>;

let region: string | undefined;

const locales = new Map<string, Locale>();

/** Making a formatter costs more than all it formats on a page. */
const formats = new Map<string, Intl.DateTimeFormat>();

/** From here on dates, times and numbers are written as in a region (ISO 3166-1); as in the language without one there is. */
export function writeAsIn(next: string | null | undefined): void {
  region = next && /^[A-Z]{2}$/.test(next) ? next : undefined;
  locales.clear();
}

/** The tag numbers of a language's texts are written by. */
export const numberLocale = (language: string): string => localeOf(language).numbers;

/** The tag days of a language's texts are written by. */
export const dateLocale = (language: string): string => localeOf(language).dates;

/** A day, a time or both, as whoever reads writes them: Dec 1, 2026, 6:00 AM; 1 Dec 2026, 06:00. */
export function writeMoment(at: Date, language: string, how: Style = { dateStyle: 'medium', timeStyle: 'short' }): string {
  const { dates, hourCycle } = localeOf(language);
  const key = [dates, hourCycle, how.dateStyle, how.timeStyle, how.timeZone].join();
  let format = formats.get(key);
  if (!format) {
    const clock = how.timeStyle && hourCycle ? { hourCycle } : {};
    formats.set(key, (format = new Intl.DateTimeFormat(dates, { ...how, ...clock, calendar: 'gregory', numberingSystem: 'latn' })));
  }
  return format.format(at);
}

/** The tag times of day are written by, and the clock where it is another than the tag's. */
export function clockLocale(language: string): { locale: string; hourCycle: Locale['hourCycle'] } {
  const { dates, hourCycle } = localeOf(language);
  return { locale: dates, hourCycle };
}

function localeOf(language: string): Locale {
  let locale = locales.get(language);
  if (!locale) locales.set(language, (locale = localeIn(language, region)));
  return locale;
}

/** How a language's texts are joined by the figures of a region, whoever reads. */
export function localeIn(language: string, region: string | undefined): Locale {
  if (!region) return { dates: language, numbers: language, hourCycle: undefined };
  const both = `${language.split('-')[0]!}-${region}`;
  if (new Intl.DateTimeFormat(both).resolvedOptions().locale === both) return { dates: both, numbers: both, hourCycle: undefined };
  // Where nobody writes the language in that region, its words stay and the region's figures and clock are taken.
  const own = new Intl.Locale(`und-${region}`).maximize().baseName;
  return {
    dates: language,
    numbers: own,
    hourCycle: new Intl.DateTimeFormat(own, { timeStyle: 'short' }).resolvedOptions().hourCycle,
  };
}
