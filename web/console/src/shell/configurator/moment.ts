import { spoken } from './texts.ts';

const formats = new Map<string, Intl.DateTimeFormat>();

/** A moment as the configurator's pages say it, in the language and the time of whoever reads: Dec 1, 2026, 6:00 AM. */
export function moment(at: string | Date, timeStyle: 'short' | 'medium' = 'short'): string {
  const key = `${spoken()} ${timeStyle}`;
  let format = formats.get(key);
  if (!format) formats.set(key, (format = new Intl.DateTimeFormat(spoken(), { dateStyle: 'medium', timeStyle, numberingSystem: 'latn' })));
  return format.format(new Date(at));
}
