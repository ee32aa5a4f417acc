// Which characters are one letter in either case, as simple case folding has it (Unicode Standard, 5.18; ECMAScript's flags "iu" fold so):
// writes the table patterns are compiled with. Made anew only for a new version of Unicode: node scripts/case-folds.mjs
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';

const cased = [];
for (let code = 0; code <= 0x10ffff; code++) {
  if (/\p{CWCM}|\p{CWCF}/u.test(String.fromCodePoint(code))) cased.push(String.fromCodePoint(code));
}
const all = cased.join('');
const orbits = new Map();
for (const character of cased) {
  const orbit = all.match(new RegExp(`\\u{${character.codePointAt(0).toString(16)}}`, 'giu')).map((each) => each.codePointAt(0));
  orbit.sort((a, b) => a - b);
  if (orbit.length > 1) orbits.set(orbit.join(), orbit);
}

// Pairs that lie alike are told once: the first and the last of the lower ones, how far apart they stand, and how far the other lies.
const runs = [];
for (const [low, high] of [...orbits.values()].filter((orbit) => orbit.length === 2).sort(([a], [b]) => a - b)) {
  const run = runs.findLast(
    (each) => each.by === high - low && (each.last + each.step === low || (each.first === each.last && low - each.first <= 2)),
  );
  if (run) [run.step, run.last] = [low - run.last, low];
  else runs.push({ first: low, last: low, step: 1, by: high - low });
}
const lines = (words) => {
  const broken = [];
  for (const word of words) {
    if (broken.length === 0 || broken.at(-1).length + word.length > 120) broken.push(word);
    else broken.push(`${broken.pop()} ${word}`);
  }
  return broken.map((line) => `            ${line}`).join('\n');
};
const pairs = runs.map((run) => [run.first, run.last, run.step, run.by].map((each) => each.toString(16)).join('-'));
const more = [...orbits.values()].filter((orbit) => orbit.length > 2).map((orbit) => orbit.map((each) => each.toString(16)).join('-'));
writeFileSync(
  join(import.meta.dirname, '../src/BrightTier.Core/Patterns/CaseFolds.Table.cs'),
  `namespace BrightTier.Core.Patterns;

// Made by scripts/case-folds.mjs from Unicode ${process.versions.unicode}.
internal static partial class CaseFolds
{
    /// <summary>Runs of pairs, hexadecimal: first and last of the lower ones, the step between, how far the other of each lies.</summary>
    private const string Pairs = """
${lines(pairs)}
        """;

    /// <summary>Letters of more than two forms, such as K, k and the sign of kelvin.</summary>
    private const string Several = """
${lines(more)}
        """;
}
`,
);
console.log(`${orbits.size} letters; ${pairs.length} runs of pairs; ${more.length} of more forms`);
