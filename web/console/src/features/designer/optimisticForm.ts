import {
  contentOf,
  type Cell,
  type Column,
  type FieldItem,
  type FieldType,
  type Item,
  type Page,
  type ResolvedForm,
  type Row,
  type Section,
} from '#form';
import { firstEditors, walk, type Anchor, type Edit, type NewNode, type PropertyValue } from '#layout';
import type { FieldInfo } from '../../api/client.ts';
import { textIn } from '../../shell/localTexts.ts';

/** What the form is about, as far as it must be known to foresee an edit. */
export interface FormSubject {
  fields: readonly FieldInfo[];
  language: string;
  /** The id of the layout's body: pages stand in it. */
  body: string;
}

type Part = { id: string } & Record<string, unknown>;

const holdings = ['columns', 'pages', 'sections', 'rows', 'cells', 'items'] as const;

// A section has a number of columns, a list has columns.
const holdingOf = (part: Part) => holdings.find((key) => Array.isArray(part[key]));

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

/**
 * The form as it will be once the service has taken edits in: drawn at once, and replaced by what the service says a moment later. What
 * cannot be told here (pieces, conditions, what is inherited) is left as it is; nothing is decided here. With a width, what that width has
 * is changed.
 */
export function applyOptimistically(form: ResolvedForm, edits: readonly Edit[], known: FormSubject, width?: string): ResolvedForm {
  if (width !== undefined) {
    const variant = form.variants?.find((each) => each.name === width);
    if (!variant) return form;
    const whole = { ...form, ...contentOf(form, variant.from), variants: undefined };
    const pages = applyOptimistically(whole, edits, known).pages;
    return pages === whole.pages
      ? form
      : { ...form, variants: form.variants!.map((each) => (each === variant ? { ...variant, pages } : each)) };
  }
  const list = form.kind === 'list';
  let body: Part = { id: known.body, ...(list ? { columns: form.columns } : { pages: form.pages }) };
  for (const edit of edits) {
    const next = step(body, edit, known);
    if (!next) return form;
    body = next;
  }
  if (list) return body['columns'] === form.columns ? form : { ...form, columns: body['columns'] as Column[] };
  const pages = body['pages'] as Page[];
  if (pages === form.pages) return form;
  const added = typesOf(
    edits.flatMap((edit) => (edit.op === 'insert' ? [edit.node] : [])),
    known,
  );
  const fields = Object.keys(added).some((key) => !form.fields[key]) ? { ...added, ...form.fields } : form.fields;
  return { ...form, fields, pages };
}

function step(body: Part, edit: Edit, known: FormSubject): Part | undefined {
  switch (edit.op) {
    case 'set':
      return changed(body, edit.node, (part) => set(part, edit.property, edit.value, known)) ?? body;
    case 'remove':
      return without(body, edit.node);
    case 'move': {
      const moved = partAt(body, edit.node);
      return moved && inserted(without(body, edit.node), edit.parent, moved, edit.at);
    }
    default: {
      const part = partOf(edit.node, known);
      return part && inserted(body, edit.parent, part, edit.at);
    }
  }
}

function partAt(part: Part, id: string): Part | undefined {
  if (part.id === id) return part;
  const key = holdingOf(part);
  for (const child of key ? (part[key] as Part[]) : []) {
    const found = partAt(child, id);
    if (found) return found;
  }
  return undefined;
}

/** The same with one part changed; nothing where it is not there. Only what holds the part is copied. */
function changed(part: Part, id: string, change: (part: Part) => Part): Part | undefined {
  if (part.id === id) return change(part);
  const key = holdingOf(part);
  const children = key ? (part[key] as Part[]) : [];
  for (const [i, child] of children.entries()) {
    const next = changed(child, id, change);
    if (next) return { ...part, [key!]: children.with(i, next) };
  }
  return undefined;
}

function without(part: Part, id: string): Part {
  const key = holdingOf(part);
  if (!key) return part;
  const children = part[key] as Part[];
  const rest = children.filter((child) => child.id !== id).map((child) => without(child, id));
  return rest.length === children.length && rest.every((child, i) => child === children[i]) ? part : { ...part, [key]: rest };
}

function inserted(body: Part, parent: string, node: Part, at: Anchor): Part | undefined {
  return changed(body, parent, (part) => {
    const key = holdingOf(part);
    if (!key) return part;
    const children = part[key] as Part[];
    const index =
      at === 'first'
        ? 0
        : at === 'last'
          ? children.length
          : children.findIndex((child) => child.id === ('before' in at ? at.before : at.after)) + ('after' in at ? 1 : 0);
    return index < 0 ? part : { ...part, [key]: children.toSpliced(index, 0, node) };
  });
}

/** A new part as it is resolved; nothing for what only the service knows. */
export function partOf(node: NewNode, known: FormSubject): Part | undefined {
  const { properties = {}, children = [] } = node;
  const id = node.id ?? String(properties['field'] ?? `new ${node.kind}`);
  const within = <T>() => children.map((child) => partOf(child, known)) as (T | undefined)[];
  const whole = <T>(parts: (T | undefined)[]): parts is T[] => parts.every((part) => part !== undefined);
  const text = (name: string) => textIn(properties[name], known.language);
  switch (node.kind) {
    case 'section': {
      const rows = within<Row>();
      return whole(rows)
        ? ({ id, title: text('title'), frame: 'none', labels: 'above', columns: 1, rows } satisfies Section as unknown as Part)
        : undefined;
    }
    case 'row': {
      const cells = within<Cell>();
      return whole(cells) ? { id, cells } : undefined;
    }
    case 'cell': {
      const items = within<Item>();
      const span = properties['span'];
      return whole(items) ? { id, items, ...(typeof span === 'number' ? { span } : { span: 12, shares: true }) } : undefined;
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

function set(part: Part, property: string, value: PropertyValue | null, known: FormSubject): Part {
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
