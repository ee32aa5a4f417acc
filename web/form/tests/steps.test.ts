import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { FormStore } from '../src/state/store.ts';
import type { CompiledCondition, Values } from '../src/model/types.ts';
import { around, field, formOf, page, row, section } from './forms.ts';

interface StepCase {
  expression: string;
  record: Values;
  berth: Values;
  compiled: CompiledCondition;
  reads: string[];
  outcome: boolean | 'fails';
}

it('agrees with the service on records as they travel and on those their references lead to', async () => {
  const { cases } = JSON.parse(readFileSync(join(process.cwd(), '../tests/vectors/steps.json'), 'utf8')) as { cases: StepCase[] };
  expect(cases.length).toBeGreaterThan(1_000);
  const types = ['text', 'integer', 'decimal', 'money', 'boolean', 'date', 'time', 'dateTime', 'choices', 'rating'];
  const fields = Object.fromEntries(types.map((type) => [type, { type, label: type }]));
  for (const each of cases) {
    const decision = { when: each.compiled, reads: each.reads };
    const store = new FormStore(
      formOf(
        { pages: [page('a', section('s', [row('r', field('decided', { visible: decision, readOnly: decision }))]))] },
        {
          fields: { ...fields, decided: { type: 'text', label: 'Decided' }, berth: { type: 'reference', label: 'Berth', target: 'berth' } },
          steps: Object.fromEntries(types.map((type) => [`berth.${type}`, type])),
        },
      ),
      each.record,
      {},
      { ...around, timeZone: 'UTC', now: () => new Date('2026-05-31T14:30:00Z'), read: () => Promise.resolve(each.berth) },
    );
    await Promise.resolve();
    await Promise.resolve();
    const { visible, readOnly } = store.state('decided');
    expect({ visible, readOnly }, JSON.stringify({ ...each, compiled: undefined })).toEqual({
      visible: each.outcome === true,
      readOnly: each.outcome !== false,
    });
  }
});
