/**
 * Places what is open beneath what opened it, or above where there is no room beneath; always in the window.
 * @param along whether it begins where its opener does, as what belongs to a field; else it ends at its right edge
 */
export function placeBeneath(panel: HTMLElement, opener: HTMLElement, along = false): void {
  const at = opener.getBoundingClientRect();
  const { width, height } = panel.getBoundingClientRect();
  // In what is drawn smaller, a pixel is smaller too.
  const zoom = width / (panel.offsetWidth || width || 1) || 1;
  const wanted = along && getComputedStyle(opener).direction === 'ltr' ? at.left : at.right - width;
  const left = Math.max(8, Math.min(wanted, window.innerWidth - width - 8));
  const top = at.bottom + 4 + height < window.innerHeight ? at.bottom + 4 : Math.max(8, at.top - height - 4);
  panel.style.left = `${left / zoom}px`;
  panel.style.top = `${top / zoom}px`;
}
