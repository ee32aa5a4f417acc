// @vitest-environment node
// @vitest-environment node
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { check } from '../src/values/values.ts';
import type { FieldType, Json } from '../src/model/types.ts';

interface Case extends Pick<FieldType, 'type' | 'scale' | 'min' | 'max' | 'maxLength'> {
  value: Json;
  refused?: string;
}

/** Made by the core (`make vectors`): which values a field takes. */
const { cases } = JSON.parse(readFileSync(join(import.meta.dirname, '../../../tests/vectors/values.json'), 'utf8')) as { cases: Case[] };

/** A field as the service describes it: of money the digits are said, of a rating its ends. */
const fieldOf = (field: Case): FieldType => ({
  label: 'Value',
  ...field,
  ...(field.type === 'money' ? { scale: 2 } : {}),
  ...(field.type === 'rating' ? { min: field.min ?? 1, max: field.max ?? 5 } : {}),
});

describe('the form takes the values that the service takes', () => {
  it.each([...new Set(cases.map((each) => each.type))])('of type %s', (type) => {
    const some = cases.filter((each) => each.type === type);
    const wrong = some.filter(
      (each) => (check(fieldOf(each), 'Value', each.value, false, 'en') === undefined) !== (each.refused === undefined),
    );
    expect(wrong.map((each) => ({ ...each, here: check(fieldOf(each), 'Value', each.value, false, 'en') ?? 'taken' }))).toEqual([]);
  });

  it('says which character no text can hold', () => {
    expect(check({ type: 'text', label: 'Value' }, 'Value', 'a\u0001b', false, 'en')).toContain('U+0001');
    expect(check({ type: 'text', label: 'Value' }, 'Value', 'a\ud800b', false, 'nl')).toContain('U+D800');
  });
});

it('says what the entity allows of a number before what a number can be at all', () => {
  const hours = { type: 'integer', label: 'Engine hours', max: 99_999 };
  expect(check(hours, 'Engine hours', 1e20, false, 'en')).toBe(check(hours, 'Engine hours', 100_000, false, 'en'));
});
