import { useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { ancestorOf, cellOf, find, mostUnits, unitsOf, type TreeNode } from '#layout';
import { gapOf, unitsAt, zoomOf } from './measures.ts';
import { say } from '../../shell/configurator/texts.ts';

interface SizesProps {
  sheet: RefObject<HTMLDivElement | null>;
  tree: TreeNode;
  node: string;
  rightToLeft: boolean;
  onSize: (node: string, property: 'span' | 'lines' | 'units', value: number) => void;
}

/** The edges of the selected item that can be dragged: the one at the end for its width in units, the lower one of a text for its lines. */
export function Sizes({ sheet, tree, node, rightToLeft, onSize }: SizesProps) {
  const column = find(tree, node)?.kind === 'column';
  const cell = cellOf(tree, node);
  const row = cell && ancestorOf(tree, cell.id, 'row');
  const lines = useRef<HTMLSpanElement>(null);
  const end = useRef<HTMLSpanElement>(null);
  const ruler = useRef<HTMLDivElement>(null);
  const [sizing, setSizing] = useState<{ property: 'span' | 'lines' | 'units'; value: number }>();
  const drawn = (id: string) => sheet.current?.querySelector<HTMLElement>(`[data-node="${CSS.escape(id)}"]`);
  const text = () => drawn(node)?.querySelector<HTMLTextAreaElement>(':scope .bt-textarea');

  // Laid over what they belong to after each drawing, like all marks.
  useLayoutEffect(() => {
    const frame = sheet.current?.getBoundingClientRect();
    const [item, whole, area] = [
      drawn(node)?.getBoundingClientRect(),
      (column ? drawn(node)?.closest('table') : row && drawn(row.id))?.getBoundingClientRect(),
      text()?.getBoundingClientRect(),
    ];
    if (!frame) return;
    const zoom = zoomOf(sheet.current!);
    const place = (mark: HTMLElement | null, box: { left: number; top: number; width: number; height: number } | undefined) => {
      if (!mark) return;
      mark.hidden = !box;
      if (box)
        Object.assign(mark.style, {
          left: `${(box.left - frame.left) / zoom}px`,
          top: `${(box.top - frame.top) / zoom}px`,
          width: `${box.width / zoom}px`,
          height: `${box.height / zoom}px`,
        });
    };
    place(end.current, item && whole && { left: rightToLeft ? item.left - 12 : item.right, top: item.top, width: 12, height: item.height });
    place(lines.current, area && { left: area.left, top: area.bottom - 2, width: area.width, height: 12 });
    place(ruler.current, whole);
  });

  const follow = (property: 'span' | 'lines' | 'units') => (event: React.PointerEvent<HTMLElement>) => {
    event.preventDefault();
    event.stopPropagation();
    const handle = event.currentTarget;
    handle.setPointerCapture(event.pointerId);
    let value: number | undefined;
    const move = (at: PointerEvent) => {
      if (property === 'span' && cell && row) {
        const [whole, own] = [drawn(row.id), drawn(cell.id)];
        if (whole && own)
          value = Math.min(
            mostUnits(row, cell),
            unitsAt(whole.getBoundingClientRect(), own.getBoundingClientRect(), at.clientX, gapOf(whole) * zoomOf(whole), rightToLeft),
          );
      } else if (property === 'units') {
        const [own, whole] = [drawn(node)?.getBoundingClientRect(), drawn(node)?.closest('table')?.getBoundingClientRect()];
        if (own && whole)
          value = Math.max(
            1,
            Math.min(12, Math.round(((rightToLeft ? own.right - at.clientX : at.clientX - own.left) / whole.width) * 12)),
          );
      } else {
        const area = text();
        if (area)
          value = Math.max(
            1,
            Math.min(
              40,
              Math.round(
                ((at.clientY - area.getBoundingClientRect().top) / zoomOf(area) - 18) /
                  (parseFloat(getComputedStyle(area).lineHeight) || 22),
              ),
            ),
          );
      }
      if (value !== undefined) setSizing({ property, value });
    };
    const stop = (keep: boolean) => {
      handle.removeEventListener('pointermove', move);
      handle.removeEventListener('pointerup', up);
      window.removeEventListener('keydown', leave, true);
      setSizing(undefined);
      if (keep && value !== undefined) onSize(property === 'span' ? cell!.id : node, property, value);
    };
    const up = () => stop(true);
    const leave = (key: KeyboardEvent) => {
      if (key.key === 'Escape') stop(false);
    };
    handle.addEventListener('pointermove', move);
    handle.addEventListener('pointerup', up);
    window.addEventListener('keydown', leave, true);
  };
  const stay = (event: React.MouseEvent) => event.stopPropagation();
  const units = cell && row ? unitsOf(row) : [];
  const before = cell && row ? units.slice(0, row.children.indexOf(cell)).reduce((sum, each) => sum + each, 0) : 0;
  return (
    <>
      {sizing?.property === 'span' && (
        <div className="mark-units" ref={ruler}>
          {Array.from({ length: 12 }, (_, i) => (
            <i key={i} data-on={i >= before && i < before + sizing.value ? '' : undefined} />
          ))}
          <b>{say('sizes.of12', sizing.value)}</b>
        </div>
      )}
      {(cell || column) && (
        <span
          className="mark-handle"
          data-edge="end"
          title={say('sizes.dragForTheWidth')}
          ref={end}
          onPointerDown={follow(column ? 'units' : 'span')}
          onClick={stay}
          onDoubleClick={stay}
        />
      )}
      {sizing?.property === 'units' && (
        <div className="mark-units" ref={ruler}>
          {Array.from({ length: 12 }, (_, i) => (
            <i key={i} />
          ))}
          <b>{say('sizes.of12', sizing.value)}</b>
        </div>
      )}
      {find(tree, node)?.kind === 'field' && (
        <span
          className="mark-handle"
          data-edge="lines"
          title={say('sizes.dragForTheLines')}
          ref={lines}
          onPointerDown={follow('lines')}
          onClick={stay}
          onDoubleClick={stay}
        >
          {sizing?.property === 'lines' && <b>{say('sizes.lines', sizing.value)}</b>}
        </span>
      )}
    </>
  );
}
