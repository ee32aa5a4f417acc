/** How large an element is drawn. Boxes are measured in the window's pixels, and marks inside it are written in its own. */
export const zoomOf = (element: Element): number => (element as Element & { currentCSSZoom?: number }).currentCSSZoom ?? 1;

/** The gap between the twelve units of a row, in its own pixels: what its tracks leave of its width. */
export function gapOf(row: HTMLElement): number {
  const tracks = getComputedStyle(row)
    .gridTemplateColumns.split(' ')
    .map(parseFloat)
    .filter((track) => !Number.isNaN(track));
  return tracks.length < 2 ? 0 : Math.max(0, (row.clientWidth - tracks.reduce((sum, track) => sum + track, 0)) / (tracks.length - 1));
}

/** The units an edge at x would give a cell that begins where it does, in a row of 12 units with gaps between them. */
export function unitsAt(row: DOMRect, cell: DOMRect, x: number, gap: number, rightToLeft: boolean): number {
  const unit = (row.width + gap) / 12;
  const reach = rightToLeft ? cell.right - x : x - cell.left;
  return Math.max(1, Math.min(12, Math.round((reach + gap) / unit)));
}

/** What is around a form: its sheet's own edges, and what lies between two sheets and around them, in pixels. */
const [edges, between] = [58, 72];

/**
 * The form at another width beside it, drawn as large as both are seen whole.
 * @param beside The other width; undefined for the form alone, which is drawn as large as it is.
 * @param room The pixels there are for both.
 */
export function besides(width: number, beside: number | undefined, room: number): { beside: number | undefined; zoom: number } {
  const whole = width + (beside ?? 0) + 2 * edges;
  const zoom = beside === undefined ? 1 : Math.max(0.5, Math.min(1, Math.floor((100 * (room - between)) / whole) / 100));
  return { beside, zoom };
}

/** The pixels there are for sheets on the desk. */
export const deskRoom = (): number => document.querySelector('.sheet-frame')?.clientWidth ?? Infinity;
