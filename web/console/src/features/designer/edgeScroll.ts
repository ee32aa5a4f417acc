/** Near an edge of what scrolls, in pixels; and how far it goes in a frame at the edge itself. */
const near = 56;
const fastest = 18;

/** How long something is held there before it scrolls, in milliseconds: what is picked up at the edge and carried away moves nothing. */
const patience = 250;

/**
 * Scrolls a pane while something is dragged near its upper or lower edge, the faster the nearer; told where the pointer is, and of the end.
 */
export function edgeScrolling(pane: HTMLElement, onScroll: () => void): { at: (y: number | undefined) => void } {
  let speed = 0;
  let running = false;
  let since = 0;
  const step = () => {
    if (speed === 0) {
      running = false;
      return;
    }
    requestAnimationFrame(step);
    if (performance.now() - since < patience) return;
    const before = pane.scrollTop;
    pane.scrollTop += speed;
    if (pane.scrollTop !== before) onScroll();
  };
  return {
    at: (y) => {
      const { top, bottom } = pane.getBoundingClientRect();
      const deep =
        y === undefined
          ? 0
          : y < top + near
            ? -Math.min(1, (top + near - y) / near)
            : y > bottom - near
              ? Math.min(1, (y - bottom + near) / near)
              : 0;
      speed = Math.round(deep * fastest);
      if (speed !== 0 && !running) {
        running = true;
        since = performance.now();
        requestAnimationFrame(step);
      }
    },
  };
}
