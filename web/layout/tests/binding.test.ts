// @vitest-environment node
import { describe, expect, it } from 'vitest';
import { guessBinding, type NamedField, type SlotNeed } from '../src/index.ts';

const slots: SlotNeed[] = [
  { slot: 'insurer', label: 'Insurer', types: ['text'], optional: false },
  { slot: 'policy', label: 'Policy', types: ['text'], optional: false },
  { slot: 'sum', label: 'Sum insured', types: ['money', 'decimal'], optional: true },
  { slot: 'until', label: 'Valid until', types: ['date'], optional: false },
];
const cover = (subject: string): NamedField[] => [
  { key: `${subject}Insurer`, label: `${subject}: insurer`, type: 'text' },
  { key: `${subject}Policy`, label: `${subject}: policy`, type: 'text' },
  { key: `${subject}Sum`, label: `${subject}: sum`, type: 'money' },
  { key: `${subject}Until`, label: `${subject}: valid until`, type: 'date' },
];
const others: NamedField[] = [
  { key: 'name', label: 'Name', type: 'text' },
  { key: 'agent', label: 'Agent', type: 'text' },
  { key: 'launched', label: 'Launched', type: 'date' },
];
const guess = (fields: NamedField[], ...placed: string[]) => guessBinding(slots, fields, new Set(placed));
const bound = (subject: string) => ({
  insurer: `${subject}Insurer`,
  policy: `${subject}Policy`,
  sum: `${subject}Sum`,
  until: `${subject}Until`,
});

describe('the fields of a piece', () => {
  it('are one set that shares a subject, however the fields of two are mixed', () => {
    const [hull, third] = [cover('hull'), cover('third')];
    const mixed = [third[1]!, hull[0]!, hull[3]!, third[0]!, hull[1]!, others[0]!, third[3]!, third[2]!, hull[2]!];
    expect(guess(mixed)).toEqual({ slots: bound('hull'), sure: true });
    expect(guess(mixed, 'hullInsurer', 'hullPolicy', 'hullSum', 'hullUntil')).toEqual({ slots: bound('third'), sure: true });
  });

  it('are asked for where all are on the form already, or not every slot has one by its name', () => {
    expect(guess(cover('hull'), 'hullPolicy')).toEqual({ slots: bound('hull'), sure: false });
    expect(guess([...others, ...cover('hull').filter(({ key }) => key !== 'hullUntil')])).toEqual({
      slots: { ...bound('hull'), until: 'launched' },
      sure: false,
    });
    expect(guess(others).sure).toBe(false);
    expect(guess([]).slots).toEqual({});
  });

  it('are known by their labels where the keys say nothing', () => {
    const fields = cover('Hull').map((field, i) => ({ ...field, key: `f${i}` }));
    expect(guess(fields)).toEqual({ slots: { insurer: 'f0', policy: 'f1', sum: 'f2', until: 'f3' }, sure: true });
  });

  it('may do without what is optional, and are never of another type or retired', () => {
    const fields = cover('hull').filter(({ type }) => type !== 'money');
    expect(guess(fields)).toEqual({ slots: { insurer: 'hullInsurer', policy: 'hullPolicy', until: 'hullUntil' }, sure: true });
    expect(guess(cover('hull').map((field) => ({ ...field, retired: true }))).slots).toEqual({});
  });
});
