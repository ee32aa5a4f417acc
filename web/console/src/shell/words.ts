import { format, type Messages } from '#form/texts';
import ar from './messages/ar.json' with { type: 'json' };
import en from './messages/en.json' with { type: 'json' };
import nl from './messages/nl.json' with { type: 'json' };
import { setProblemTexts } from '../api/client.ts';
import { session } from './session.ts';

export type Word = keyof typeof en;

/** The words of the business application's frame, in its languages. What belongs to the application itself comes from the service. */
const tables: Readonly<Record<string, Messages<Word>>> = { en, nl, ar };

export type Translate = (word: Word, ...values: (string | number)[]) => string;

const translators = new Map<string, Translate>();

/** The words in a language; the same function each time. */
export function translateIn(language: string): Translate {
  let say = translators.get(language);
  if (!say) {
    const table = tables[language.split('-')[0]!] ?? tables['en']!;
    say = (word, ...values) => format(table[word], values);
    translators.set(language, say);
  }
  return say;
}

/** The words in the language of whoever works here. */
export const words = (): Translate => translateIn(session().language);

// Read when it is said: by then it may be another language, or nobody may have signed in yet.
const spoken = () => translateIn(document.documentElement.lang || 'en');
setProblemTexts({
  unreachable: () => spoken()('unreachable'),
  unexpected: (status) => spoken()('unexpectedAnswer', status),
});
