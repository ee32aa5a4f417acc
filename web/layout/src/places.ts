import { belongsInBand, isBand, placeAt, type Edge, type Place, type Spot } from './placement.ts';
import type { Facts } from './rooms.ts';
import { kindOf, type Subject } from './subject.ts';
import { ancestorOf, isItem, isList, parentOf, pathTo, walk, type Kind, type TreeNode } from './tree.ts';

/** Every legal place for a subject, in reading order: what the keyboard goes round. */
export function places(tree: TreeNode, subject: Subject, facts: Facts): Place[] {
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
  return spots.map((spot) => placeAt(tree, subject, spot, facts)).filter((place) => place !== undefined);
}

/** Where something goes that was chosen and not dragged. */
export interface PlaceHint {
  /** What is selected: it comes after that. */
  after?: string | undefined;
  /** The page in view: without a selection it comes at its end. */
  page?: string | undefined;
}

/**
 * Where a subject goes at once: after what is selected, else at the end of what is in view; into the next empty cell where the section has
 * columns. The core's LayoutPlaces.Next does the same.
 */
export function nextPlace(tree: TreeNode, subject: Subject, { after, page }: PlaceHint, facts: Facts): Place | undefined {
  const at = (target: string | undefined, edge: Edge) =>
    target === undefined ? undefined : placeAt(tree, subject, { target, edge }, facts);
  const kind = kindOf(tree, subject);
  const path = after === undefined ? [] : pathTo(tree, after);
  const above = (of: Kind) => path.findLast((node) => node.kind === of);
  const pages = [...walk(tree)].filter((node) => node.kind === 'page');
  const shown = above('page') ?? pages.find((each) => each.id === page) ?? pages[0];
  if (isList(tree)) {
    const column = above('column') ?? tree.children.findLast((child) => child.kind === 'column');
    return at(column?.id, 'right') ?? at(tree.id, 'inside');
  }
  if (kind === 'page') return at(shown?.id, 'right') ?? at(tree.children.find((child) => child.kind === 'body')?.id, 'inside');
  if (kind === 'section') return at(above('section')?.id, 'below') ?? at(shown?.id, 'inside');
  if (!kind || !isItem(kind)) return at(tree.id, 'inside');
  const bar = path.find((node) => isBand(node.kind));
  if (bar && belongsInBand(kind)) return at(bar.id, 'inside');
  const section = above('section') ?? shown?.children.findLast((child) => child.kind === 'section');
  if (!section) return at(shown?.id, 'inside') ?? at(tree.children.findLast((child) => child.kind === 'row')?.id, 'below');
  return inColumns(section, above('row'), at) ?? at(above('row')?.id, 'below') ?? at(section.id, 'inside');
}

/** The next empty cell of a section of columns, from a row on; or a column more in its last row, where that has fewer than the section. */
function inColumns(
  section: TreeNode,
  from: TreeNode | undefined,
  at: (target: string | undefined, edge: Edge) => Place | undefined,
): Place | undefined {
  const columns = Number(section.properties['columns'] ?? 1);
  if (columns < 2) return undefined;
  const rows = section.children.slice(Math.max(0, from ? section.children.indexOf(from) : 0));
  for (const cell of rows.flatMap((row) => row.children)) {
    const place = cell.children.length === 0 ? at(cell.id, 'inside') : undefined;
    if (place && !place.full) return place;
  }
  const row = from ?? rows.at(-1);
  const place = row && row.children.length < columns ? at(row.children.at(-1)?.id, 'right') : undefined;
  return place?.full ? undefined : place;
}
