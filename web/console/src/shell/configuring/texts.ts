import { format, type Messages } from '#form/texts';
import { createElement, Fragment, type ReactNode } from 'react';
import type english from './messages/en.json';

/** A text of the configurator's pages, by its name in the message files beside this. */
export type TextKey = keyof typeof english;

type Texts = Messages<TextKey>;

/** The texts of each language, fetched when a page of the configurator is opened. */
const languages: Readonly<Record<string, () => Promise<{ default: object }>>> = {
  en: () => import('./messages/en.json', { with: { type: 'json' } }),
  nl: () => import('./messages/nl.json', { with: { type: 'json' } }),
  ar: () => import('./messages/ar.json', { with: { type: 'json' } }),
};

let current: { language: string; texts: Texts } | undefined;

/** Fetches the texts of a language; what is not spoken is said in English. */
export async function loadTexts(language: string): Promise<void> {
  const spoken = language.split('-')[0]!;
  const load = languages[spoken] ?? languages['en']!;
  current = { language, texts: (await load()).default as Texts };
}

function text(key: TextKey) {
  if (!current) throw new Error('The texts of the configurator have not been fetched.');
  return current.texts[key];
}

/** The language of the configurator's pages (BCP 47). */
export const spoken = (): string => current?.language ?? 'en';

/** A text of the configurator's pages in the language of whoever works here. */
export const say = (key: TextKey, ...values: (string | number)[]): string => format(text(key), values);

/** Such a text with elements among its values. */
export function rich(key: TextKey, ...values: ReactNode[]): ReactNode {
  const plain = values.map((value, i) => (typeof value === 'string' || typeof value === 'number' ? value : `\u0000${i}\u0000`));
  return format(text(key), plain)
    .split('\u0000')
    .map((part, i) => createElement(Fragment, { key: i }, i % 2 === 0 ? part : values[Number(part)]));
}
