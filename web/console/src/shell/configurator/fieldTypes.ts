import type { TextKey } from './texts.ts';

/** The types of fields, as one chooses among them. */
export const fieldTypes = {
  text: 'fieldType.text',
  longText: 'fieldType.longText',
  integer: 'fieldType.integer',
  decimal: 'fieldType.decimal',
  money: 'fieldType.money',
  boolean: 'fieldType.boolean',
  date: 'fieldType.date',
  time: 'fieldType.time',
  dateTime: 'fieldType.dateTime',
  choice: 'fieldType.choice',
  choices: 'fieldType.choices',
  reference: 'fieldType.reference',
  email: 'fieldType.email',
  phone: 'fieldType.phone',
  url: 'fieldType.url',
  image: 'fieldType.image',
  file: 'fieldType.file',
  rating: 'fieldType.rating',
} as const satisfies Record<string, TextKey>;
