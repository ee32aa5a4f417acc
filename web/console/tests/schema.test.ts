// @vitest-environment node
// @vitest-environment node
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv2020 from 'ajv/dist/2020.js';
import { expect, it } from 'vitest';
import { parse } from 'yaml';

const root = join(process.cwd(), '..');
const schema = JSON.parse(readFileSync(join(root, 'docs/schema/layout.json'), 'utf8')) as object;
const ajv = new Ajv2020({ strict: false, allErrors: false });
const files = (folder: string) =>
  readdirSync(join(root, folder))
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => [name, parse(readFileSync(join(root, folder, name), 'utf8')) as unknown] as const);

it('is a schema by its own meta-schema', () => {
  expect(ajv.validateSchema(schema), JSON.stringify(ajv.errors)).toBe(true);
});

it.each(files('demo/layouts'))('takes demo/layouts/%s', (_, layout) => {
  const valid = ajv.validate(schema, layout);
  expect(valid, JSON.stringify(ajv.errors?.slice(0, 3))).toBe(true);
});

it.each([
  ['a property that is none', { kind: 'full', key: 'a', entity: 'vessel', body: { pages: [] }, titel: 'x' }],
  ['a span that is too wide', { kind: 'full', key: 'a', entity: 'vessel', body: { pages: [{ sections: [{ rows: [['name/13']] }] }] } }],
  ['an item of no kind', { kind: 'full', key: 'a', entity: 'vessel', body: { pages: [{ sections: [{ rows: [[{ label: 'x' }]] }] }] } }],
  ['a kind that is none', { kind: 'wide', key: 'a', entity: 'vessel', body: { pages: [] } }],
])('refuses %s', (_, layout) => {
  expect(ajv.validate(schema, layout)).toBe(false);
});
