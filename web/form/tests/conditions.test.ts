// @vitest-environment node
// @vitest-environment node
import { readFileSync } from 'node:fs';
import { isDeepStrictEqual } from 'node:util';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { evaluate, Failure, Moment, type Value } from '../src/conditions/index.ts';
import type { CompiledCondition, Json } from '../src/model/types.ts';
import { toCondition } from '../src/values/values.ts';

interface Vector {
  expression: string;
  record: Record<string, Json>;
  result: boolean | 'fails';
  compiled: CompiledCondition;
}

const vectors = JSON.parse(readFileSync(join(process.cwd(), '../tests/vectors/conditions.json'), 'utf8')) as Vector[];
const types: Record<string, string> = {
  name: 'text',
  propulsion: 'choice',
  length: 'decimal',
  engineHours: 'integer',
  livesAboard: 'boolean',
  equipment: 'choices',
  surveyDue: 'date',
  berth: 'reference',
  keeper: 'reference',
};

describe('conditions come out in the browser as in the service', () => {
  it.each(vectors.map((vector) => [vector.expression, vector] as const))('%s', (_, vector) => {
    const record: Record<string, Value> = {};
    for (const [field, type] of Object.entries(types)) record[field] = toCondition({ type }, vector.record[field]);
    const outcome = evaluate(vector.compiled, {
      record,
      user: { id: 'bram', roles: ['quay-hand'] },
      mode: 'edit',
      locale: 'nl',
      today: Moment.ofMs(Date.parse('2026-11-23T00:00:00Z')),
      now: Moment.ofMs(Date.parse('2026-11-23T09:00:00Z')),
    });
    expect(typeof outcome === 'boolean' ? outcome : 'fails').toBe(vector.result);
  });
});

interface Conformance {
  needingNoMessage: number;
  tests: {
    name: string;
    expression: string;
    bindings?: Record<string, Bound>;
    value?: Bound;
    fails?: true;
    compiled?: CompiledCondition;
  }[];
}

type Bound = {
  nullValue?: 0;
  boolValue?: boolean;
  int64Value?: string;
  doubleValue?: number | string;
  stringValue?: string;
  listValue?: { values?: Bound[] };
  mapValue?: { entries?: { key: Bound; value: Bound }[] };
};

/** A value as the conformance data writes it. */
function read(bound: Bound): Value {
  if (bound.boolValue !== undefined) return bound.boolValue;
  if (bound.int64Value !== undefined) return BigInt(bound.int64Value);
  if (bound.doubleValue !== undefined) return Number(bound.doubleValue);
  if (bound.stringValue !== undefined) return bound.stringValue;
  if (bound.listValue) return (bound.listValue.values ?? []).map(read);
  if (bound.mapValue) return new Map((bound.mapValue.entries ?? []).map((entry) => [read(entry.key), read(entry.value)]));
  return null;
}

it('passes the official conformance data for the features conditions have', () => {
  const data = JSON.parse(readFileSync(join(process.cwd(), '../tests/vectors/cel.json'), 'utf8')) as Conformance;
  const wrong = data.tests.filter((test) => {
    const names = Object.fromEntries(Object.entries(test.bindings ?? {}).map(([name, bound]) => [name, read(bound)]));
    // What does not parse never reaches a browser.
    const outcome = test.compiled === undefined ? new Failure('no tree') : evaluate(test.compiled, names);
    return test.fails ? !(outcome instanceof Failure) : !isDeepStrictEqual(outcome, read(test.value!));
  });
  console.log(
    `CEL conformance, TypeScript: ${data.tests.length - wrong.length} passed of ${data.tests.length} in scope, ` +
      `of ${data.needingNoMessage} that need no Protobuf message`,
  );
  expect(wrong.map((test) => test.name)).toEqual([]);
});

interface GeneratedCase {
  compiled: CompiledCondition;
  record: Record<string, Bound>;
  outcome: boolean | 'fails';
  expression: string;
}

it('agrees with the service on generated conditions and records', () => {
  const generated = JSON.parse(readFileSync(join(process.cwd(), '../tests/vectors/generated.json'), 'utf8')) as GeneratedCase[];
  expect(generated.length).toBeGreaterThan(300);
  for (const each of generated) {
    const record = Object.fromEntries(Object.entries(each.record).map(([field, bound]) => [field, read(bound)]));
    const outcome = evaluate(each.compiled, { record, user: { id: 'bram', roles: ['quay-hand'] }, mode: 'edit' });
    expect(typeof outcome === 'boolean' ? outcome : 'fails', `${each.expression} with ${JSON.stringify(each.record)}`).toBe(each.outcome);
  }
});
