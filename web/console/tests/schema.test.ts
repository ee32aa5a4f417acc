// @vitest-environment node
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv2020 from 'ajv/dist/2020.js';
import { describe, expect, it } from 'vitest';
import { parse } from 'yaml';

const root = join(process.cwd(), '..');
const read = (path: string) => JSON.parse(readFileSync(join(root, path), 'utf8')) as object;
const ajv = new Ajv2020({ strict: false, allErrors: false });
/** The one that holds anywhere, and the one made for the demo's folder, which knows its names. */
const schemas = { anywhere: read('docs/schema/document.json'), demo: { ...read('tests/vectors/demo-schema.json'), $id: 'demo' } };
const files = readdirSync(join(root, 'demo'), { recursive: true })
  .map(String)
  .filter((name) => name.endsWith('.yaml') && name !== 'people.yaml')
  .map((name) => [name, parse(readFileSync(join(root, 'demo', name), 'utf8')) as object] as const);
const form = (item: unknown, more: object = {}) => ({
  kind: 'full',
  key: 'a',
  entity: 'vessel',
  body: { pages: [{ sections: [{ rows: [[item]] }] }] },
  ...more,
});
const field = (more: object) => ({ kind: 'entity', key: 'a', fields: [{ key: 'b', type: 'text', ...more }] });

describe.each(Object.entries(schemas))('the schema for %s', (_, schema) => {
  it('is a schema by its own meta-schema', () => {
    expect(ajv.validateSchema(schema), JSON.stringify(ajv.errors)).toBe(true);
  });

  it.each(files)('takes demo/%s', (_name, document) => {
    expect(ajv.validate(schema, document), JSON.stringify(ajv.errors?.slice(0, 3))).toBe(true);
    expect(ajv.validate(schema, { $schema: './schema.json', ...document })).toBe(true);
  });

  it.each([
    ['a property that is none', form('name', { titel: 'x' })],
    ['a span that is too wide', form('name/13')],
    ['an item of no kind', form({ label: 'x' })],
    ['an icon that is none', { ...form('name'), body: { pages: [{ icon: 'ankor', sections: [] }] } }],
    ['a kind that is none', { ...form('name'), kind: 'wide' }],
    ['a field of no type', field({ type: 'txt' })],
    ['a property of a field that is none', field({ requird: true })],
    ['a scale out of range', field({ type: 'decimal', scale: 9 })],
    ['a role that may what nobody may', { kind: 'application', roles: [{ key: 'a', may: ['fly'] }] }],
    ['a rule without its layout', { kind: 'routing', rules: [{ entity: 'vessel' }] }],
    ['a choice without its key', { kind: 'choice-list', key: 'a', choices: [{ label: 'x' }] }],
  ])('refuses %s', (_name, document) => {
    expect(ajv.validate(schema, document)).toBe(false);
  });
});

describe('the schema made for a folder', () => {
  it.each([
    ['a field of another entity, in a row', form('dayRate')],
    ['one with its span', form('dayRate/6')],
    ['one that is an item', form({ field: 'dayRate' })],
    ['one that a change inserts', { kind: 'full', key: 'a', entity: 'vessel', extends: 'vessel', changes: [{ insert: 'dayRate' }] }],
    ['a piece that is not there', form({ piece: 'covr', slots: {} })],
    ['a style that is not there', form({ field: 'name', style: 'loud' })],
    ['a reference to no entity', field({ type: 'reference', target: 'boat' })],
    ['a choice list that is not there', field({ type: 'choice', choices: 'colours' })],
    ['a reader that is no role', field({ read: ['captain'] })],
    ['an entry for no entity', { kind: 'navigation', entries: [{ key: 'a', entity: 'boat' }] }],
  ])('refuses %s, which the other one takes', (_, document) => {
    expect(ajv.validate(schemas.demo, document)).toBe(false);
    expect(ajv.validate(schemas.anywhere, document), JSON.stringify(ajv.errors?.slice(0, 3))).toBe(true);
  });
});
