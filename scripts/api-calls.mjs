// Writes docs/api-calls.md, every call of the API, out of docs/openapi.json; with --check it only says whether the page is as it should be.
import { readFileSync, writeFileSync } from 'node:fs';

const docs = new URL('../docs/', import.meta.url);
const { paths } = JSON.parse(readFileSync(new URL('openapi.json', docs), 'utf8'));
const calls = Object.entries(paths).flatMap(([path, operations]) =>
  Object.entries(operations).map(([method, call]) => ({ path, method, ...call })),
);
const row = ({ method, path, operationId, summary, parameters = [] }) => {
  const query = parameters
    .filter((each) => each.in === 'query')
    .map((each) => `\`${each.name}\``)
    .join(', ');
  return `| \`${method.toUpperCase()} ${path}\` | \`${operationId}\` | ${summary.replaceAll('|', '\\|')} | ${query} |`;
};
const tags = [...new Set(calls.map((call) => call.tags[0]))].sort();
const page = [
  '# Calls of the API',
  'Every call with its operation id, what it does and its query parameters. Bodies and answers are in [openapi.json](openapi.json); ' +
    'what holds for all calls is in [api.md](api.md).',
  'This page is made by `make openapi`.',
  ...tags.flatMap((tag) => [
    '',
    `## ${tag[0].toUpperCase()}${tag.slice(1)}`,
    '| call | operation | what it does | parameters |',
    '| --- | --- | --- | --- |',
    ...calls.filter((call) => call.tags[0] === tag).map(row),
  ]),
  '',
].join('\n');
const file = new URL('api-calls.md', docs);
if (!process.argv.includes('--check')) writeFileSync(file, page);
else if (readFileSync(file, 'utf8') !== page) {
  console.error('docs/api-calls.md is not what docs/openapi.json says; run make openapi.');
  process.exit(1);
}
