import { writeMoment } from '#form';
import { spoken } from './texts.ts';

/** A moment as the configurator's pages say it, in the language, the region and the time of whoever reads: Dec 1, 2026, 6:00 AM. */
export const moment = (at: string | Date, timeStyle: 'short' | 'medium' = 'short'): string =>
  writeMoment(new Date(at), spoken(), { dateStyle: 'medium', timeStyle });
