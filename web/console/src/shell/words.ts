import ar from './messages/ar.json' with { type: 'json' };
import en from './messages/en.json' with { type: 'json' };
import nl from './messages/nl.json' with { type: 'json' };
import { session } from './session.ts';

/** The words of the business application's frame, in its languages. What belongs to the application itself comes from the service. */
const tables = { en, nl, ar };

export type Word = keyof (typeof tables)['en'];

export type Translate = (word: Word, ...values: (string | number)[]) => string;

/** All tables, for the test that holds them against each other. */
export const allWords: Record<string, Record<string, string>> = tables;

const translators = new Map<string, Translate>();

/** The words in a language; the same function each time. */
export function translateIn(language: string): Translate {
  let say = translators.get(language);
  if (!say) {
    const table = tables[language.split('-')[0] as keyof typeof tables] ?? tables.en;
    say = (word, ...values) => table[word].replace(/\{(\d)\}/g, (_, i: string) => String(values[Number(i)] ?? ''));
    translators.set(language, say);
  }
  return say;
}

/** The words in the language of whoever works here. */
export const words = (): Translate => translateIn(session().language);
