import { format, type Message, type Messages } from '#form/texts';
import type english from './messages/en.json';

/** A text of the configurator's pages, by its name in the message files beside this. */
export type TextKey = keyof typeof english;

interface Texts {
  language: string;
  pages: Messages<TextKey>;
  /** What the grammar of layouts says of its nodes, properties and words, by keys made of its English. */
  grammar: Readonly<Record<string, Message>>;
}

type File = Promise<{ default: object }>;

/** The texts of each language, fetched when a page of the configurator is opened. The grammar speaks English itself. */
const languages: Readonly<Record<string, () => [File, File?]>> = {
  en: () => [import('./messages/en.json', { with: { type: 'json' } })],
  nl: () => [import('./messages/nl.json', { with: { type: 'json' } }), import('./grammar/messages/nl.json', { with: { type: 'json' } })],
  ar: () => [import('./messages/ar.json', { with: { type: 'json' } }), import('./grammar/messages/ar.json', { with: { type: 'json' } })],
};

let current: Texts | undefined;

/** Fetches the texts of a language; what is not spoken is said in English. */
export async function loadTexts(language: string): Promise<void> {
  const load = languages[language.split('-')[0]!] ?? languages['en']!;
  const [pages, grammar] = await Promise.all(load());
  current = { language, pages: pages.default as Texts['pages'], grammar: (grammar?.default ?? {}) as Texts['grammar'] };
}

function texts(): Texts {
  if (!current) throw new Error('The texts of the configurator have not been fetched.');
  return current;
}

/** The language of the configurator's pages (BCP 47). */
export const spoken = (): string => current?.language ?? 'en';

/** A text of the configurator's pages in the language of whoever works here. */
export const say = (key: TextKey, ...values: (string | number)[]): string => format(texts().pages[key], values);

/** The key of a text of the grammar: its first twelve words of letters and digits, as one; GrammarTextTests.cs has the same. */
export const grammarKey = (of: 'label' | 'about' | 'word', text: string): string =>
  `${of}.${(text.match(/[A-Za-z0-9]+/g) ?? [])
    .slice(0, 12)
    .map((word, i) => (i === 0 ? word.toLowerCase() : word[0]!.toUpperCase() + word.slice(1).toLowerCase()))
    .join('')}`;

/** What the grammar says, in the language of whoever works here; what is not known here stays as the service said it. */
export function sayGrammar(of: 'label' | 'about' | 'word', text: string): string {
  const message = texts().grammar[grammarKey(of, text)];
  return message === undefined ? text : format(message, []);
}
