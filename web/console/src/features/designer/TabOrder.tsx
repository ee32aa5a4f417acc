import { tabStops } from '#form';
import { useEffect, useState, type RefObject } from 'react';
import { zoomOf } from './measures.ts';

/** The order in which the Tab key goes through the form, as numbers at what it stops at. */
export function TabOrder({ sheet }: { sheet: RefObject<HTMLDivElement | null> }) {
  const [stops, setStops] = useState<{ left: number; top: number }[]>([]);
  useEffect(() => {
    const around = sheet.current;
    if (!around) return;
    const measure = () => {
      const frame = around.getBoundingClientRect();
      const form = around.querySelector('.bt-form');
      const found = (form ? tabStops(form) : [])
        .map((element) => element.getBoundingClientRect())
        .map((rect) => ({
          left: Math.round((rect.left - frame.left) / zoomOf(around)),
          top: Math.round((rect.top - frame.top) / zoomOf(around)),
        }));
      setStops((before) => (JSON.stringify(before) === JSON.stringify(found) ? before : found));
    };
    const changed = new MutationObserver(measure);
    changed.observe(around, { childList: true, subtree: true });
    const resized = new ResizeObserver(measure);
    resized.observe(around);
    return () => {
      changed.disconnect();
      resized.disconnect();
    };
  }, [sheet]);
  return stops.map((stop, i) => (
    <span key={i} className="mark-stop" style={{ left: stop.left, top: stop.top }}>
      {i + 1}
    </span>
  ));
}
