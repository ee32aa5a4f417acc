/** How large an element is drawn. Boxes are measured in the window's pixels, and marks inside it are written in its own. */
export const zoomOf = (element: Element): number => (element as Element & { currentCSSZoom?: number }).currentCSSZoom ?? 1;

/** The gap between the twelve units of a row, in its own pixels: what its tracks leave of its width. */
export function gapOf(row: HTMLElement): number {
  const tracks = getComputedStyle(row).gridTemplateColumns.split(' ').map(parseFloat).filter((track) => !Number.isNaN(track));
  return tracks.length < 2 ? 0 : Math.max(0, (row.clientWidth - tracks.reduce((sum, track) => sum + track, 0)) / (tracks.length - 1));
}
