import { describe, expect, it } from 'vitest';
import { allTexts } from '#form';
import { allWords } from '../src/shell/words.ts';

/** Words that are the same in two languages, and rightly so. */
const alike: Record<string, string[]> = { nl: ['count', 'countOne', 'filters', 'releases'], ar: [] };

const holes = (text: string) => [...text.matchAll(/\{\d\}/g)].map(String).sort();

describe.each([
  ['the frame', allWords],
  ['the form', allTexts],
])('%s speaks every language', (_, tables) => {
  const { en, ...others } = tables;
  it.each(Object.keys(others))('whole in %s, with the same places for values', (language) => {
    const table = others[language]!;
    expect(Object.keys(table).sort()).toEqual(Object.keys(en!).sort());
    for (const [key, text] of Object.entries(table)) {
      expect(text.trim(), key).not.toBe('');
      expect(holes(text), key).toEqual(holes(en![key]!));
      if (!alike[language]?.includes(key)) expect(text, key).not.toBe(en![key]);
    }
  });
});
