import { describe, expect, it } from 'vitest';
import type { ResolvedForm } from '#form';
import { filterCondition, filterForm } from '../src/features/records/filters.ts';
import { translateIn } from '../src/shell/words.ts';

const list = {
  layout: 'fleet',
  entity: 'vessel',
  kind: 'list',
  mode: 'view',
  language: 'en',
  title: 'Fleet',
  pages: [],
  arrangement: 'stack',
  filters: ['propulsion', 'equipment', 'length', 'surveyDue', 'seen', 'livesAboard', 'berth', 'name', 'gone'],
  fields: {
    propulsion: { type: 'choice', label: 'Propulsion', choices: [{ key: 'sail', label: 'Sail' }] },
    equipment: { type: 'choices', label: 'Equipment', choices: [] },
    length: { type: 'decimal', label: 'Length', min: 1 },
    surveyDue: { type: 'date', label: 'Survey due', required: true },
    seen: { type: 'dateTime', label: 'Seen' },
    livesAboard: { type: 'boolean', label: 'Lives aboard' },
    berth: { type: 'reference', label: 'Berth', target: 'berth' },
    name: { type: 'text', label: 'Name' },
  },
} as unknown as ResolvedForm;

const start = (day: string) => `${day}T00:00:00Z`;

describe('filters of a list', () => {
  it('are fields of a form: ranges with two ends, nothing required, what may not be read left out', () => {
    const form = filterForm(list, translateIn('en'));
    expect(Object.keys(form.fields)).toEqual([
      'propulsion',
      'equipment',
      'length.from',
      'length.to',
      'surveyDue.from',
      'surveyDue.to',
      'seen.from',
      'seen.to',
      'livesAboard',
      'berth',
      'name',
    ]);
    expect(form.fields['surveyDue.from']).toEqual({ type: 'date', label: 'Survey due from' });
    expect(form.fields['length.from']!.min).toBeUndefined();
  });

  it.each([
    [{ propulsion: 'sail' }, "record.propulsion == 'sail'"],
    [{ equipment: 'vhf' }, "'vhf' in record.equipment"],
    [{ 'length.from': 8, 'length.to': 12.5 }, 'record.length >= 8.0 && record.length <= 12.5'],
    [{ 'surveyDue.to': '2027-03-31' }, "record.surveyDue <= timestamp('2027-03-31T00:00:00Z')"],
    [{ 'seen.to': '2026-12-31' }, "record.seen < timestamp('2027-01-01T00:00:00Z')"],
    [{ livesAboard: 'false' }, 'record.livesAboard == false'],
    [{ berth: 4 }, 'record.berth == 4'],
    [{ name: "O'Hara\\" }, "record.name.contains('O\\'Hara\\\\')"],
    [{ name: null, propulsion: '', other: 'x' }, ''],
    // Half a number is no filter yet.
    [{ 'length.from': '12,' }, ''],
  ])('%j asks %s', (values, condition) => {
    expect(filterCondition(list, values as never, start)).toBe(condition);
  });
});
