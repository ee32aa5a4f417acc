import { contentOf, type ResolvedForm } from '#form';
import { apply, walk, type Edit, type Kind, type NewNode, type TreeNode } from '#layout';
import { partOf, typesOf, withProperty, type FormSubject, type Part } from './resolvedParts.ts';

/** Where parts hold others, and of what kind those are; items say so themselves. */
const holdings: readonly (readonly [string, Kind | undefined])[] = [
  ['columns', 'column'],
  ['pages', 'page'],
  ['sections', 'section'],
  ['rows', 'row'],
  ['cells', 'cell'],
  ['items', undefined],
];

// A section has a number of columns, a list has columns.
const holdingOf = (part: Part) => holdings.find(([key]) => Array.isArray(part[key]));

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
  const held = form.kind === 'list' ? 'columns' : 'pages';
  const body: Part = { id: known.body, [held]: form[held] };
  const next = edited(body, edits, known);
  if (!next || next === body) return form;
  const added = typesOf(
    edits.flatMap((edit) => (edit.op === 'insert' ? [edit.node] : [])),
    known,
  );
  const fields = Object.keys(added).some((key) => !form.fields[key]) ? { ...added, ...form.fields } : form.fields;
  return { ...form, fields, [held]: next[held] };
}

/**
 * A body after edits, which are applied to its parts as to a layout's tree; what is not changed stays the object it was. Nothing where an
 * edit is refused, or a part comes in that only the service can resolve.
 */
function edited(body: Part, edits: readonly Edit[], known: FormSubject): Part | undefined {
  if (edits.every((edit) => edit.op === 'set')) return edits.reduce((so, edit) => written(so, edit, known) ?? so, body);
  const parts = new Map<string, Part>();
  const root = nodeOf(body, Array.isArray(body['columns']) ? 'layout' : 'body', parts);
  // What is hidden is not on the form, and need not be taken off it.
  const outcome = apply(
    root,
    edits.filter((edit) => edit.op !== 'set' && (edit.op !== 'remove' || parts.has(edit.node))),
  );
  if (!outcome.tree) return undefined;
  for (const node of walk<NewNode>(outcome.tree)) {
    if (parts.has(node.id!)) continue;
    const part = partOf(node, known);
    if (!part) return undefined;
    parts.set(part.id, part);
  }
  for (const edit of edits) {
    const part = edit.op === 'set' ? parts.get(edit.node) : undefined;
    if (part && edit.op === 'set') parts.set(part.id, withProperty(part, edit.property, edit.value, known));
  }
  return drawn(outcome.tree, parts);
}

/** A part with what is set on it or on what it holds; nothing where what is set is not there. */
function written(part: Part, edit: Extract<Edit, { op: 'set' }>, known: FormSubject): Part | undefined {
  if (part.id === edit.node) return withProperty(part, edit.property, edit.value, known);
  const [key] = holdingOf(part) ?? [];
  const children = key ? (part[key] as Part[]) : [];
  for (const [i, child] of children.entries()) {
    const next = written(child, edit, known);
    if (next) return { ...part, [key!]: children.with(i, next) };
  }
  return undefined;
}

/** A part as a node of a layout, without its properties, and all below it. */
function nodeOf(part: Part, kind: Kind, parts: Map<string, Part>): TreeNode {
  parts.set(part.id, part);
  const [key, held] = holdingOf(part) ?? [];
  const children = key ? (part[key] as Part[]).map((child) => nodeOf(child, held ?? (child['kind'] as Kind), parts)) : [];
  return { id: part.id, kind, properties: kind === 'layout' ? { kind: 'list' } : {}, children };
}

/** The part of a node, holding what the node holds. */
function drawn(node: TreeNode, parts: ReadonlyMap<string, Part>): Part {
  const part = parts.get(node.id)!;
  const [key] = holdingOf(part) ?? [];
  if (!key) return part;
  const before = part[key] as Part[];
  const children = node.children.map((child) => drawn(child, parts));
  return children.length === before.length && children.every((child, i) => child === before[i]) ? part : { ...part, [key]: children };
}
