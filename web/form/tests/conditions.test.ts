import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { evaluate, Moment, type Value } from '../src/conditions.ts';
import type { Compiled, Json } from '../src/types.ts';
import { toCondition } from '../src/values.ts';

interface Vector {
  expression: string;
  record: Record<string, Json>;
  result: boolean | 'fails';
  compiled: Compiled;
}

const vectors = JSON.parse(readFileSync(join(process.cwd(), '../tests/vectors/conditions.json'), 'utf8')) as Vector[];
const types: Record<string, string> = {
  name: 'text', propulsion: 'choice', length: 'decimal', engineHours: 'integer', livesAboard: 'boolean', equipment: 'choices', surveyDue: 'date', berth: 'reference', keeper: 'reference',
};

describe('conditions come out in the browser as in the service', () => {
  it.each(vectors.map((vector) => [vector.expression, vector] as const))('%s', (_, vector) => {
    const record: Record<string, Value> = {};
    for (const [field, type] of Object.entries(types)) record[field] = toCondition({ type, label: field }, vector.record[field]);
    const outcome = evaluate(vector.compiled, {
      record, user: { id: 'bram', roles: ['quay-hand'] }, mode: 'edit', locale: 'nl', today: new Moment(Date.parse('2026-11-23T00:00:00Z')), now: new Moment(Date.parse('2026-11-23T09:00:00Z')),
    });
    expect(typeof outcome === 'boolean' ? outcome : 'fails').toBe(vector.result);
  });
});
