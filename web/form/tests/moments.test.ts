// @vitest-environment node
import { afterEach, describe, expect, it } from 'vitest';
import { placesOf, partAt, stepped } from '../src/editors/dayParts.ts';
import { fromLocal, toLocal } from '../src/values/localTime.ts';
import { writeAsIn } from '../src/values/locale.ts';
import type { FieldType } from '../src/model/types.ts';
import { check, display, toCondition } from '../src/values/values.ts';
import { dayShape, plusDays, readClock, readDay, readMoment, writeClock, writeDay, writeLocal } from '../src/values/moments.ts';

afterEach(() => writeAsIn(undefined));

const places: [language: string, region: string | undefined][] = [
  ['en', undefined],
  ['en', 'GB'],
  ['en', 'US'],
  ['en', 'SA'],
  ['en', 'JP'],
  ['nl', undefined],
  ['nl', 'BE'],
  ['nl', 'US'],
  ['ar', undefined],
  ['ar', 'SA'],
  ['ar', 'EG'],
  ['de', 'CH'],
  ['hu', undefined],
  ['th', undefined],
  ['fa', 'IR'],
];

/** Days all over the calendar, its edges and leap days among them; the same ones each time. */
const days = [
  '0001-01-01',
  '1899-12-31',
  '2000-02-29',
  '2024-02-29',
  '9999-12-31',
  ...[...Array(60).keys()].map((i) => plusDays('1926-01-07', i * 577)),
];

describe.each(places)('days and times in %s as in %s', (language, region) => {
  it('are read as they are written', () => {
    writeAsIn(region);
    for (const day of days) {
      expect(readDay(writeDay(day, language), language), writeDay(day, language)).toBe(day);
      expect(readDay(day, language)).toBe(day);
    }
    for (let minute = 0; minute < 1440; minute += 7) {
      const time = new Date(minute * 60_000).toISOString().slice(11, 16);
      expect(readClock(writeClock(time, language), language), writeClock(time, language)).toBe(time);
      expect(readClock(time, language)).toBe(time);
      const local = `${days[10 + (minute % 50)]!}T${time}`;
      const zone = ['UTC', 'Pacific/Apia', 'Asia/Kolkata'][minute % 3]!;
      const moment = fromLocal(local, zone);
      expect(readMoment(writeLocal(toLocal(moment, zone), language), language, zone)).toBe(moment);
    }
  });

  it('have a shape of three parts', () => {
    writeAsIn(region);
    expect(
      dayShape(language)
        .split(/[-/. ]+/)
        .filter(Boolean),
    ).toHaveLength(3);
  });

  it('are stepped a part at a time, and back', () => {
    writeAsIn(region);
    const wall = '2026-03-15T09:41';
    for (const editor of ['date', 'time', 'date-time']) {
      const text =
        editor === 'date' ? writeDay(wall, language) : editor === 'time' ? writeClock('09:41', language) : writeLocal(wall, language);
      for (const { part, from, to } of placesOf(text, editor, language)) {
        expect(partAt(text, to, editor, language)).toBe(part);
        expect(from).toBeLessThan(to);
        expect(stepped(stepped(wall, part, 1), part, -1)).toBe(wall);
        expect(stepped(wall, part, 1)).not.toBe(wall);
      }
    }
  });
});

describe('a day typed in haste', () => {
  const today = '2026-11-30';
  it.each([
    ['GB', '3/4/2026', '2026-04-03'],
    ['US', '3/4/2026', '2026-03-04'],
    ['GB', '3.4.26', '2026-04-03'],
    ['GB', '3 4 26', '2026-04-03'],
    ['GB', '030426', '2026-04-03'],
    ['US', '030426', '2026-03-04'],
    ['GB', '03042026', '2026-04-03'],
    ['GB', '0304', '2026-04-03'],
    ['GB', '3/4', '2026-04-03'],
    ['GB', '7', '2026-11-07'],
    ['GB', '31', undefined],
    ['GB', '31/4', undefined],
    ['GB', '3 apr', '2026-04-03'],
    ['GB', 'Apr 3, 2027', '2027-04-03'],
    ['GB', '3 April 27', '2027-04-03'],
    ['GB', '3apr2027', '2027-04-03'],
    ['GB', '3 ju', undefined],
    ['GB', '3 ma', undefined],
    ['GB', 'today', '2026-11-30'],
    ['GB', 'Tomorrow', '2026-12-01'],
    ['GB', '+7', '2026-12-07'],
    ['GB', '-30', '2026-10-31'],
    ['GB', '1/1/76', '2076-01-01'],
    ['GB', '1/1/77', '1977-01-01'],
    ['GB', '1/1/1', undefined],
    ['GB', '٣/٤/٢٠٢٦', '2026-04-03'],
    ['GB', 'soon', undefined],
    ['GB', '3/4/5/6', undefined],
    ['GB', '0', undefined],
    ['GB', '12345', undefined],
    ['GB', '3/4/12345', undefined],
    [undefined, '3/4/2026', undefined],
    [undefined, '4/4/2026', '2026-04-04'],
    [undefined, '25/4/2026', '2026-04-25'],
    [undefined, '20260403', '2026-04-03'],
  ])('as in %s: %s', (region, text, day) => {
    writeAsIn(region);
    expect(readDay(text, 'en', today)).toBe(day);
  });

  it('needs all of it where nobody knows what day it is', () => {
    writeAsIn('GB');
    for (const text of ['3', '3/4', '0304', '3 apr', 'today', '+1', '3/4/26']) expect(readDay(text, 'en'), text).toBeUndefined();
  });

  it('is said in the language of the form', () => {
    expect(readDay('morgen', 'nl', today)).toBe('2026-12-01');
    expect(readDay('3 mrt', 'nl', today)).toBe(undefined);
    expect(readDay('3 maart', 'nl', today)).toBe('2026-03-03');
    expect(readDay('غدًا', 'ar', today) ?? readDay('غداً', 'ar', today)).toBe('2026-12-01');
  });
});

it.each([
  ['9', '09:00'],
  ['905', '09:05'],
  ['0905', '09:05'],
  ['9.05', '09:05'],
  ['9h05', '09:05'],
  ['9:05:59', '09:05'],
  ['12 am', '00:00'],
  ['12:30 p.m.', '12:30'],
  ['9 pm', '21:00'],
  ['9p', '21:00'],
  ['13 pm', undefined],
  ['24:00', undefined],
  ['9:60', undefined],
  ['9:5', undefined],
  ['noon', undefined],
  ['', undefined],
])('a time of day: %s', (text, time) => {
  expect(readClock(text, 'en')).toBe(time);
});

it.each([
  ['3/4/2026 14:30', '2026-04-03T12:30:00Z'],
  ['3 apr 2 pm', '2026-04-03T12:00:00Z'],
  ['2026-04-03T14:30', '2026-04-03T12:30:00Z'],
  ['2026-04-03T14:30:00+05:00', '2026-04-03T09:30:00Z'],
  ['3/4/2026', '2026-04-02T22:00:00Z'],
  ['3/4/2026 25:00', undefined],
  ['14:30', undefined],
  ['31/12/9999 23:59', '9999-12-31T22:59:00Z'],
])('a moment: %s', (text, moment) => {
  writeAsIn('GB');
  expect(readMoment(text, 'en', 'Europe/Amsterdam', '2026-11-30')).toBe(moment);
});

it('steps to the last day of a month that has no such day', () => {
  expect(stepped('2026-01-31T00:00', 'month', 1)).toBe('2026-02-28T00:00');
  expect(stepped('2024-02-29T00:00', 'year', 1)).toBe('2025-02-28T00:00');
  expect(stepped('9999-12-31T00:00', 'day', 1)).toBe('9999-12-31T00:00');
});

it('shows what is no day, time or moment as it was typed, whatever it is', () => {
  const odd = [
    'soon',
    '2026-13-45',
    '99:99',
    '2026-02-30T99:00:00Z',
    '-',
    '0',
    '\u202e',
    '{name}',
    '31/12',
    '2026-1-1',
    'T',
    '9999-99-99',
    '2026',
    'soon 3',
    'May 1',
  ];
  for (const type of ['date', 'time', 'dateTime'] as const)
    for (const value of odd) {
      expect(display({ type, label: 'Due' } as FieldType, value, 'en', 'Pacific/Apia'), `${type} ${value}`).toBe(value);
      expect(check({ type, label: 'Due' } as FieldType, 'Due', value, false, 'en')).toMatch(/^Due must be a /);
      expect(toCondition({ type, label: 'Due' } as FieldType, value), `${type} ${value}`).toBeNull();
    }
});
