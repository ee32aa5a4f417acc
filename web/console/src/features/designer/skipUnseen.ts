import { zoomOf } from './measures.ts';

/**
 * While something is dragged, rows out of sight are left out of painting: a frame then costs what is seen of a form, not all of it. They
 * keep the
 * place they have, to the pixel, and are there again before they come into sight. Answers what ends it.
 */
export function skipUnseen(sheet: HTMLElement): () => void {
  const rows = [...sheet.querySelectorAll<HTMLElement>('.bt-row')];
  const zoom = zoomOf(sheet);
  const heights = rows.map((row) => row.getBoundingClientRect().height / zoom);
  rows.forEach((row, i) => {
    row.style.containIntrinsicBlockSize = `${heights[i]}px`;
  });
  const margin = 400;
  const measure = () => {
    const seen = rows.map((row) => row.getBoundingClientRect()).map((box) => box.bottom > -margin && box.top < window.innerHeight + margin);
    rows.forEach((row, i) => {
      const visibility = seen[i] ? '' : 'hidden';
      if (row.style.contentVisibility !== visibility) row.style.contentVisibility = visibility;
    });
  };
  measure();
  window.addEventListener('scroll', measure, { capture: true, passive: true });
  return () => {
    window.removeEventListener('scroll', measure, { capture: true });
    for (const row of rows) {
      row.style.contentVisibility = '';
      row.style.containIntrinsicBlockSize = '';
    }
  };
}
