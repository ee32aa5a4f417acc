import { isMoment, say as formSay, type FieldItem, type FieldType, type Json, type ResolvedForm, type Values } from '#form';
import type { Translate } from '../../shell/words.ts';

/** Two ends of a range are two fields of the form in which filters are set. */
const ends = ['from', 'to'] as const;

const ranged = (type: string) => ['integer', 'decimal', 'money', 'rating', 'date', 'dateTime', 'time'].includes(type);

/** A list's filters as a form of one row: what the fields' own editors can say. */
export function filterForm(list: ResolvedForm, say: Translate): ResolvedForm {
  const fields: Record<string, FieldType> = {};
  const items: FieldItem[] = [];
  const add = (key: string, type: FieldType, label: string, editor: string) => {
    fields[key] = { ...type, label };
    items.push({ id: key, kind: 'field', field: key, label, editor, lines: 1, ...(editor === 'date' ? {} : { hint: say('any') }) });
  };
  for (const key of list.filters ?? []) {
    const field = list.fields[key];
    if (!field) continue;
    const plain = { ...field };
    for (const limit of ['default', 'min', 'max', 'required'] as const) delete plain[limit];
    if (ranged(field.type))
      for (const end of ends)
        add(
          `${key}.${end}`,
          { ...plain, type: field.type === 'dateTime' ? 'date' : field.type === 'rating' ? 'integer' : field.type },
          say(end, field.label),
          editorOf(field.type),
        );
    else if (field.type === 'boolean')
      add(
        key,
        {
          ...plain,
          type: 'choice',
          choices: [
            { key: 'true', label: formSay(list.language, 'yes') },
            { key: 'false', label: formSay(list.language, 'no') },
          ],
        },
        field.label,
        'select',
      );
    else
      add(
        key,
        { ...plain, type: field.type === 'choices' ? 'choice' : field.type },
        field.label,
        field.type === 'choice' || field.type === 'choices' ? 'select' : field.type === 'reference' ? 'look-up' : 'line',
      );
  }
  return formOf(list, fields, items);
}

/** A form of one row, four to a line. */
function formOf(list: ResolvedForm, fields: Record<string, FieldType>, items: FieldItem[]): ResolvedForm {
  return {
    layout: list.layout,
    entity: list.entity,
    kind: 'full',
    mode: 'edit',
    language: list.language,
    title: '',
    width: 'full',
    density: 'dense',
    marks: 'none',
    arrangement: 'stack',
    fields,
    pages: [
      {
        id: 'filters',
        title: '',
        sections: [
          {
            id: 'filters-section',
            frame: 'none',
            labels: 'above',
            columns: 4,
            rows: [{ id: 'filters-row', cells: items.map((item) => ({ id: `${item.id}-cell`, span: 3, items: [item] })) }],
          },
        ],
      },
    ],
  };
}

const moments = new Set(['date', 'dateTime', 'time']);

const editorOf = (type: string) => (type === 'date' || type === 'dateTime' ? 'date' : type === 'time' ? 'time' : 'number');

const text = (value: Json) => `'${String(value).replace(/\\/g, '\\\\').replace(/'/g, "\\'").replace(/\n/g, '\\n')}'`;

const nextDay = (day: string) => new Date(Date.parse(`${day}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10);

/** What is set, as a condition; empty when nothing is. */
export function filterCondition(list: ResolvedForm, values: Values, start: (day: string) => string): string {
  const parts: string[] = [];
  for (const [key, value] of Object.entries(values)) {
    if (value === null || value === '' || value === undefined) continue;
    const [name, end] = key.split('.') as [string, (typeof ends)[number] | undefined];
    const field = list.fields[name];
    // What is no day or time yet is no filter.
    if (!field || (moments.has(field.type) && !isMoment(field.type === 'time' ? 'time' : 'date', value))) continue;
    const read = `record.${name}`;
    const from = end === 'from';
    switch (field.type) {
      case 'date':
        parts.push(`${read} ${from ? '>=' : '<='} timestamp('${value as string}T00:00:00Z')`);
        break;
      case 'dateTime':
        // The last day counts to its end, by the viewer's clock.
        parts.push(`${read} ${from ? '>=' : '<'} timestamp('${start(from ? (value as string) : nextDay(value as string))}')`);
        break;
      case 'time':
        parts.push(`${read} ${from ? '>=' : '<='} ${text(String(value).slice(0, 5))}`);
        break;
      case 'integer':
      case 'rating':
        if (typeof value === 'number') parts.push(`${read} ${from ? '>=' : '<='} ${Math.trunc(value)}`);
        break;
      case 'decimal':
      case 'money':
        if (typeof value === 'number') parts.push(`${read} ${from ? '>=' : '<='} ${Number.isInteger(value) ? `${value}.0` : value}`);
        break;
      case 'boolean':
        parts.push(`${read} == ${value as string}`);
        break;
      case 'choices':
        parts.push(`${text(value)} in ${read}`);
        break;
      case 'choice':
        parts.push(`${read} == ${text(value)}`);
        break;
      case 'reference':
        parts.push(`${read} == ${value as number}`);
        break;
      default:
        parts.push(`${read}.contains(${text(value)})`);
    }
  }
  return parts.join(' && ');
}
