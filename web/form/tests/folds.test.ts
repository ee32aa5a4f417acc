// @vitest-environment node
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';

/**
 * Letters in either case, as this machine's own regular expressions fold them (ECMAScript's flags "iu" are simple case folding, as RE2's
 * (?i) is): the service compiles patterns to ranges, and is held to this file. `make vectors` makes it anew.
 */
const path = join(import.meta.dirname, '../../../tests/vectors/folds.json');
const letters = [...'kK\u212asS\u017fςσΣ\u00b5μΜßẞ\u00c5å\u212biIıİǅǆǄθϑΘϴЖжꙋꙊᲈ\u0390\u1fd3ᏰᏸꭰᎠ1_ é'];
const classes = ['[a-z]', '[A-Z]', '[^k]', '[^a-z]', '[^s-z]', '[α-ω]', '[Α-Ω]', '[^Σ]', '[à-ÿ]', '.', '\\d'];

/** What the two write alike, and take alike. */
const upper = ['\\p{Lu}', '\\p{Ll}', '[\\p{Lu}1]', '\\p{L}', '\\p{Lt}'];

const cases = [...letters, ...classes, ...upper].flatMap((pattern) =>
  letters.map((text) => ({ pattern, text, matches: new RegExp(`^${pattern}$`, 'iu').test(text) })),
);

it('folds as the file has it', () => {
  if (process.env['BRIGHTTIER_WRITE_VECTORS'] === '1')
    writeFileSync(path, `[\n${cases.map((each) => JSON.stringify(each)).join(',\n')}\n]\n`);
  expect(JSON.parse(readFileSync(path, 'utf8'))).toEqual(cases);
});
