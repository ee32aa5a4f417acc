import { inEveryLanguage } from '../model/texts.ts';
import type { FieldType, Json } from '../model/types.ts';
import { dateLocale } from './locale.ts';
import { fromLocal, isNumeric, parseNumber } from './values.ts';

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
      return day(text, language);
    case 'time':
      return clock(text);
    case 'dateTime': {
      const [on, at = ''] = text.split(/[\sT,]+/);
      const [date, time] = [day(on!, language), clock(at)];
      if (/(Z|[+-]\d\d:\d\d)$/.test(text) && !Number.isNaN(Date.parse(text))) return new Date(text).toISOString().replace(/\.\d+Z$/, 'Z');
      return date && time ? fromLocal(`${date}T${time}`, timeZone) : undefined;
    }
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

const clock = (text: string) =>
  /^([01]?\d|2[0-3]):[0-5]\d(:[0-5]\d)?$/.test(text)
    ? text.padStart(text.indexOf(':') === 1 ? text.length + 1 : 0, '0').slice(0, 5)
    : undefined;

function day(text: string, language: string): string | undefined {
  const iso = /^(\d{4})[-/](\d{1,2})[-/](\d{1,2})$/.exec(text);
  if (iso) return real(iso[1]!, iso[2]!, iso[3]!);
  const parts = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4})$/.exec(text);
  if (!parts) return undefined;
  const [one, two, year] = [parts[1]!, parts[2]!, parts[3]!];
  if (Number(one) > 12) return real(year, two, one);
  if (Number(two) > 12) return real(year, one, two);
  // English is written either way round: of the two days it could be neither is taken.
  if (dateLocale(language) === 'en' && one !== two) return undefined;
  const order = new Intl.DateTimeFormat(dateLocale(language)).formatToParts(0).map((part) => part.type);
  return order.indexOf('month') < order.indexOf('day') ? real(year, one, two) : real(year, two, one);
}

/** The day in ISO 8601 if there is such a day. */
function real(year: string, month: string, date: string): string | undefined {
  const iso = `${year}-${month.padStart(2, '0')}-${date.padStart(2, '0')}`;
  const ms = Date.parse(`${iso}T00:00:00Z`);
  return !Number.isNaN(ms) && new Date(ms).toISOString().startsWith(iso) ? iso : undefined;
}
