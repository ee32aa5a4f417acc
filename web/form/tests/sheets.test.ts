// @vitest-environment node
// @vitest-environment node
import { readdirSync, readFileSync } from 'node:fs';
import { expect, it } from 'vitest';

// Asked of the elements around whatever changes, such a rule made each change of a large form a third slower; see docs/decisions/015.
it('no style sheet asks what is in an element', () => {
  const sheets = ['form/src', 'console/src'].flatMap((folder) =>
    readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((file) => file.endsWith('.css'))
      .map((file) => `${folder}/${file}`),
  );
  expect(sheets.length).toBeGreaterThan(3);
  expect(sheets.filter((sheet) => readFileSync(sheet, 'utf8').includes(':has('))).toEqual([]);
});
