import { useRef, type ClipboardEvent, type MouseEvent, type PointerEvent, type RefObject } from 'react';
import { placeAt, type Place, type Subject } from '#layout';
import { copied } from './clipboard.ts';
import { setBox, type Box } from './boxes.ts';
import type { CanvasProps } from './canvasProps.ts';
import type { DesignSurface } from './designSurface.ts';
import type { DrawnPart } from './formBoxes.ts';
import { nodeAt, rowAt, spotAt } from './spotAt.ts';
import { pointOn } from './useCanvasDrag.ts';

interface PointingHost {
  sheet: RefObject<HTMLDivElement | null>;
  layer: RefObject<HTMLDivElement | null>;
  /** The frame that is drawn to select what it touches. */
  frame: RefObject<HTMLDivElement | null>;
  surface: DesignSurface;
  /** The canvas as it is at that moment. */
  current: RefObject<CanvasProps>;
  /** What the pointer is over, and in which row. */
  onHover: (node: string | undefined, row?: string) => void;
}

/** What the pointer does on the form: hovers, selects one or what a frame touches, places what was chosen, asks for the menu, pastes. */
export function usePointer(props: CanvasProps, host: PointingHost) {
  const { tree, facts, selection, placing, spot } = props;
  const { sheet, layer, surface, onHover } = host;
  const { begin, wasDrawn } = useFrame(props, host);
  const under = (x: number, y: number): Element | undefined =>
    document.elementsFromPoint(x, y).find((element) => sheet.current?.contains(element) && !layer.current?.contains(element));
  const placeUnder = ({ clientX, clientY }: PointerEvent | MouseEvent, subject: Subject): Place | undefined => {
    const boxes = surface.measure();
    const { x, y } = pointOn(sheet.current, clientX, clientY);
    const meant = boxes && spotAt(boxes, x, y, tree, subject);
    return meant && placeAt(tree, subject, meant, facts);
  };
  return {
    onPointerMove: (event: PointerEvent) => {
      const boxes = surface.measure();
      const { x, y } = pointOn(sheet.current, event.clientX, event.clientY);
      onHover(nodeAt(under(event.clientX, event.clientY)), boxes && rowAt(boxes, x, y));
      if (placing) surface.showSpot(placeUnder(event, placing) ?? spot);
    },
    onPointerLeave: () => {
      onHover(undefined);
      if (placing) surface.showSpot(spot);
    },
    onPointerDown: begin,
    onClick: (event: MouseEvent) => {
      if (wasDrawn()) return;
      const at = under(event.clientX, event.clientY);
      const row = (event.target as Element).closest<HTMLElement>('.mark-row')?.dataset['for'];
      const tab = at?.closest<HTMLElement>('[data-tab]')?.dataset['tab'];
      if (tab) props.onPage(tab);
      if (!placing) {
        props.onSelect(row ?? tab ?? nodeAt(at), event.shiftKey ? 'upTo' : event.ctrlKey || event.metaKey);
        return;
      }
      const place = tab ? undefined : placeUnder(event, placing);
      if (place) void props.onPlace(place, placing);
    },
    onDoubleClick: () => props.onBeginRename(),
    onContextMenu: (event: MouseEvent) => {
      event.preventDefault();
      const at = { x: event.clientX, y: event.clientY };
      const id = nodeAt(under(at.x, at.y));
      if (id && !selection.includes(id)) props.onSelect(id, false);
      // What can be done is asked once what was pressed is selected, and its properties are drawn.
      if (id) requestAnimationFrame(() => host.current.current.onMenu(at));
    },
    onPaste: (event: ClipboardEvent) => {
      event.preventDefault();
      // What the browser keeps from the clipboard was remembered in this window.
      props.onPaste(event.clipboardData.getData('text/plain') || copied());
    },
  };
}

/** How far the pointer goes before a press is a frame, in pixels. */
const enough = 6;

/** A frame drawn from where nothing can be taken hold of: it selects the items it touches. */
function useFrame({ onSelectAll, placing }: CanvasProps, { sheet, frame, surface }: PointingHost) {
  const drawn = useRef(false);
  const begin = (event: PointerEvent<HTMLElement>) => {
    drawn.current = false;
    if (event.button !== 0 || placing || event.pointerType === 'touch' || surface.holdAt(event.clientX, event.clientY)) return;
    if ((event.target as Element).closest('.mark-handle, .mark-rename, .mark-said, .mark-row, button, .popover')) return;
    const from = pointOn(sheet.current, event.clientX, event.clientY);
    const layer = event.currentTarget;
    const boxAt = (at: globalThis.PointerEvent): Box => {
      const to = pointOn(sheet.current, at.clientX, at.clientY);
      return {
        left: Math.min(from.x, to.x),
        top: Math.min(from.y, to.y),
        width: Math.abs(to.x - from.x),
        height: Math.abs(to.y - from.y),
      };
    };
    const move = (at: globalThis.PointerEvent) => {
      const box = boxAt(at);
      drawn.current ||= Math.max(box.width, box.height) > enough;
      if (drawn.current && frame.current) {
        frame.current.toggleAttribute('data-shown', true);
        setBox(frame.current, box);
      }
    };
    const end = (at: globalThis.PointerEvent) => {
      layer.removeEventListener('pointermove', move);
      layer.removeEventListener('pointerup', end);
      layer.removeEventListener('pointercancel', end);
      frame.current?.removeAttribute('data-shown');
      const boxes = surface.measure();
      if (drawn.current && at.type === 'pointerup' && boxes) onSelectAll(itemsIn(boxes.root, boxAt(at)));
    };
    layer.addEventListener('pointermove', move);
    layer.addEventListener('pointerup', end);
    layer.addEventListener('pointercancel', end);
    if (event.isTrusted) layer.setPointerCapture(event.pointerId);
  };
  return { begin, wasDrawn: () => drawn.current };
}

const touches = (one: Box, other: Box) =>
  one.left < other.left + other.width &&
  other.left < one.left + one.width &&
  one.top < other.top + other.height &&
  other.top < one.top + one.height;

/** The items a frame touches, in reading order. */
const itemsIn = (drawn: DrawnPart, frame: Box): string[] =>
  drawn.within.flatMap((each) =>
    each.kind === 'item' || each.kind === 'column' ? (touches(each.box, frame) ? [each.id] : []) : itemsIn(each, frame),
  );
