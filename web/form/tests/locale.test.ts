// @vitest-environment node
import { afterEach, describe, expect, it } from 'vitest';
import { localeIn, writeAsIn, writeMoment } from '../src/values/locale.ts';
import { fromText } from '../src/values/pastedValues.ts';
import { display, parseNumber } from '../src/values/values.ts';
import type { FieldType } from '../src/model/types.ts';

const field = (type: string, more: Partial<FieldType> = {}) => ({ type, scale: 2, ...more }) as FieldType;
const shown = (type: string, value: string | number, language: string) => display(field(type), value, language, 'UTC').replace(/\s/g, ' ');

afterEach(() => writeAsIn(null));

describe('whose dates and numbers are written', () => {
  it('is the language’s own where no region is said', () => {
    expect(shown('date', '2026-12-01', 'en')).toBe('Dec 1, 2026');
    expect(shown('time', '14:30', 'en')).toBe('2:30 PM');
    expect(shown('date', '2026-12-01', 'nl')).toBe('1 dec 2026');
    expect(shown('money', 12345.6, 'nl')).toBe('12.345,60');
  });

  it('is the region’s, in words of the language', () => {
    writeAsIn('NL');
    expect(shown('date', '2026-12-01', 'en')).toBe('1 Dec 2026');
    expect(shown('time', '14:30', 'en')).toBe('14:30');
    expect(shown('dateTime', '2026-12-01T14:30:00Z', 'en')).toBe('1 Dec 2026, 14:30');
    expect(shown('money', 12345.6, 'en')).toBe('12.345,60');
    expect(parseNumber('12.345,6', 'en')).toBe(12345.6);
  });

  it('keeps a language’s words where nobody writes it in that region, and takes the region’s figures and clock', () => {
    writeAsIn('US');
    expect(shown('date', '2026-12-01', 'nl')).toBe('1 dec 2026');
    expect(shown('time', '14:30', 'nl')).toBe('02:30 p.m.');
    expect(shown('money', 12345.6, 'nl')).toBe('12,345.60');
    expect(localeIn('ar', 'NL').numbers).toMatch(/^nl/);
  });

  it('is never anything but a region: what is none changes nothing', () => {
    for (const none of ['', 'nl', 'Netherlands', '<b>', '🌊', 'N1']) {
      writeAsIn(none);
      expect(shown('date', '2026-12-01', 'en')).toBe('Dec 1, 2026');
    }
  });

  it('decides which of two days was pasted, which English alone does not', () => {
    expect(fromText(field('date'), '3/4/2026', 'en', 'UTC')).not.toBe('2026-04-03');
    writeAsIn('GB');
    expect(fromText(field('date'), '3/4/2026', 'en', 'UTC')).toBe('2026-04-03');
    writeAsIn('US');
    expect(fromText(field('date'), '3/4/2026', 'en', 'UTC')).toBe('2026-03-04');
  });

  it('is found anew when the region changes while a page is open', () => {
    const at = new Date('2026-12-01T14:30:00Z');
    expect(writeMoment(at, 'en', { dateStyle: 'short', timeZone: 'UTC' })).toBe('12/1/26');
    writeAsIn('GB');
    expect(writeMoment(at, 'en', { dateStyle: 'short', timeZone: 'UTC' })).toBe('01/12/2026');
  });
});
