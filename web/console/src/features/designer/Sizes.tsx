import { useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { ancestorOf, cellOf, find, mostUnits, unitsOf, type TreeNode } from '#layout';
import { setBox, type Box } from './boxes.ts';
import { gapOf, unitsAt, zoomOf } from './measures.ts';
import { say } from '../../shell/configurator/texts.ts';

type Dimension = 'span' | 'lines' | 'units';

interface SizesProps {
  sheet: RefObject<HTMLDivElement | null>;
  tree: TreeNode;
  node: string;
  rightToLeft: boolean;
  onSize: (node: string, property: Dimension, value: number) => void;
}

/** The edges of the selected item that can be dragged: the one at the end for its width in units, the lower one of a text for its lines. */
export function Sizes({ sheet, tree, node, rightToLeft, onSize }: SizesProps) {
  const column = find(tree, node)?.kind === 'column';
  const cell = cellOf(tree, node);
  const row = cell && ancestorOf(tree, cell.id, 'row');
  const lines = useRef<HTMLSpanElement>(null);
  const end = useRef<HTMLSpanElement>(null);
  const ruler = useRef<HTMLDivElement>(null);
  const [sizing, setSizing] = useState<{ property: Dimension; value: number }>();
  const drawn = (id: string) => sheet.current?.querySelector<HTMLElement>(`[data-node="${CSS.escape(id)}"]`);
  const text = () => drawn(node)?.querySelector<HTMLTextAreaElement>(':scope .bt-textarea');

  // Laid over what they belong to after each drawing, like all marks.
  useLayoutEffect(() => {
    const [item, whole, area] = [
      drawn(node)?.getBoundingClientRect(),
      (column ? drawn(node)?.closest('table') : row && drawn(row.id))?.getBoundingClientRect(),
      text()?.getBoundingClientRect(),
    ];
    lay(sheet.current, end.current, item && whole && { ...boxIn(item), left: rightToLeft ? item.left - 12 : item.right, width: 12 });
    lay(sheet.current, lines.current, area && { left: area.left, top: area.bottom - 2, width: area.width, height: 12 });
    lay(sheet.current, ruler.current, whole);
  });

  /** How large the item would be with its edge where the pointer is. */
  const sizeAt = (property: Dimension, x: number, y: number): number | undefined => {
    if (property === 'lines') {
      const area = text();
      return area ? linesAt(area, y) : undefined;
    }
    if (property === 'units') {
      const [own, whole] = [drawn(node)?.getBoundingClientRect(), drawn(node)?.closest('table')?.getBoundingClientRect()];
      return own && whole && between(1, 12, Math.round(((rightToLeft ? own.right - x : x - own.left) / whole.width) * 12));
    }
    if (!cell || !row) return undefined;
    const [whole, own] = [drawn(row.id), drawn(cell.id)];
    if (!whole || !own) return undefined;
    const units = unitsAt(whole.getBoundingClientRect(), own.getBoundingClientRect(), x, gapOf(whole) * zoomOf(whole), rightToLeft);
    return Math.min(mostUnits(row, cell), units);
  };
  const follow = (property: Dimension) => (event: React.PointerEvent<HTMLElement>) =>
    followPointer(
      event,
      (x, y) => sizeAt(property, x, y),
      (value) => setSizing(value === undefined ? undefined : { property, value }),
      (value) => onSize(property === 'span' ? cell!.id : node, property, value),
    );
  const units = cell && row ? unitsOf(row) : [];
  const before = cell && row ? units.slice(0, row.children.indexOf(cell)).reduce((sum, each) => sum + each, 0) : 0;
  return (
    <>
      {sizing?.property === 'span' && <Ruler value={sizing.value} before={before} frame={ruler} />}
      {(cell || column) && (
        <Handle edge="end" title={say('sizes.dragForTheWidth')} frame={end} onTake={follow(column ? 'units' : 'span')} />
      )}
      {sizing?.property === 'units' && <Ruler value={sizing.value} before={undefined} frame={ruler} />}
      {find(tree, node)?.kind === 'field' && (
        <Handle edge="lines" title={say('sizes.dragForTheLines')} frame={lines} onTake={follow('lines')}>
          {sizing?.property === 'lines' && <b>{say('sizes.lines', sizing.value)}</b>}
        </Handle>
      )}
    </>
  );
}

const between = (least: number, most: number, value: number) => Math.max(least, Math.min(most, value));

/** How many lines a text has with its lower edge at a height of the screen. */
const linesAt = (area: HTMLTextAreaElement, y: number) =>
  between(
    1,
    40,
    Math.round(((y - area.getBoundingClientRect().top) / zoomOf(area) - 18) / (parseFloat(getComputedStyle(area).lineHeight) || 22)),
  );

const boxIn = ({ left, top, width, height }: DOMRect): Box => ({ left, top, width, height });

/** Puts a mark where something is on the screen, or out of sight. */
function lay(sheet: HTMLElement | null, mark: HTMLElement | null, box: Box | undefined): void {
  if (!sheet || !mark) return;
  mark.hidden = !box;
  if (!box) return;
  const [frame, zoom] = [sheet.getBoundingClientRect(), zoomOf(sheet)];
  setBox(mark, {
    left: (box.left - frame.left) / zoom,
    top: (box.top - frame.top) / zoom,
    width: box.width / zoom,
    height: box.height / zoom,
  });
}

/**
 * Follows the pointer from where a handle was taken until it is let go; Escape takes it back.
 * @param sizeAt what a place of the pointer comes to
 * @param onSizing told of each, and of nothing once it is over
 */
function followPointer(
  event: React.PointerEvent<HTMLElement>,
  sizeAt: (x: number, y: number) => number | undefined,
  onSizing: (value: number | undefined) => void,
  onDone: (value: number) => void,
): void {
  event.preventDefault();
  event.stopPropagation();
  const handle = event.currentTarget;
  handle.setPointerCapture(event.pointerId);
  let value: number | undefined;
  const move = (at: PointerEvent) => {
    value = sizeAt(at.clientX, at.clientY) ?? value;
    if (value !== undefined) onSizing(value);
  };
  const stop = (keep: boolean) => {
    handle.removeEventListener('pointermove', move);
    handle.removeEventListener('pointerup', up);
    window.removeEventListener('keydown', leave, true);
    onSizing(undefined);
    if (keep && value !== undefined) onDone(value);
  };
  const up = () => stop(true);
  const leave = (key: KeyboardEvent) => {
    if (key.key === 'Escape') stop(false);
  };
  handle.addEventListener('pointermove', move);
  handle.addEventListener('pointerup', up);
  window.addEventListener('keydown', leave, true);
}

interface HandleProps {
  edge: 'end' | 'lines';
  title: string;
  frame: RefObject<HTMLSpanElement | null>;
  onTake: (event: React.PointerEvent<HTMLElement>) => void;
  children?: React.ReactNode;
}

/** An edge that can be taken. */
function Handle({ edge, title, frame, onTake, children }: HandleProps) {
  const stay = (event: React.MouseEvent) => event.stopPropagation();
  return (
    <span className="mark-handle" data-edge={edge} title={title} ref={frame} onPointerDown={onTake} onClick={stay} onDoubleClick={stay}>
      {children}
    </span>
  );
}

interface RulerProps {
  value: number;
  /** Units of the row before the cell; nothing where no cell is sized. */
  before: number | undefined;
  frame: RefObject<HTMLDivElement | null>;
}

/** The twelve units of a row while a width is being drawn. */
function Ruler({ value, before, frame }: RulerProps) {
  const on = (unit: number) => before !== undefined && unit >= before && unit < before + value;
  return (
    <div className="mark-units" ref={frame}>
      {Array.from({ length: 12 }, (_, i) => (
        <i key={i} data-on={on(i) ? '' : undefined} />
      ))}
      <b>{say('sizes.of12', value)}</b>
    </div>
  );
}
