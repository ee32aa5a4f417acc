const format = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });

/** A moment as the configurator's pages say it, in the time of whoever reads: Dec 1, 2026, 6:00 AM. */
export const moment = (at: string | Date): string => format.format(new Date(at));
