import { belongsInBand, find, isAround, isList, kindOf, pathTo, type Edge, type Spot, type Subject, type TreeNode } from '#layout';
import { isSeen } from './skipUnseen.ts';

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
 * The spot a pointer means: near a row's upper or lower edge another row, near a cell's side another column, else above or below what is
 * there.
 */
export function spotAt(element: Element, x: number, y: number, tree: TreeNode, subject: Subject): Spot | undefined {
  const kind = kindOf(tree, subject);
  if (!kind) return undefined;
  if (isList(tree)) {
    const column = element.closest<HTMLElement>('[data-column]');
    return column
      ? sideways(column, column.dataset['column']!, x)
      : tree.children.some((child) => child.kind === 'column')
        ? undefined
        : { target: tree.id, edge: 'inside' };
  }
  if (isAround(kind)) return { target: tree.id, edge: 'inside' };
  const band = element.closest<HTMLElement>('.bt-band');
  if (band && belongsInBand(kind)) {
    const beside = element.closest<HTMLElement>('.bt-item');
    return beside ? sideways(beside, beside.dataset['node']!, x) : { target: band.dataset['node']!, edge: 'inside' };
  }
  const tab = element.closest<HTMLElement>('[data-tab]');
  if (tab) return kind === 'page' ? sideways(tab, tab.dataset['tab']!, x) : { target: tab.dataset['tab']!, edge: 'inside' };
  if (kind === 'page') {
    // A form of one page has no row of tabs yet: the page's own halves stand for it.
    const form = element.closest('.bt-form');
    const page = form?.querySelector('.bt-tabs') ? undefined : form?.querySelector<HTMLElement>('.bt-page');
    return page ? sideways(page, page.dataset['node']!, x) : undefined;
  }
  // Between two sections the nearer one is meant.
  const section =
    element.closest<HTMLElement>('.bt-section') ??
    nearest([...(element.closest('.bt-form')?.querySelectorAll<HTMLElement>('.bt-section') ?? [])].filter(isSeen), y);
  if (!section) return pageSpot(element, tree);
  if (kind === 'section') {
    const rect = section.getBoundingClientRect();
    return { target: section.dataset['node']!, edge: y < rect.top + rect.height / 2 ? 'above' : 'below' };
  }
  const row = element.closest<HTMLElement>('.bt-row') ?? nearest([...section.querySelectorAll<HTMLElement>('.bt-row')].filter(isSeen), y);
  if (!row) return { target: section.dataset['node']!, edge: 'inside' };
  const rowBox = row.getBoundingClientRect();
  const edge: Edge = y < rowBox.top + rowBox.height / 2 ? 'above' : 'below';
  const cell = element.closest<HTMLElement>('.bt-cell') ?? nearestX([...row.querySelectorAll<HTMLElement>(':scope > .bt-cell')], x);
  const rim = Math.min(10, rowBox.height / 5);
  if (kind === 'row' || !cell || y < rowBox.top + rim || y > rowBox.bottom - rim) return { target: row.dataset['node']!, edge };
  const id = cell.dataset['node']!;
  if (find(tree, id)?.children.length === 0) return { target: id, edge: 'inside' };
  const box = cell.getBoundingClientRect();
  const part = (x - box.left) / box.width;
  if (part < 0.22 || part > 0.78) return sideways(cell, id, x);
  const item = element.closest<HTMLElement>('.bt-item') ?? nearest([...cell.querySelectorAll<HTMLElement>(':scope > .bt-item')], y);
  if (!item) return { target: row.dataset['node']!, edge };
  const itemBox = item.getBoundingClientRect();
  return { target: item.dataset['node']!, edge: y < itemBox.top + itemBox.height / 2 ? 'above' : 'below' };
}

function pageSpot(element: Element, tree: TreeNode): Spot | undefined {
  const page = element.closest('.bt-form')?.querySelector<HTMLElement>('.bt-page')?.dataset['node'];
  return page && pathTo(tree, page).length > 0 ? { target: page, edge: 'inside' } : undefined;
}

function sideways(element: HTMLElement, target: string, x: number): Spot {
  const box = element.getBoundingClientRect();
  const rtl = getComputedStyle(element).direction === 'rtl';
  return { target, edge: x < box.left + box.width / 2 !== rtl ? 'left' : 'right' };
}

const nearest = (elements: HTMLElement[], y: number) =>
  best(elements, (box) => (y < box.top ? box.top - y : y > box.bottom ? y - box.bottom : 0));
const nearestX = (elements: HTMLElement[], x: number) =>
  best(elements, (box) => (x < box.left ? box.left - x : x > box.right ? x - box.right : 0));

function best(elements: HTMLElement[], distance: (box: DOMRect) => number): HTMLElement | undefined {
  return elements.map((element) => ({ element, away: distance(element.getBoundingClientRect()) })).sort((a, b) => a.away - b.away)[0]
    ?.element;
}
