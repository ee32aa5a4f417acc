import { inEveryLanguage } from '../model/texts.ts';
import type { FieldType, Json } from '../model/types.ts';
import { readClock, readDay, readMoment } from './moments.ts';
import { isNumeric, parseNumber } from './values.ts';

const spellings = (key: 'yes' | 'no', ...more: string[]) => new Set([...inEveryLanguage(key).map((text) => text.toLowerCase()), ...more]);
const yes = spellings('yes', 'true', 'y', 'j', '1', 'x');
const no = spellings('no', 'false', 'n', '0');

/** Cells as a spreadsheet puts them on the clipboard: tabs between, a line a row, quotation marks around what has either in it. */
export function pastedCells(text: string): string[][] {
  const rows: string[][] = [[]];
  const part = /(?:"((?:[^"]|"")*)"(?=[\t\r\n]|$)|([^\t\r\n]*))(\t|\r\n|\n|\r|$)/gy;
  for (let found = part.exec(text); found; found = part.exec(text)) {
    rows.at(-1)!.push(found[1]?.replaceAll('""', '"') ?? found[2]!);
    if (found[3] === '') break;
    if (found[3] !== '\t') rows.push([]);
  }
  return rows;
}

/**
 * The value somebody means by a text. A number that is none stays as it was written, to be told so in its field; undefined is what the
 * field has no
 * way to show: a choice that is not on the list, a day that could be two days, and what only the service knows, such as the records of
 * references.
 */
export function fromText(field: FieldType, written: string, language: string, timeZone: string): Json | undefined {
  const text = written.trim();
  if (text === '') return null;
  switch (field.type) {
    case 'boolean':
      return yes.has(text.toLowerCase()) ? true : no.has(text.toLowerCase()) ? false : undefined;
    case 'choice':
      return choice(field, text);
    case 'choices': {
      const keys = text.split(/[|;,]/).map((each) => choice(field, each.trim()));
      return keys.every((key) => key !== undefined) ? keys : undefined;
    }
    case 'date':
      return readDay(text, language);
    case 'time':
      return readClock(text, language);
    case 'dateTime':
      return readMoment(text, language, timeZone);
    case 'reference':
    case 'file':
    case 'image':
      return undefined;
    default: {
      if (!isNumeric(field.type)) return written;
      const bare = text.replace(/\p{Sc}/gu, '').replace(new RegExp(`${field.unit?.replace(/\W/g, '\\$&') ?? '(?!)'}$`, 'i'), '');
      return parseNumber(bare, language) ?? written;
    }
  }
}

const choice = (field: FieldType, text: string) =>
  field.choices?.find((each) => each.key === text || each.label.toLowerCase() === text.toLowerCase())?.key;
