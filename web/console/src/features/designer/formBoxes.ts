import type { Box } from './boxes.ts';
import { zoomOf } from './measures.ts';

export type DrawnKind = 'form' | 'tab' | 'page' | 'section' | 'row' | 'cell' | 'item' | 'band' | 'column';

/** A part of the form as it is drawn: what it is of, where, and what is drawn in it. */
export interface DrawnPart {
  kind: DrawnKind;
  id: string;
  box: Box;
  within: DrawnPart[];
}

/** The form as it is drawn, in the sheet's own pixels. */
export interface FormBoxes {
  root: DrawnPart;
  /** Everything of a kind in reading order, what holds before what it holds. */
  of: Readonly<Record<DrawnKind, readonly DrawnPart[]>>;
  rightToLeft: boolean;
}

const kinds: readonly [selector: string, kind: DrawnKind][] = [
  ['bt-page', 'page'],
  ['bt-section', 'section'],
  ['bt-row', 'row'],
  ['bt-cell', 'cell'],
  ['bt-item', 'item'],
  ['bt-band', 'band'],
];

/**
 * Measures the form as it is drawn. What something will stand beside is told by this and not by what lies under the pointer at that moment:
 * the form shows what will become of it while something is dragged, and that moves what lies there.
 */
export function measureForm(sheet: HTMLElement): FormBoxes | undefined {
  const form = sheet.querySelector<HTMLElement>('.bt-form, .list-sheet, table');
  if (!form) return undefined;
  const [frame, zoom] = [sheet.getBoundingClientRect(), zoomOf(sheet)];
  const boxOf = (element: Element, bottom?: number): Box => {
    const rect = element.getBoundingClientRect();
    return {
      left: (rect.left - frame.left) / zoom,
      top: (rect.top - frame.top) / zoom,
      width: rect.width / zoom,
      height: ((bottom ?? rect.bottom) - rect.top) / zoom,
    };
  };
  const of: Record<DrawnKind, DrawnPart[]> = {
    form: [],
    tab: [],
    page: [],
    section: [],
    row: [],
    cell: [],
    item: [],
    band: [],
    column: [],
  };
  const gather = (element: Element, into: DrawnPart) => {
    for (const child of element.children) {
      if (!(child instanceof HTMLElement)) continue;
      const drawn = drawnAs(child, boxOf);
      if (!drawn) {
        gather(child, into);
        continue;
      }
      into.within.push(drawn);
      of[drawn.kind].push(drawn);
      gather(child, drawn);
    }
  };
  const root: DrawnPart = { kind: 'form', id: 'layout', box: boxOf(form), within: [] };
  gather(sheet.firstElementChild ?? form, root);
  return { root, of, rightToLeft: getComputedStyle(form).direction === 'rtl' };
}

function drawnAs(element: HTMLElement, boxOf: (element: Element, bottom?: number) => Box): DrawnPart | undefined {
  const { node, tab, column } = element.dataset;
  if (tab) return { kind: 'tab', id: tab, box: boxOf(element), within: [] };
  // A column is as high as its table.
  if (column && element.matches('.list-column'))
    return { kind: 'column', id: column, box: boxOf(element, element.closest('table')?.getBoundingClientRect().bottom), within: [] };
  // What a piece shows is the piece's: here it is one thing.
  if (!node || node.includes('/')) return undefined;
  const kind = kinds.find(([name]) => element.classList.contains(name))?.[1];
  return kind && { kind, id: node, box: boxOf(element), within: [] };
}
