import type { Column, FieldItem, FieldType, Section } from '#form';
import { firstEditors, walk, type NewNode, type PropertyValue } from '#layout';
import type { FieldInfo } from '../../api/client.ts';
import { textIn } from '../../shell/localTexts.ts';

/** What the form is about, as far as it must be known to foresee an edit. */
export interface FormSubject {
  fields: readonly FieldInfo[];
  language: string;
  /** The id of what holds the pages, or the columns of a list. */
  body: string;
}

/** A part of a resolved form: a page, a section, a row, a cell, an item, a column. */
export type Part = { id: string } & Record<string, unknown>;

/** What a form says of the fields that new nodes show: enough to draw them. */
export const typesOf = (nodes: readonly NewNode[], known: FormSubject): Record<string, FieldType> =>
  Object.fromEntries(
    nodes
      .flatMap((node) => [...walk(node)])
      .flatMap((node) => known.fields.filter((field) => field.key === node.properties?.[node.kind]))
      .map(({ key, type, label, required, target, unit, maxLength, scale, choices }) => [
        key,
        {
          type,
          label,
          required,
          ...(target ? { target } : {}),
          ...(unit ? { unit } : {}),
          ...(maxLength ? { maxLength: Number(maxLength) } : {}),
          ...(scale === null || scale === undefined ? {} : { scale: Number(scale) }),
          ...(choices ? { choices } : {}),
        },
      ]),
  );

/** A new part as it is resolved, still holding nothing; nothing for what only the service knows. */
export function partOf(node: NewNode, known: FormSubject): Part | undefined {
  const { properties = {} } = node;
  const id = node.id ?? String(properties['field'] ?? `new ${node.kind}`);
  const text = (name: string) => textIn(properties[name], known.language);
  switch (node.kind) {
    case 'page':
      return { id, title: text('title'), sections: [] };
    case 'section':
      return { id, title: text('title'), frame: 'none', labels: 'above', columns: 1, rows: [] } satisfies Section as unknown as Part;
    case 'row':
      return { id, cells: [] };
    case 'cell': {
      const span = properties['span'];
      return { id, items: [], ...(typeof span === 'number' ? { span } : { span: 12, shares: true }) };
    }
    case 'field': {
      const field = known.fields.find((each) => each.key === properties['field']);
      return (
        field &&
        ({
          id,
          kind: 'field',
          field: field.key,
          label: text('label') || field.label,
          editor: String(properties['editor'] ?? firstEditors[field.type] ?? 'line'),
          lines: Number(properties['lines'] ?? (field.type === 'longText' ? 4 : 1)),
          ...(text('help') ? { help: text('help') } : {}),
          ...(text('hint') ? { hint: text('hint') } : {}),
          ...(text('prefix') ? { prefix: text('prefix') } : {}),
        } satisfies FieldItem as unknown as Part)
      );
    }
    case 'column': {
      const field = known.fields.find((each) => each.key === properties['column']);
      return (
        field &&
        ({
          id,
          field: field.key,
          label: text('label') || field.label,
          align: ['integer', 'decimal', 'money', 'rating'].includes(field.type) ? 'end' : 'start',
        } satisfies Column as unknown as Part)
      );
    }
    case 'heading':
    case 'text':
      return { id, kind: node.kind, content: text(node.kind) };
    case 'divider':
    case 'spacer':
      return { id, kind: node.kind, content: String(properties[node.kind] ?? '') };
    default:
      return undefined;
  }
}

/** Properties that are resolved as they are written, each under the kinds of parts that have it. */
const plain = new Set(['lines', 'frame', 'tint', 'gap', 'above', 'align', 'emphasis', 'columns', 'weight', 'side', 'units']);
const texts: Record<string, string> = {
  label: 'label',
  help: 'help',
  hint: 'hint',
  prefix: 'prefix',
  title: 'title',
  description: 'description',
  heading: 'content',
};

/** A part with a property written; what only the service can resolve is left as it is. */
export function withProperty(part: Part, property: string, value: PropertyValue | null, known: FormSubject): Part {
  const as = texts[property];
  if (as) {
    const field =
      part['field'] !== undefined && property === 'label' ? known.fields.find((each) => each.key === part['field'])?.label : undefined;
    const label = value === null ? field : textIn(value, known.language) || field;
    return { ...part, [as]: label ?? (property === 'title' || property === 'label' ? '' : undefined) };
  }
  if (property === 'span') return typeof value === 'number' ? { ...part, span: value, shares: undefined } : { ...part, shares: true };
  if (plain.has(property) && value !== null) return { ...part, [property]: value };
  return part;
}
