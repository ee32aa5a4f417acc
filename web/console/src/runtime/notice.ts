import type { Word } from '../shell/words.ts';

/** What the page says above the form: words of its own, or what the service said. */
export interface Notice {
  says: { word: Word; values?: (string | number)[] } | { text: string };
  tone: 'quiet' | 'bad' | 'good';
  /** What was deleted can be brought back. */
  restorable?: boolean;
}
