import type { Edge } from '#layout';
import { zoomOf } from './measures.ts';

/** Where something is on the sheet, in the sheet's own pixels. */
export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * Where a node is drawn, measured in the sheet's own pixels.
 * @param itself of a page itself, not its tab
 */
export function boxOf(sheet: HTMLElement, node: string, itself = false): Box | undefined {
  const id = CSS.escape(node);
  // The layout itself has no element of its own: it is the whole form.
  const drawn =
    sheet.querySelector(itself ? `[data-node="${id}"]` : `[data-node="${id}"], [data-tab="${id}"]`) ??
    (node === 'layout' ? sheet.querySelector('.bt-form') : null);
  if (!drawn) return undefined;
  // A column is as high as its table.
  const of = drawn.getBoundingClientRect();
  const rect = drawn.matches('.list-column')
    ? new DOMRect(of.x, of.y, of.width, drawn.closest('table')!.getBoundingClientRect().bottom - of.top)
    : of;
  const [frame, zoom] = [sheet.getBoundingClientRect(), zoomOf(sheet)];
  return {
    left: (rect.left - frame.left) / zoom,
    top: (rect.top - frame.top) / zoom,
    width: rect.width / zoom,
    height: rect.height / zoom,
  };
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
