// Turns the official CEL conformance data (@bufbuild/cel-spec, a development dependency of web/) into tests/vectors/cel.json, which both
// evaluators are held to. Run by `make vectors`. What is left out is left out by feature of the language, never by single test.
import { createRequire } from 'node:module';
import { writeFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';

const require = createRequire(new URL('../web/package.json', import.meta.url));
const { tests } = await import(pathToFileURL(require.resolve('@bufbuild/cel-spec/testdata/conformance.js')).href);

const all = [];
(function walk(suite, path) {
  for (const test of suite.tests ?? []) all.push({ path: path.join('/'), ...test.original });
  for (const inner of suite.suites ?? []) walk(inner, [...path, inner.name]);
})({ suites: [tests].flat() }, []);

const text = (value) => JSON.stringify(value, (_, each) => (typeof each === 'bigint' ? String(each) : each)) ?? '';
/** A test's data, its expression without white space and comments, which may stand within the name of a message. */
const data = (test) => text({ ...test, expr: test.expr.replace(/\/\/.*/g, '').replace(/\s+/g, ''), path: '', name: '', description: '' });
/** The expression without what stands in quotation marks, so that words in texts are not taken for the language's. */
const bare = (test) => test.expr.replace(/[rR]?("""[^]*?"""|'''[^]*?'''|"(\\.|[^"\\\n])*"|'(\\.|[^'\\\n])*')/g, "''");

/** A test belongs to the first feature it needs. */
const features = [
  [
    'messages',
    'Protobuf messages, enums and wrappers: a record is our only message.',
    (t) => /objectValue|enumValue|messageType|cel\.expr\.conformance|google\.protobuf\.\w+\{|"container":"(google|cel)\./.test(data(t)),
  ],
  [
    'extensions',
    'Functions and macros outside the language definition: strings, math, encoders, optionals, bindings, blocks, two-variable macros.',
    (t) => /\/(\w+_ext|optionals|macros2)\//.test('/' + t.path + '/'),
  ],
  ['static types', 'Types deduced for any environment: ours are deduced against an entity and tested there.', (t) => !!t.typedResult],
  [
    'unsigned numbers',
    'uint: no field has unsigned values.',
    (t) => /\buint\b|\b(\d+|0x[0-9a-f]+)u\b/i.test(bare(t)) || /uint64Value|UINT64/.test(data(t)),
  ],
  [
    'bytes',
    'No field has bytes.',
    (t) => /\bbytes\s*\(|\b(b|B|br|rb|bR|Rb|BR|RB)'/.test(bare(t)) || /\b[bB][rR]?["']/.test(t.expr) || /bytesValue/.test(data(t)),
  ],
  [
    'types as values',
    'type() and names of types: conditions are typed before they run.',
    (t) => /\btype\s*\(/.test(bare(t)) || /typeValue/.test(data(t)),
  ],
  [
    'qualified names',
    'Names with dots resolved against a container: there is one, flat, set of names.',
    (t) =>
      Object.keys(t.bindings ?? {}).some((name) => name.includes('.')) ||
      (t.typeEnv ?? []).some((each) => each.name.includes('.')) ||
      /(^|[^\w)\]'}])\.[a-zA-Z_]/.test(bare(t)),
  ],
];

const left = Object.fromEntries(features.map(([name, reason]) => [name, { reason, tests: 0 }]));
const inScope = [];
for (const test of all) {
  const feature = features.find(([, , needs]) => needs(test));
  if (feature) left[feature[0]].tests++;
  else
    inScope.push({
      name: `${test.path.replace(/^conformance\//, '')}/${test.name}`,
      expression: test.expr,
      ...(test.bindings ? { bindings: Object.fromEntries(Object.entries(test.bindings).map(([name, bound]) => [name, bound.value])) } : {}),
      ...(test.evalError ? { fails: true } : { value: test.value ?? { boolValue: true } }),
    });
}
const document = {
  source: '@bufbuild/cel-spec 0.6.1',
  all: all.length,
  needingNoMessage: all.length - left.messages.tests,
  inScope: inScope.length,
  leftOut: left,
};
const keepingMinusZero = (_, value) => (Object.is(value, -0) ? '-0' : typeof value === 'bigint' ? String(value) : value);
writeFileSync(
  new URL('../tests/vectors/cel.json', import.meta.url),
  JSON.stringify(document, null, 2).slice(0, -2) +
    ',\n  "tests": [\n' +
    inScope.map((test) => '    ' + JSON.stringify(test, keepingMinusZero)).join(',\n') +
    '\n  ]\n}\n',
);
console.log(
  `${inScope.length} in scope of ${document.needingNoMessage} that need no message (${all.length} in all); left out: ` +
    Object.entries(left)
      .map(([name, each]) => `${name} ${each.tests}`)
      .join(', '),
);
