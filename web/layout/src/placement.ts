import { freshId } from './ids.ts';
import {
  ancestorOf,
  find,
  isItem,
  isList,
  parentOf,
  walk,
  type Anchor,
  type Edit,
  type Kind,
  type NewNode,
  type PropertyValue,
  type TreeNode,
} from './tree.ts';

/** What is being placed: a field or part that is not on the layout yet, or a node that is. */
export type Subject =
  { field: string } | { part: Kind; title?: string; properties?: Record<string, PropertyValue> } | { piece: string } | { node: string };

export type Edge = 'above' | 'below' | 'left' | 'right' | 'inside';

/** A spot on the layout: a node, and where at it. */
export interface Spot {
  target: string;
  edge: Edge;
}

/** A legal place for a subject, with the edits that put it there. */
export interface Place extends Spot {
  edits: Edit[];
}

export const kindOf = (tree: TreeNode, subject: Subject): Kind | undefined =>
  'field' in subject
    ? isList(tree)
      ? 'column'
      : 'field'
    : 'piece' in subject
      ? 'piece'
      : 'part' in subject
        ? subject.part
        : find(tree, subject.node)?.kind;

/** What the nodes made for a subject are called after. */
const stemOf = (subject: Subject) =>
  'field' in subject ? subject.field : 'node' in subject ? subject.node : 'piece' in subject ? subject.piece : subject.part;

/** Where a subject would go at a spot, or undefined when it may not. Mouse and keyboard both ask this and nothing else. */
export function placeAt(tree: TreeNode, subject: Subject, { target, edge }: Spot): Place | undefined {
  const kind = kindOf(tree, subject);
  const at = find(tree, target);
  if (!kind || !at || ('node' in subject && subject.node === target)) return undefined;
  if ('node' in subject && [...walk(find(tree, subject.node)!)].some((node) => node.id === target)) return undefined;
  const edits = isList(tree)
    ? placeColumn(tree, subject, kind, at, edge)
    : isItem(kind)
      ? placeItem(tree, subject, at, edge)
      : placeContainer(tree, subject, kind, at, edge);
  return edits && edits.length > 0 ? { target, edge, edits } : undefined;
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

const isBand = (kind: Kind | undefined) => kind === 'top' || kind === 'bottom';

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

function newNode(tree: TreeNode, subject: Subject, kind: Kind): NewNode {
  // Called as the service would call it, so that what comes next can name it.
  if ('field' in subject) return { id: freshId(tree, subject.field), kind, properties: { [kind]: subject.field } };
  if ('piece' in subject) return { kind: 'piece', properties: { piece: subject.piece } };
  const title = 'title' in subject ? subject.title : undefined;
  const named: Record<string, PropertyValue> = title ? { label: title } : {};
  const filled = (content: NewNode): NewNode => ({
    kind: 'section',
    children: [{ kind: 'row', children: [{ kind: 'cell', children: [content] }] }],
  });
  switch (kind) {
    case 'image':
      return { kind, properties: { image: '/icon.svg', ...(title ? { alt: title } : {}) } };
    // It leads somewhere from the start; where to is said beside it.
    case 'link':
      return { kind, properties: { link: '/', ...named } };
    case 'action':
      return { kind, properties: { action: 'open', address: '/', ...named } };
    case 'related':
      return { kind, properties: 'properties' in subject ? subject.properties! : {} };
    case 'panel':
      return {
        kind,
        properties: { panel: 'tabs' },
        children: [{ kind: 'page', properties: title ? { title } : {}, children: [{ kind: 'section' }] }],
      };
    case 'top':
    case 'bottom':
      return { kind, properties: { text: title ?? '' } };
    case 'start':
    case 'end':
      return { kind, children: [filled({ kind: 'text', properties: { text: title ?? 'Text' } })] };
    case 'heading':
      return { kind, properties: { heading: title ?? 'Heading' } };
    case 'text':
      return { kind, properties: { text: title ?? 'Text' } };
    case 'divider':
      return { kind, properties: { divider: 'thin' } };
    case 'spacer':
      return { kind, properties: { spacer: 'medium' } };
    default:
      return { kind, properties: title ? { title } : {} };
  }
}

function placeItem(tree: TreeNode, subject: Subject, at: TreeNode, edge: Edge): Edit[] | undefined {
  switch (at.kind) {
    case 'page': {
      const section = at.children.at(-1);
      if (edge !== 'inside') return undefined;
      if (section) return intoNewRow(tree, subject, section, 'last');
      const [id, row] = [freshId(tree, 'section'), freshId(tree, 'row')];
      const cell = freshId(tree, 'cell');
      return [
        {
          op: 'insert',
          node: { id, kind: 'section', children: [{ id: row, kind: 'row', children: [{ id: cell, kind: 'cell' }] }] },
          parent: at.id,
          at: 'last',
        },
        ...into(tree, subject, cell, 'last'),
      ];
    }
    case 'section':
      return edge === 'inside' ? intoNewRow(tree, subject, at, 'last') : undefined;
    case 'row':
      if (edge !== 'above' && edge !== 'below') return undefined;
      if (isAlone(subject, at)) return undefined;
      return intoNewRow(tree, subject, parentOf(tree, at.id)!, edge === 'above' ? { before: at.id } : { after: at.id });
    case 'cell':
      if (edge === 'inside') return at.children.length === 0 ? into(tree, subject, at.id, 'last') : undefined;
      return edge === 'left' || edge === 'right' ? asColumn(tree, subject, at, edge) : undefined;
    case 'top':
    case 'bottom':
      return edge === 'inside' && belongsInBand(kindOf(tree, subject)!) ? into(tree, subject, at.id, 'last') : undefined;
    default: {
      if (!isItem(at.kind) || edge === 'inside') return undefined;
      const cell = parentOf(tree, at.id)!;
      if (isBand(cell.kind))
        return belongsInBand(kindOf(tree, subject)!) && (edge === 'left' || edge === 'right')
          ? into(tree, subject, cell.id, edge === 'left' ? { before: at.id } : { after: at.id })
          : undefined;
      const row = parentOf(tree, cell.id)!;
      if (edge === 'left' || edge === 'right') return asColumn(tree, subject, cell, edge);
      // Alone in its row, above and below mean another row; beside others, the same column.
      if (row.children.length === 1 && cell.children.length === 1) return placeItem(tree, subject, row, edge);
      return into(tree, subject, cell.id, edge === 'above' ? { before: at.id } : { after: at.id });
    }
  }
}

/** Whether the subject is all that stands in a row, so that a place beside that row is where it is already. */
function isAlone(subject: Subject, row: TreeNode): boolean {
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
  const row = freshId(tree, `${stem}Row`);
  const cell = freshId(tree, `${stem}Cell`);
  return [
    { op: 'insert', node: { id: row, kind: 'row', children: [{ id: cell, kind: 'cell' }] }, parent: section.id, at },
    ...into(tree, subject, cell, 'last'),
  ];
}

/** A column beside a cell. A cell with a written span shares it with the newcomer, so that no neighbour moves. */
function asColumn(tree: TreeNode, subject: Subject, cell: TreeNode, edge: 'left' | 'right'): Edit[] | undefined {
  const row = parentOf(tree, cell.id)!;
  const at: Anchor = edge === 'left' ? { before: cell.id } : { after: cell.id };
  const own = 'node' in subject ? parentOf(tree, subject.node)! : undefined;
  if (own && own.id === cell.id && own.children.length === 1) return undefined;
  if (own && own.children.length === 1 && parentOf(tree, own.id)!.id === row.id) {
    const index = row.children.findIndex((each) => each.id === cell.id);
    const beside = row.children[edge === 'left' ? index - 1 : index + 1];
    return beside?.id === own.id ? undefined : [{ op: 'move', node: own.id, parent: row.id, at }];
  }
  if (row.children.length >= 12) return undefined;
  const stem = stemOf(subject);
  const id = freshId(tree, `${stem}Cell`);
  const span = cell.properties['span'];
  const split = typeof span === 'number' && span > 1;
  return [
    ...(split ? [{ op: 'set', node: cell.id, property: 'span', value: span - Math.floor(span / 2) } satisfies Edit] : []),
    { op: 'insert', node: { id, kind: 'cell', ...(split ? { properties: { span: Math.floor(span / 2) } } : {}) }, parent: row.id, at },
    ...into(tree, subject, id, 'last'),
  ];
}

/**
 * What is tidied up when an item leaves: an emptied row goes; an emptied cell goes too, save in a section of columns, where the others keep
 * theirs.
 */
function leaving(tree: TreeNode, item: string, goingTo?: string): Edit[] {
  const cell = parentOf(tree, item)!;
  if (cell.kind !== 'cell' || cell.id === goingTo || cell.children.length > 1) return [];
  const row = parentOf(tree, cell.id)!;
  const rest = row.children.filter((each) => each.id !== cell.id);
  if (rest.every((each) => each.children.length === 0 && each.id !== goingTo)) return [{ op: 'remove', node: row.id }];
  const columns = Number(parentOf(tree, row.id)!.properties['columns'] ?? 1);
  return columns > 1 ? [] : [{ op: 'remove', node: cell.id }];
}

/** Takes a node off the layout, and what it leaves empty. */
export function removal(tree: TreeNode, id: string): Edit[] {
  const node = find(tree, id);
  if (!node || node.kind === 'layout' || node.kind === 'body') return [];
  return [{ op: 'remove', node: id }, ...(isItem(node.kind) ? leaving(tree, id) : [])];
}

/** Every legal place for a subject, in reading order: what the keyboard goes round. */
export function places(tree: TreeNode, subject: Subject): Place[] {
  const spots: Spot[] = [];
  if (isList(tree)) {
    const columns = tree.children.filter((child) => child.kind === 'column');
    spots.push(
      ...columns.map((column): Spot => ({ target: column.id, edge: 'left' })),
      columns.length > 0 ? { target: columns.at(-1)!.id, edge: 'right' } : { target: tree.id, edge: 'inside' },
    );
  }
  for (const node of isList(tree) ? [] : walk(tree)) {
    const siblings = parentOf(tree, node.id)?.children ?? [];
    const last = siblings.at(-1)?.id === node.id;
    if (node.kind === 'page' || node.kind === 'cell') {
      spots.push({ target: node.id, edge: 'left' });
      if (node.children.length === 0) spots.push({ target: node.id, edge: 'inside' });
      if (last) spots.push({ target: node.id, edge: 'right' });
    } else if (node.kind === 'section' || node.kind === 'row') {
      spots.push({ target: node.id, edge: 'above' });
      if (last) spots.push({ target: node.id, edge: 'below' });
      if (node.kind === 'section' && node.children.length === 0) spots.push({ target: node.id, edge: 'inside' });
    } else if (node.kind === 'layout' || isBand(node.kind)) {
      spots.push({ target: node.id, edge: 'inside' });
    } else if (isItem(node.kind)) {
      const row = ancestorOf(tree, node.id, 'row');
      if (!row) spots.push({ target: node.id, edge: 'left' });
      else if (row.children.length > 1 || siblings.length > 1) {
        spots.push({ target: node.id, edge: 'above' });
        if (last) spots.push({ target: node.id, edge: 'below' });
      }
    }
  }
  return spots.map((spot) => placeAt(tree, subject, spot)).filter((place) => place !== undefined);
}

/** One step with Alt and an arrow: along the row, or to the row before or after. */
export function step(tree: TreeNode, id: string, direction: 'up' | 'down' | 'left' | 'right'): Edit[] {
  const node = find(tree, id);
  const parent = node && parentOf(tree, id);
  if (!node || !parent) return [];
  const back = direction === 'up' || direction === 'left';
  const beside = (of: TreeNode, child: string) => of.children[of.children.findIndex((each) => each.id === child) + (back ? -1 : 1)];
  const past = (child: string, of: TreeNode, sibling: TreeNode): Edit => ({
    op: 'move',
    node: child,
    parent: of.id,
    at: back ? { before: sibling.id } : { after: sibling.id },
  });
  if (node.kind === 'page' || node.kind === 'section' || node.kind === 'row') {
    const sibling = beside(parent, id);
    if (sibling) return [past(id, parent, sibling)];
    const holder = parentOf(tree, parent.id);
    const next = holder && node.kind !== 'page' ? beside(holder, parent.id) : undefined;
    return next && next.kind === parent.kind ? [{ op: 'move', node: id, parent: next.id, at: back ? 'last' : 'first' }] : [];
  }
  if (node.kind === 'column') {
    const sibling = direction === 'left' || direction === 'right' ? beside(parent, id) : undefined;
    return sibling?.kind === 'column' ? [past(id, parent, sibling)] : [];
  }
  if (!isItem(node.kind)) return [];
  if (isBand(parent.kind)) {
    const sibling = direction === 'left' || direction === 'right' ? beside(parent, id) : undefined;
    return sibling ? [past(id, parent, sibling)] : [];
  }
  const row = parentOf(tree, parent.id)!;
  if (direction === 'left' || direction === 'right') {
    const cell = beside(row, parent.id);
    return cell ? [past(parent.id, row, cell)] : [];
  }
  const stacked = beside(parent, id);
  if (stacked) return [past(id, parent, stacked)];
  if (isAlone({ node: id }, row)) return step(tree, row.id, direction);
  return placeAt(tree, { node: id }, { target: row.id, edge: back ? 'above' : 'below' })?.edits ?? [];
}
