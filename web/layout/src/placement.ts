import { freshId } from './ids.ts';
import { leaving } from './removal.ts';
import { roomOfCell, type Facts } from './rooms.ts';
import { admit } from './rowRoom.ts';
import { unitsOf } from './spans.ts';
import { kindOf, newNode, roomOfSubject, stemOf, type Subject } from './subject.ts';
import { isItem, isList, parentOf, pathTo, type Anchor, type Edit, type Kind, type TreeNode } from './tree.ts';

export type Edge = 'above' | 'below' | 'left' | 'right' | 'inside';

/** A spot on the layout: a node, and where at it. */
export interface Spot {
  target: string;
  edge: Edge;
}

/** A legal place for a subject, with the edits that put it there. */
export interface Place extends Spot {
  edits: Edit[];
  /** There is no room left in the row it was meant for: it gets a row of its own. */
  full?: boolean;
}

/**
 * Where a subject would go at a spot, or undefined when it may not. Mouse, keyboard and clipboard ask this and nothing else; the core's
 * LayoutPlaces does the same for the API and the client (tests/vectors/places).
 */
export function placeAt(tree: TreeNode, subject: Subject, { target, edge }: Spot, facts: Facts): Place | undefined {
  const kind = kindOf(tree, subject);
  const path = pathTo(tree, target);
  const at = path.at(-1);
  if (!kind || !at) return undefined;
  // Not in itself; and what is laid over the form, at a width or over what it extends, is no place on it.
  if ('node' in subject && path.some((node) => node.id === subject.node)) return undefined;
  if (path.some((node) => node.kind === 'variant' || node.kind === 'change')) return undefined;
  const placed = isList(tree)
    ? placeColumn(tree, subject, kind, at, edge)
    : isItem(kind)
      ? placeItem(tree, subject, at, edge, facts)
      : placeContainer(tree, subject, kind, at, edge);
  return !placed || placed.length === 0 ? undefined : { target, edge, edits: [...placed], ...(isFull(placed) ? { full: true } : {}) };
}

/** Columns stand side by side in the list itself. */
function placeColumn(tree: TreeNode, subject: Subject, kind: Kind, at: TreeNode, edge: Edge): Edit[] | undefined {
  if (kind !== 'column') return undefined;
  if (at.kind === 'layout') return edge === 'inside' ? editsOf(tree, subject, kind, at.id, 'last') : undefined;
  if (at.kind !== 'column' || (edge !== 'left' && edge !== 'right')) return undefined;
  const columns = tree.children.filter((child) => child.kind === 'column');
  const beside = columns[columns.indexOf(at) + (edge === 'left' ? -1 : 1)];
  return 'node' in subject && beside?.id === subject.node
    ? undefined
    : editsOf(tree, subject, kind, tree.id, edge === 'left' ? { before: at.id } : { after: at.id });
}

/** What stands around a form's body, once each. */
export const isAround = (kind: Kind) => kind === 'top' || kind === 'bottom' || kind === 'start' || kind === 'end';

/** What a band can hold. */
export const belongsInBand = (kind: Kind) => kind === 'action' || kind === 'link' || kind === 'image';

export const isBand = (kind: Kind | undefined) => kind === 'top' || kind === 'bottom';

function placeContainer(tree: TreeNode, subject: Subject, kind: Kind, at: TreeNode, edge: Edge): Edit[] | undefined {
  if (isAround(kind))
    return at.kind === 'layout' && edge === 'inside' && !at.children.some((child) => child.kind === kind)
      ? editsOf(tree, subject, kind, at.id, 'last')
      : undefined;
  const holder: Partial<Record<Kind, Kind>> = { page: 'body', section: 'page', row: 'section', cell: 'row' };
  if (at.kind === kind && edge !== 'inside') {
    const sideways = kind === 'page' || kind === 'cell';
    if (sideways !== (edge === 'left' || edge === 'right')) return undefined;
    return editsOf(
      tree,
      subject,
      kind,
      parentOf(tree, at.id)!.id,
      edge === 'above' || edge === 'left' ? { before: at.id } : { after: at.id },
    );
  }
  return at.kind === holder[kind] && edge === 'inside' ? editsOf(tree, subject, kind, at.id, 'last') : undefined;
}

function editsOf(tree: TreeNode, subject: Subject, kind: Kind, parent: string, at: Anchor): Edit[] {
  return 'node' in subject
    ? [{ op: 'move', node: subject.node, parent, at }]
    : [{ op: 'insert', node: newNode(tree, subject, kind), parent, at }];
}

/** Edits that give a subject a row of its own, since the row it was meant for is full. */
type FullRow = Edit[] & { full: true };
const isFull = (edits: Edit[]): edits is FullRow => 'full' in edits;

function placeItem(tree: TreeNode, subject: Subject, at: TreeNode, edge: Edge, facts: Facts): Edit[] | undefined {
  switch (at.kind) {
    case 'page': {
      if (edge !== 'inside') return undefined;
      const section = at.children.at(-1);
      return section ? placeItem(tree, subject, section, 'inside', facts) : intoNewSection(tree, subject, at);
    }
    case 'section': {
      const last = at.children.at(-1);
      return edge !== 'inside' || (last && isAlone(subject, last)) ? undefined : intoNewRow(tree, subject, at, 'last');
    }
    case 'row':
      if ((edge !== 'above' && edge !== 'below') || isAlone(subject, at)) return undefined;
      return intoNewRow(tree, subject, parentOf(tree, at.id)!, edge === 'above' ? { before: at.id } : { after: at.id });
    case 'cell':
      if (edge === 'inside') return at.children.length === 0 ? intoEmpty(tree, subject, at, facts) : undefined;
      return edge === 'left' || edge === 'right' ? asColumn(tree, subject, at, edge, facts) : undefined;
    case 'top':
    case 'bottom':
      return edge === 'inside' && belongsInBand(kindOf(tree, subject)!) ? into(tree, subject, at.id, 'last') : undefined;
    default:
      return isItem(at.kind) && edge !== 'inside' ? besideItem(tree, subject, at, edge, facts) : undefined;
  }
}

function besideItem(tree: TreeNode, subject: Subject, at: TreeNode, edge: Edge, facts: Facts): Edit[] | undefined {
  const holder = parentOf(tree, at.id)!;
  if (isBand(holder.kind))
    return belongsInBand(kindOf(tree, subject)!) && (edge === 'left' || edge === 'right')
      ? into(tree, subject, holder.id, edge === 'left' ? { before: at.id } : { after: at.id })
      : undefined;
  if (edge === 'left' || edge === 'right') return asColumn(tree, subject, holder, edge, facts);
  const row = parentOf(tree, holder.id)!;
  // Alone in its row, above and below mean another row; beside others, the same column.
  if (row.children.length === 1 && holder.children.length === 1) return placeItem(tree, subject, row, edge, facts);
  return intoColumn(tree, subject, holder, edge === 'above' ? { before: at.id } : { after: at.id }, facts);
}

/** Whether the subject is all that stands in a row, so that a place beside that row is where it is already. */
export function isAlone(subject: Subject, row: TreeNode): boolean {
  return (
    'node' in subject &&
    row.children.length === 1 &&
    row.children[0]!.children.length === 1 &&
    row.children[0]!.children[0]!.id === subject.node
  );
}

function into(tree: TreeNode, subject: Subject, cell: string, at: Anchor): Edit[] {
  if (!('node' in subject)) return [{ op: 'insert', node: newNode(tree, subject, kindOf(tree, subject)!), parent: cell, at }];
  return [{ op: 'move', node: subject.node, parent: cell, at }, ...leaving(tree, subject.node, cell)];
}

function intoNewRow(tree: TreeNode, subject: Subject, section: TreeNode, at: Anchor): Edit[] {
  const stem = stemOf(subject);
  const [row, cell] = [freshId(tree, `${stem}Row`), freshId(tree, `${stem}Cell`)];
  return [
    { op: 'insert', node: { id: row, kind: 'row', children: [{ id: cell, kind: 'cell' }] }, parent: section.id, at },
    ...into(tree, subject, cell, 'last'),
  ];
}

/** A page without a section gets one. */
function intoNewSection(tree: TreeNode, subject: Subject, page: TreeNode): Edit[] {
  const [id, row, cell] = [freshId(tree, 'section'), freshId(tree, 'row'), freshId(tree, 'cell')];
  return [
    {
      op: 'insert',
      node: { id, kind: 'section', children: [{ id: row, kind: 'row', children: [{ id: cell, kind: 'cell' }] }] },
      parent: page.id,
      at: 'last',
    },
    ...into(tree, subject, cell, 'last'),
  ];
}

/** Beside a row that has no room for it: a row of its own, above what it was meant to stand left of, below what right of. */
function besideFullRow(tree: TreeNode, subject: Subject, row: TreeNode, edge: 'left' | 'right'): Edit[] | undefined {
  if (isAlone(subject, row)) return undefined;
  const at: Anchor = edge === 'left' ? { before: row.id } : { after: row.id };
  return Object.assign(intoNewRow(tree, subject, parentOf(tree, row.id)!, at), { full: true as const });
}

const sharingCells = (cells: readonly TreeNode[], facts: Facts) =>
  cells.map((cell) => ({
    span: typeof cell.properties['span'] === 'number' ? cell.properties['span'] : undefined,
    room: roomOfCell(cell, facts),
  }));

/** Edits that write spans where they are others than are written. */
const spanned = (cells: readonly TreeNode[], spans: readonly (number | undefined)[]): Edit[] =>
  cells.flatMap((cell, i): Edit[] =>
    spans[i] === undefined || cell.properties['span'] === spans[i] ? [] : [{ op: 'set', node: cell.id, property: 'span', value: spans[i] }],
  );

/** A column beside a cell; a row of its own where the row has no room for it. */
function asColumn(tree: TreeNode, subject: Subject, cell: TreeNode, edge: 'left' | 'right', facts: Facts): Edit[] | undefined {
  const row = parentOf(tree, cell.id)!;
  const at: Anchor = edge === 'left' ? { before: cell.id } : { after: cell.id };
  const index = row.children.findIndex((each) => each.id === cell.id);
  const beside = row.children[edge === 'left' ? index - 1 : index + 1];
  const own = 'node' in subject ? parentOf(tree, subject.node)! : undefined;
  if (own?.children.length === 1) {
    if (own.id === cell.id || beside?.id === own.id) return undefined;
    if (parentOf(tree, own.id)!.id === row.id) return [{ op: 'move', node: own.id, parent: row.id, at }];
  }
  if (beside?.children.length === 0) return intoEmpty(tree, subject, beside, facts);
  const place = edge === 'left' ? index : index + 1;
  const spans = admit(sharingCells(row.children, facts), place, roomOfSubject(tree, subject, facts));
  if (!spans) return besideFullRow(tree, subject, row, edge);
  const id = freshId(tree, `${stemOf(subject)}Cell`);
  const span = spans[place];
  return [
    ...spanned(row.children, spans.toSpliced(place, 1)),
    { op: 'insert', node: { id, kind: 'cell', ...(span === undefined ? {} : { properties: { span } }) }, parent: row.id, at },
    ...into(tree, subject, id, 'last'),
  ];
}

/** Under or over an item in its column, which is made wide enough for it; a row of its own where the others cannot give way so far. */
function intoColumn(tree: TreeNode, subject: Subject, cell: TreeNode, at: Anchor, facts: Facts): Edit[] | undefined {
  const neighbour = typeof at === 'object' ? ('before' in at ? at.before : at.after) : undefined;
  const stands = 'node' in subject ? cell.children.findIndex((each) => each.id === subject.node) : -1;
  const goes = cell.children.findIndex((each) => each.id === neighbour) + (typeof at === 'object' && 'after' in at ? 1 : 0);
  if (stands >= 0) return goes === stands || goes === stands + 1 ? undefined : into(tree, subject, cell.id, at);
  const widened = widenedFor(tree, subject, cell, facts);
  if (widened) return [...widened, ...into(tree, subject, cell.id, at)];
  return besideFullRow(tree, subject, parentOf(tree, cell.id)!, typeof at === 'object' && 'before' in at ? 'left' : 'right');
}

/** Into an empty cell, which is made wide enough. */
function intoEmpty(tree: TreeNode, subject: Subject, cell: TreeNode, facts: Facts): Edit[] | undefined {
  const widened = widenedFor(tree, subject, cell, facts);
  return widened ? [...widened, ...into(tree, subject, cell.id, 'last')] : besideFullRow(tree, subject, parentOf(tree, cell.id)!, 'right');
}

/** What gives a cell the room a subject needs: nothing where it has that, edits of spans where the others can give way. */
function widenedFor(tree: TreeNode, subject: Subject, cell: TreeNode, facts: Facts): Edit[] | undefined {
  const row = parentOf(tree, cell.id)!;
  const index = row.children.findIndex((each) => each.id === cell.id);
  const units = unitsOf(row)[index]!;
  const room = roomOfSubject(tree, subject, facts);
  if (units >= room.needed) return [];
  // Its own room stays its own, whatever else it holds.
  const wanted = { needed: Math.max(room.needed, units), natural: Math.max(room.needed, units) };
  const others = row.children.toSpliced(index, 1);
  // What shares beside it is given what it has, so that it can keep it.
  const now = unitsOf(row).toSpliced(index, 1);
  const spans = admit(
    sharingCells(others, facts).map((each, i) => ({ ...each, span: now[i] })),
    index,
    wanted,
  );
  return spans && spanned(row.children, spans);
}
