import { describe, expect, it } from 'vitest';
import type { FieldInfo } from '../src/api/client.ts';
import { sampleOf, samples } from '../src/features/designer/samples.ts';
import { forgetRecent, recents, rememberRecent } from '../src/shell/recents.ts';

const field = (key: string, type: string, more: Partial<FieldInfo> = {}) =>
  ({ key, type, label: `The ${key}`, retired: false, maxLength: null, choices: null, ...more }) as unknown as FieldInfo;
const choices = [
  { key: 'a', label: 'Oak', retired: false },
  { key: 'b', label: 'Glass-fibre reinforced plastic', retired: false },
  { key: 'c', label: 'Something of old that nobody has any more', retired: true },
];
const fields = [
  field('name', 'text', { maxLength: 40 }),
  field('notes', 'longText', { maxLength: 2_000 }),
  field('mail', 'email'),
  field('page', 'url'),
  field('hours', 'integer'),
  field('length', 'decimal'),
  field('rate', 'money'),
  field('stars', 'rating'),
  field('afloat', 'boolean'),
  field('built', 'date'),
  field('tide', 'time'),
  field('seen', 'dateTime'),
  field('hull', 'choice', { choices } as never),
  field('gear', 'choices', { choices } as never),
  field('keeper', 'reference'),
  field('photo', 'image'),
  field('gone', 'text', { retired: true }),
];

describe('a made-up record', () => {
  it.each(Object.keys(samples).map(Number))('%i has what every field takes, and leads nowhere', (id) => {
    const values = sampleOf(fields, id);
    expect(Object.keys(values)).toEqual(fields.map((each) => each.key).filter((key) => !['keeper', 'photo', 'gone'].includes(key)));
    expect(String(values['name']).length).toBeLessThanOrEqual(40);
    expect(String(values['notes']).length).toBeLessThanOrEqual(2_000);
    expect(String(values['mail'])).toMatch(/^[^@ ]+@[a-z.-]+$/);
    expect(new URL(String(values['page'])).protocol).toBe('https:');
    expect(Number.isNaN(Date.parse(String(values['seen'])))).toBe(false);
    expect(Number(values['stars'])).toBeLessThanOrEqual(5);
  });

  it('takes all the room it may where everything is long', () => {
    const [usual, long] = [sampleOf(fields, -1), sampleOf(fields, -2)];
    expect([usual['hull'], long['hull']], 'the longest choice that is still given').toEqual(['a', 'b']);
    expect(long['gear']).toEqual(['a', 'b']);
    for (const key of ['name', 'notes', 'mail', 'page', 'hours', 'length', 'rate'])
      expect(String(long[key]).length, key).toBeGreaterThanOrEqual(String(usual[key]).length);
  });
});

describe('what was opened lately', () => {
  it('is kept newest first, each once, so many and no more, for each person on her own', () => {
    localStorage.clear();
    for (let id = 1; id <= 14; id++) rememberRecent('ada', { entity: 'vessel', id, title: `Vessel ${id}` });
    rememberRecent('ada', { entity: 'vessel', id: 10, title: 'Kittiwake' });
    rememberRecent('ada', { entity: 'berth', id: 10, title: 'A10' });
    expect(recents('ada').map((each) => `${each.entity} ${each.id}`)).toEqual([
      'berth 10',
      'vessel 10',
      'vessel 14',
      'vessel 13',
      'vessel 12',
      'vessel 11',
      'vessel 9',
      'vessel 8',
      'vessel 7',
      'vessel 6',
      'vessel 5',
      'vessel 4',
    ]);
    expect(recents('ada')[1]!.title).toBe('Kittiwake');
    expect(recents('bram')).toEqual([]);
    forgetRecent('ada', 'vessel', 10);
    expect(recents('ada').map((each) => each.id)).not.toContain('vessel 10');
    localStorage.setItem('recents:ada', 'not a list');
    expect(recents('ada'), 'what cannot be read is as if nothing were there').toEqual([]);
  });
});
