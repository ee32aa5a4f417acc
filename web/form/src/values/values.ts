import { matches, Moment, type Value } from '../conditions/index.ts';
import { isRightToLeft, say, type Language } from '../model/texts.ts';
import type { FieldItem, FieldType, Json, ResolvedForm, Values } from '../model/types.ts';
import { itemsIn } from '../model/content.ts';
import { isEmail, isWebAddress } from './addresses.ts';
import { numberLocale, writeMoment } from './locale.ts';
import { writeClock, writeDay, writeLocal } from './moments.ts';

/** Whether a field's values are typed as a number. */
export const isNumeric = (type: string) => type === 'integer' || type === 'decimal' || type === 'money' || type === 'rating';

export const isEmpty = (value: Json | undefined) =>
  value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0);

/** Whether two values are the same; empty is empty, however it is written. */
export function same(a: Json, b: Json): boolean {
  if (isEmpty(a) && isEmpty(b)) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((each, i) => each === b[i]);
  return a === b;
}

/** What is saved of a new record: what is empty is left out. */
export const filled = (values: Values): Values =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null && value !== ''));

/** What a new record begins with: what the form says where it shows a field, otherwise what the entity does. */
export function defaults(form: ResolvedForm): Values {
  const values: Values = {};
  const begin = (key: string, text: string | undefined) => {
    const type = form.fields[key]?.type;
    if (text === undefined || type === undefined) return;
    if (type === 'boolean') values[key] = text === 'true';
    else if (type === 'choices') values[key] = text.split('|').map((each) => each.trim());
    else values[key] = isNumeric(type) || type === 'reference' ? Number(text) : text;
  };
  for (const [key, field] of Object.entries(form.fields)) begin(key, field.default);
  const sides = [form.start, form.end].flatMap((side) => side?.sections ?? []);
  for (const item of itemsIn([...form.pages.flatMap((page) => page.sections), ...sides]))
    if (item.kind === 'field') begin(item.field, item.default);
  return values;
}

/** A value as conditions see it. What cannot be read yet, such as half a number, counts as empty. */
export function toCondition(field: Pick<FieldType, 'type'>, value: Json | undefined): Value {
  if (isEmpty(value)) return null;
  switch (field.type) {
    case 'integer':
    case 'rating':
    case 'reference': {
      const number = typeof value === 'number' ? value : Number(value);
      return Number.isSafeInteger(number) ? BigInt(number) : null;
    }
    case 'decimal':
    case 'money': {
      const number = typeof value === 'number' ? value : Number(value);
      return Number.isFinite(number) ? number : null;
    }
    case 'date':
    case 'dateTime':
      // In whole seconds, as moments are stored.
      return isMoment(field.type, value) ? Moment.ofMs(Math.floor(Date.parse(value) / 1000) * 1000) : null;
    case 'time':
      return isMoment('time', value) ? value.slice(0, 5) : null;
    default:
      return value as Value;
  }
}

/** What the person typed as a number, in her language's notation, to a number; undefined when it is none. */
export function parseNumber(text: string, language: string): number | undefined {
  const parts = new Intl.NumberFormat(numberLocale(language), { useGrouping: true }).formatToParts(12345.6);
  const decimal = parts.find((part) => part.type === 'decimal')?.value ?? '.';
  const group = parts.find((part) => part.type === 'group')?.value ?? ',';
  let plain = text.trim().replace(/[٠-٩]/g, (digit) => String(digit.charCodeAt(0) - 0x660));
  // Where both marks appear the language decides; a lone point or comma is taken for the decimal mark.
  if (plain.includes(decimal) && plain.includes(group)) plain = plain.replaceAll(group, '');
  plain = plain.replace(/[\s\u00a0\u202f']/g, '').replace(/[,٫]/g, '.');
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : undefined;
}

export function formatNumber(value: number, field: FieldType, language: string): string {
  return new Intl.NumberFormat(numberLocale(language), {
    useGrouping: field.type === 'money',
    minimumFractionDigits: field.type === 'money' ? 2 : 0,
    maximumFractionDigits: field.scale ?? 0,
    numberingSystem: 'latn',
  }).format(value);
}

/** A value as words, for bands, lists and forms that are only read. */
export function display(field: FieldType, value: Json | undefined, language: string, timeZone: string, names?: { title: string }): string {
  if (isEmpty(value)) return '';
  // What is typed is shown as it is until it is what it must be.
  if (moments[field.type] && !isMoment(field.type, value)) return String(value);
  switch (field.type) {
    case 'boolean':
      return say(language, value ? 'yes' : 'no');
    case 'choice':
      return label(field, value as string);
    case 'choices':
      return new Intl.ListFormat(language, { type: 'unit' }).format((value as string[]).map((key) => label(field, key)));
    case 'reference':
      return names?.title ?? `${value as number}`;
    case 'date':
      return writeMoment(new Date(`${value as string}T00:00:00Z`), language, { dateStyle: 'medium', timeZone: 'UTC' });
    case 'time':
      return writeMoment(new Date(`1970-01-01T${value as string}Z`), language, { timeStyle: 'short', timeZone: 'UTC' });
    case 'dateTime':
      return writeMoment(new Date(value as string), language, { dateStyle: 'medium', timeStyle: 'short', timeZone });
    case 'rating':
      return '★'.repeat(Number(value)) + '☆'.repeat(Math.max(0, (field.max ?? 5) - Number(value)));
    case 'file':
    case 'image':
      return String(value).split('/').slice(1).join('/');
    default:
      if (!isNumeric(field.type)) return String(value);
      // A figure and its unit are read from left to right, whatever surrounds them: isolated by the marks of UAX #9.
      return typeof value === 'number'
        ? isolate(`${formatNumber(value, field, language)}${field.unit ? `\u00a0${field.unit}` : ''}`, language)
        : String(value);
  }
}

const isolate = (text: string, language: Language) => (isRightToLeft(language) ? `\u2066${text}\u2069` : text);

const label = (field: FieldType, key: string) => field.choices?.find((choice) => choice.key === key)?.label ?? key;

/** How many digits a number has after the point, as JSON writes it. */
function digitsAfterPoint(value: number): number {
  const [digits, exponent] = String(value).split('e');
  return Math.max(0, (digits!.split('.')[1]?.length ?? 0) - Number(exponent ?? 0));
}

/** What the values of days and times look like, and what is said with an example where one does not. */
const moments: Partial<Record<string, { form: RegExp; key: 'date' | 'time' | 'dateTime'; write: (language: Language) => string }>> = {
  date: { form: /^\d{4}-\d\d-\d\d$/, key: 'date', write: (language) => writeDay('2026-12-31', language) },
  time: { form: /^\d\d:\d\d(:\d\d(\.\d+)?)?$/, key: 'time', write: (language) => writeClock('14:30', language) },
  dateTime: { form: /^\d{4}-\d\d-\d\dT\d\d:\d\d/, key: 'dateTime', write: (language) => writeLocal('2026-12-31T14:30', language) },
};

/** Whether a value is a day, a time or a moment, as its type has it. A day is one of the calendar: not every browser looks at that. */
export function isMoment(type: string, value: Json | undefined): value is string {
  if (typeof value !== 'string' || moments[type]?.form.test(value) !== true) return false;
  if (type === 'time') return !Number.isNaN(Date.parse(`1970-01-01T${value}Z`));
  const day = value.slice(0, 10);
  const ms = Date.parse(`${day}T00:00:00Z`);
  return !Number.isNaN(ms) && new Date(ms).toISOString().startsWith(day) && !Number.isNaN(Date.parse(value));
}

/**
 * The first character that no text can hold: those that XML 1.0 (2.2, Char) leaves out, and every half of a pair; undefined where there is
 * none.
 */
function unstorable(text: string): number | undefined {
  for (const character of text) {
    const code = character.codePointAt(0)!;
    if (
      (code < 0x20 && code !== 9 && code !== 10 && code !== 13) ||
      (code >= 0xd800 && code <= 0xdfff) ||
      code === 0xfffe ||
      code === 0xffff
    )
      return code;
  }
  return undefined;
}

/** What the entity's rules say against a value, in the viewer's language; the service decides by the same rules. */
export function check(field: FieldType, name: string, value: Json | undefined, required: boolean, language: Language): string | undefined {
  if (isEmpty(value)) return required ? say(language, 'required', name) : undefined;
  if (isNumeric(field.type)) {
    const whole = field.type === 'integer' || field.type === 'rating';
    if (typeof value !== 'number' || (whole && !Number.isInteger(value))) return say(language, whole ? 'wholeNumber' : 'number', name);
    // What the entity says comes before what a number can be at all.
    if (field.min !== undefined && value < field.min)
      return say(language, 'atLeast', name, display({ ...field, type: 'decimal' }, field.min, language, 'UTC'));
    if (field.max !== undefined && value > field.max)
      return say(language, 'atMost', name, display({ ...field, type: 'decimal' }, field.max, language, 'UTC'));
    const scale = field.scale ?? 0;
    const most = whole ? Number.MAX_SAFE_INTEGER : field.type === 'money' ? 90_071_992_547_409.91 : 10 ** (15 - scale);
    if (Math.abs(value) > most)
      return say(
        language,
        value < 0 ? 'atLeast' : 'atMost',
        name,
        display({ ...field, type: 'decimal' }, Math.sign(value) * most, language, 'UTC'),
      );
    if (!whole && digitsAfterPoint(value) > scale) return say(language, 'digits', name, String(scale));
  }
  if (typeof value === 'string') {
    const example = moments[field.type];
    if (example && !isMoment(field.type, value)) return say(language, example.key, name, example.write(language));
    const character = unstorable(value);
    if (character !== undefined) return say(language, 'character', name, `U+${character.toString(16).toUpperCase().padStart(4, '0')}`);
    if (field.maxLength !== undefined && value.length > field.maxLength)
      return say(language, 'tooLong', name, String(field.maxLength), String(value.length));
    if (field.type === 'email' && !isEmail(value)) return say(language, 'email', name);
    if (field.type === 'url' && !isWebAddress(value)) return say(language, 'url', name);
    if (field.pattern && !matches(field.pattern, value)) return field.patternMessage ?? say(language, 'pattern', name);
  }
  return undefined;
}

/** What the layout's own limits say against a value, beside the entity's. */
export function checkLimits(item: FieldItem, field: FieldType, value: Json | undefined, language: Language): string | undefined {
  const { min, max, maxLength, pattern, patternMessage } = item;
  if (min === undefined && max === undefined && maxLength === undefined && !pattern) return undefined;
  const type = isNumeric(field.type) ? field.type : 'text';
  return check(
    {
      type,
      label: field.label,
      ...(field.scale === undefined ? {} : { scale: field.scale }),
      ...(min === undefined ? {} : { min }),
      ...(max === undefined ? {} : { max }),
      ...(maxLength === undefined ? {} : { maxLength }),
      ...(pattern ? { pattern } : {}),
      ...(patternMessage ? { patternMessage } : {}),
    },
    item.label,
    value,
    false,
    language,
  );
}

/** A value of a condition as a field keeps it. */
export function toJson(field: FieldType, value: Value): Json {
  if (value instanceof Moment)
    return field.type === 'date' ? new Date(value.ms).toISOString().slice(0, 10) : new Date(value.ms).toISOString();
  if (typeof value === 'bigint') return Number(value);
  return Array.isArray(value) ? value.map(String) : typeof value === 'object' ? null : value;
}

/** A text with the record's values in the place of their names. */
export function fill(text: string, value: (field: string) => string): string {
  return text.replace(/\{\s*([A-Za-z][\w-]*)[^}]*\}/g, (_, field: string) => value(field));
}
