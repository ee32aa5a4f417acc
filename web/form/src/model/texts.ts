import ar from '../messages/ar.json' with { type: 'json' };
import en from '../messages/en.json' with { type: 'json' };
import nl from '../messages/nl.json' with { type: 'json' };

/** A language by its tag (BCP 47). */
export type Language = string;

/** A text as the build makes it of an ICU message: as it is, or from its values. */
export type Message = string | ((values: readonly (string | number)[]) => string);

/** The texts of a language; the compiler knows a message file by its texts. */
export type Messages<Key extends string> = Readonly<Record<Key, Message>>;

/** A message with its values. */
export const format = (message: Message, values: readonly (string | number)[]): string =>
  typeof message === 'string' ? message : message(values);

export type TextKey = keyof typeof en;

/** The form's own texts. What belongs to the application comes with the resolved form. */
const texts: Readonly<Record<string, Messages<TextKey>>> = { en, nl, ar };

/** A text of the form in a language; what is not spoken is said in English. */
export const say = (language: Language, key: TextKey, ...values: (string | number)[]): string =>
  format((texts[language.split('-')[0]!] ?? texts['en']!)[key], values);

/** A text in all languages that are spoken. */
export const inEveryLanguage = (key: TextKey): string[] => Object.values(texts).map((each) => format(each[key], []));

export const isRightToLeft = (language: Language) => /^(ar|he|fa|ur)\b/.test(language);
