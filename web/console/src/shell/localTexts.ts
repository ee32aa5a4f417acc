/** A text, in one language or by language tag (BCP 47); other values stand for themselves. */
export type LocalText = string | number | boolean | string[] | Record<string, string>;

/** A text in a language, by the service's rules of fallback. */
export function textIn(value: LocalText | undefined, language: string): string {
  if (value === undefined) return '';
  if (typeof value !== 'object' || Array.isArray(value)) return String(value);
  return value[language] ?? value[language.split('-')[0]!] ?? value[''] ?? value['en'] ?? Object.values(value)[0] ?? '';
}

/** A text with what it says in one language replaced; nothing when it says nothing in any. The first language's text may stand for all. */
export function withText(value: LocalText | undefined, text: string, language: string, languages: string[]): LocalText | null {
  if (typeof value === 'object' && !Array.isArray(value)) {
    const rest = Object.fromEntries(Object.entries(value).filter(([tag]) => tag !== language));
    return text ? { ...value, [language]: text } : Object.keys(rest).length > 0 ? rest : null;
  }
  if (language === languages[0] || value === undefined) return text === '' ? null : language === languages[0] ? text : { [language]: text };
  return { '': String(value), [language]: text };
}
