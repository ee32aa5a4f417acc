import { fieldTypes } from '../../shell/configurator/fieldTypes.ts';
import { say } from '../../shell/configurator/texts.ts';

/** A field as a line names it; with a type that is not known, the words that name none. */
export interface FieldWish {
  /** The line as it is written. */
  line: string;
  label: string;
  required: boolean;
  type?: string;
  target?: string;
  choices?: string[];
  unknown?: string;
  /** Its label has more characters than labels may have. */
  tooLong?: boolean;
}

/** What a line may lead to: an entity by its key, or by what one or several of its records are called. */
export interface NamedEntity {
  key: string;
  label: string;
  plural: string;
}

/** Other words for types than their names; as they stand in tables people have. */
const words: Readonly<Record<string, string>> = {
  string: 'text',
  varchar: 'text',
  memo: 'longText',
  int: 'integer',
  number: 'decimal',
  float: 'decimal',
  numeric: 'decimal',
  currency: 'money',
  amount: 'money',
  bool: 'boolean',
  'yes/no': 'boolean',
  datetime: 'dateTime',
  timestamp: 'dateTime',
  link: 'url',
  picture: 'image',
  photo: 'image',
};

/** Characters of a label, at most; as the service has it. */
export const longest = 100;

/**
 * Fields, one a line: a label, and behind a comma, a semicolon or a tab its type. A star at the label is what every record must have;
 * choices are written with a bar between, a reference by what it leads to; without a type it is a line of text. A heading that says
 * "Label, type" is none.
 */
export function readLines(text: string, entities: readonly NamedEntity[]): FieldWish[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line && !/^label\s*[,;\t]\s*type$/i.test(line))
    .map((line) => {
      const [first = '', ...rest] = line.split(/[,;\t]/).map((part) => part.trim());
      const label = first.replace(/\s*\*$/, '');
      return { line, label, required: label !== first, ...typeOf(rest, entities), ...(label.length > longest ? { tooLong: true } : {}) };
    })
    .filter((wish) => wish.label);
}

function typeOf(parts: readonly string[], entities: readonly NamedEntity[]): Partial<FieldWish> {
  const given = parts.filter(Boolean);
  const listed = given.find((part) => part.includes('|'));
  if (listed) {
    const several = given[0] !== listed && typeNamed(given[0]!) === 'choices';
    return { type: several ? 'choices' : 'choice', choices: listed.split('|').flatMap((choice) => choice.trim() || []) };
  }
  const [name] = given;
  if (name === undefined) return { type: 'text' };
  const is = (word: string) => word.toLowerCase() === name.toLowerCase();
  const target = entities.find(({ key, label, plural }) => is(key) || is(label) || is(plural));
  if (target) return { type: 'reference', target: target.key };
  const type = typeNamed(name);
  // Choices and references say of what.
  return type === undefined || ['choice', 'choices', 'reference'].includes(type) ? { unknown: name } : { type };
}

/** The type a word means: its own key, its name in the language one works in, or another word for it. */
function typeNamed(name: string): string | undefined {
  const word = name.toLowerCase();
  const found = Object.entries(fieldTypes).find(([key, text]) => key.toLowerCase() === word || say(text).toLowerCase() === word);
  return found?.[0] ?? words[word];
}
