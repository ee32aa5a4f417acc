import type { Edge } from '#layout';
import { zoomOf } from './measures.ts';

/** Where something is on the sheet, in the sheet's own pixels. */
export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** A part whose place is asked for. */
export interface PartQuery {
  node: string;
  /** Of a page itself, not its tab. */
  itself?: boolean;
}

/** Where a node is drawn, measured in the sheet's own pixels. */
export const boxOf = (sheet: HTMLElement, node: string): Box | undefined => boxesOf(sheet, [{ node }])[0];

/** Above so many, all there is is gone through once instead of being searched for each. */
const several = 8;

/** Where nodes are drawn, measured in the sheet's own pixels, all at once. */
export function boxesOf(sheet: HTMLElement, asked: readonly PartQuery[]): (Box | undefined)[] {
  const found = asked.length > several ? elementsOf(sheet) : undefined;
  const elementOf = ({ node, itself }: PartQuery): Element | null | undefined => {
    const id = CSS.escape(node);
    const drawn = found
      ? (found.get(`node ${node}`) ?? (itself ? undefined : found.get(`tab ${node}`)))
      : sheet.querySelector(itself ? `[data-node="${id}"]` : `[data-node="${id}"], [data-tab="${id}"]`);
    // The layout itself has no element of its own: it is the whole form.
    return drawn ?? (node === 'layout' ? sheet.querySelector('.bt-form') : null);
  };
  const [frame, zoom] = [sheet.getBoundingClientRect(), zoomOf(sheet)];
  return asked.map((each) => {
    const drawn = elementOf(each);
    if (!drawn) return undefined;
    // A column is as high as its table.
    const { left, top, width, bottom } = drawn.getBoundingClientRect();
    const end = drawn.matches('.list-column') ? drawn.closest('table')!.getBoundingClientRect().bottom : bottom;
    return { left: (left - frame.left) / zoom, top: (top - frame.top) / zoom, width: width / zoom, height: (end - top) / zoom };
  });
}

/** What is drawn, by the node it is or the page it is the tab of; of several for one the first. */
function elementsOf(sheet: HTMLElement): Map<string, Element> {
  const found = new Map<string, Element>();
  for (const element of sheet.querySelectorAll<HTMLElement>('[data-node], [data-tab]')) {
    const { node, tab } = element.dataset;
    const key = node === undefined ? `tab ${tab}` : `node ${node}`;
    if (!found.has(key)) found.set(key, element);
  }
  return found;
}

export function setBox(mark: HTMLElement, box: Box): void {
  for (const side of ['left', 'top', 'width', 'height'] as const) mark.style[side] = `${box[side]}px`;
}

/** The insertion mark: a line where something will stand, or the whole of what will take it. */
export function line(box: Box, edge: Edge, rtl: boolean): Box {
  switch (edge) {
    case 'above':
      return { left: box.left, top: box.top - 9, width: box.width, height: 3 };
    case 'below':
      return { left: box.left, top: box.top + box.height + 6, width: box.width, height: 3 };
    case 'left':
    case 'right': {
      const atLeft = (edge === 'left') !== rtl;
      return { left: atLeft ? box.left - 11 : box.left + box.width + 8, top: box.top, width: 3, height: box.height };
    }
    default:
      return { ...box };
  }
}

/**
 * Moves the mark of a drop, or puts it out. An animation that stands still places it: that alone moves something without the whole page
 * being put
 * into layers anew, which takes longer than all the rest of a frame of a drag.
 */
export function moveMark(mark: HTMLElement, at: Box | undefined, opacity: number): void {
  const transform =
    at &&
    `translate(calc(${at.left}px + var(--sheet-side)), calc(${at.top}px + var(--sheet-top))) scale(${at.width / 100}, ${at.height / 100})`;
  const still = { transform: Array(2).fill(transform ?? 'none'), opacity: Array(2).fill(transform ? opacity : 0) };
  const [placed] = mark.getAnimations();
  if (placed) (placed.effect as KeyframeEffect).setKeyframes(still);
  else mark.animate(still, { duration: 1000, fill: 'both' }).pause();
}
