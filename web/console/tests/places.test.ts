// @vitest-environment node
import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';

const words = (text: string, list: RegExp) => [...list.exec(text)![1]!.matchAll(/['"]([a-z]+)['"]/g)].map((each) => each[1]!).toSorted();

test('the service answers with the page wherever the console has a place', () => {
  const service = readFileSync('../src/BrightTier.Service/Pages/ConsolePage.cs', 'utf8');
  const console = readFileSync('console/src/shell/location.ts', 'utf8');
  expect(words(service, /Places =\s*\[([^\]]*)\]/)).toEqual(words(console, /const places = \[([^\]]*)\]/));
});
