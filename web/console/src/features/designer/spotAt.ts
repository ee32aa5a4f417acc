import { belongsInBand, find, isAround, isList, kindOf, type Edge, type Spot, type Subject, type TreeNode } from '#layout';
import type { Box } from './boxes.ts';
import type { DrawnPart, FormBoxes } from './formBoxes.ts';

/** How much of an item's width from its edge means beside it, and the least and most of it in pixels. */
const rim = { share: 0.28, least: 24, most: 96 };

/** How far the band between two rows, which means a row of its own, goes into each; in pixels. */
const band = 12;

/** The node an element belongs to; a cell with one item is that item, a bare row or cell its section. */
export function nodeAt(element: Element | undefined): string | undefined {
  const tab = (element?.closest('[data-tab]') as HTMLElement | null)?.dataset['tab'];
  const column = (element?.closest('[data-column]') as HTMLElement | null)?.dataset['column'];
  // What a piece shows is the piece's: here it is one thing.
  return (
    tab ??
    column ??
    (element?.closest('.bt-item[data-node], .bt-section[data-node], .bt-band[data-node]') as HTMLElement | null)?.dataset['node']?.split(
      '/',
    )[0]
  );
}

/**
 * The spot a pointer means on a form as it was measured: between two rows another row, near an item's side another column, else above or
 * below it; right of a row's last cell in that row; below the last row another; between two sections the nearer one.
 * @param x in the sheet's own pixels, as y
 */
export function spotAt({ of: parts, rightToLeft }: FormBoxes, x: number, y: number, tree: TreeNode, subject: Subject): Spot | undefined {
  const kind = kindOf(tree, subject);
  if (!kind) return undefined;
  const at = (of: readonly DrawnPart[]) => of.find((each) => holds(each.box, x, y));
  const sideways = ({ id, box }: DrawnPart): Spot => ({
    target: id,
    edge: x < box.left + box.width / 2 !== rightToLeft ? 'left' : 'right',
  });
  if (isList(tree)) {
    const column = at(parts.column);
    return column ? sideways(column) : parts.column.length > 0 ? undefined : { target: tree.id, edge: 'inside' };
  }
  if (isAround(kind)) return { target: tree.id, edge: 'inside' };
  const bar = at(parts.band);
  if (bar && belongsInBand(kind)) {
    const beside = at(bar.within);
    return beside ? sideways(beside) : { target: bar.id, edge: 'inside' };
  }
  const tab = at(parts.tab);
  if (tab) return kind === 'page' ? sideways(tab) : { target: tab.id, edge: 'inside' };
  if (kind === 'page') {
    const page = at(parts.page) ?? parts.page[0];
    // Anywhere below the row of tabs is behind the one that is open; where there is none yet, the page's own halves stand for it.
    return page && (parts.tab.length > 0 ? { target: page.id, edge: 'right' } : sideways(page));
  }
  const section = sectionAt(parts.section, x, y);
  if (!section) {
    const page = at(parts.page) ?? parts.page[0];
    return page && { target: page.id, edge: 'inside' };
  }
  if (kind === 'section') return { target: section.id, edge: half(section.box, y) };
  return rowSpot(section, x, y, tree, kind === 'row', rightToLeft);
}

/** The tab under a point. */
export const tabAt = ({ of: { tab } }: FormBoxes, x: number, y: number): string | undefined =>
  tab.find((each) => holds(each.box, x, y))?.id;

/** How far a row's handle stands before it, in pixels. */
const handle = 26;

/** The row a point is in, its handle included; of rows within rows the innermost. */
export const rowAt = ({ of, rightToLeft }: FormBoxes, x: number, y: number): string | undefined =>
  of.row.findLast(({ box: { left, width, ...box } }) =>
    holds({ ...box, left: rightToLeft ? left : left - handle, width: width + handle }, x, y),
  )?.id;

function rowSpot(section: DrawnPart, x: number, y: number, tree: TreeNode, whole: boolean, rightToLeft: boolean): Spot {
  const rows = section.within.filter((each) => each.kind === 'row');
  const row = nearest(rows, (box) => beyond(y, box.top, box.height));
  if (!row) return { target: section.id, edge: 'inside' };
  const between = Math.min(band, row.box.height / 4);
  const edge = half(row.box, y);
  if (whole || y < row.box.top + between || y > row.box.top + row.box.height - between) return { target: row.id, edge };
  const cell = nearest(row.within, (box) => beyond(x, box.left, box.width));
  if (!cell) return { target: row.id, edge };
  if (find(tree, cell.id)?.children.length === 0) return { target: cell.id, edge: 'inside' };
  const near = Math.min(rim.most, Math.max(rim.least, cell.box.width * rim.share));
  if (x < cell.box.left + near) return { target: cell.id, edge: rightToLeft ? 'right' : 'left' };
  if (x > cell.box.left + cell.box.width - near) return { target: cell.id, edge: rightToLeft ? 'left' : 'right' };
  const item = nearest(cell.within, (box) => beyond(y, box.top, box.height));
  return item ? { target: item.id, edge: half(item.box, y) } : { target: row.id, edge };
}

/** The innermost section a point is in; where it is in none, the nearest one above or below it. */
function sectionAt(all: readonly DrawnPart[], x: number, y: number): DrawnPart | undefined {
  const sections = all.filter(({ box }) => box.width > 0);
  return (
    sections.findLast(({ box }) => holds(box, x, y)) ??
    nearest(sections, (box) => beyond(y, box.top, box.height) + beyond(x, box.left, box.width) / 1000)
  );
}

const half = (box: Box, y: number): Edge => (y < box.top + box.height / 2 ? 'above' : 'below');

const holds = (box: Box, x: number, y: number) => x >= box.left && x <= box.left + box.width && y >= box.top && y <= box.top + box.height;

/** How far a coordinate is outside a stretch. */
const beyond = (at: number, from: number, length: number) => Math.max(from - at, at - from - length, 0);

const nearest = (of: readonly DrawnPart[], distance: (box: Box) => number): DrawnPart | undefined =>
  of.length === 0 ? undefined : of.reduce((best, each) => (distance(each.box) < distance(best.box) ? each : best));
