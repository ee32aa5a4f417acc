/** How large an element is drawn. Boxes are measured in the window's pixels, and marks inside it are written in its own. */
export const zoomOf = (element: Element): number => (element as Element & { currentCSSZoom?: number }).currentCSSZoom ?? 1;
