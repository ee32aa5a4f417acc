import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { isList, placeAt, type Spot, type Subject } from '#layout';
import { Form } from '../../shell/Form.tsx';
import { say } from '../../shell/configurator/texts.ts';
import { boxOf, line, moveMark, setBox } from './boxes.ts';
import type { CanvasProps } from './canvasProps.ts';
import { CanvasMarks } from './CanvasMarks.tsx';
import { ListSheet } from './ListSheet.tsx';
import { nodeAt, spotAt } from './spotAt.ts';
import { useCanvasDrag } from './useCanvasDrag.ts';

/**
 * The form itself, drawn by the form package and untouched, under a transparent layer that does all the designing: it finds what lies under
 * the pointer, and draws selection, structure and insertion marks. Taken away, what is left is the published form.
 */
export function Canvas(props: CanvasProps) {
  const { store, tree, trying, page, onPage, spot } = props;
  const sheet = useRef<HTMLDivElement>(null);
  const layer = useRef<HTMLDivElement>(null);
  const [hovered, setHovered] = useState<string>();
  const [, redraw] = useState(0);
  const dropMark = useRef<HTMLDivElement>(null);
  const current = useRef(props);
  useLayoutEffect(() => {
    current.current = props;
  });
  // Marks are drawn from measured boxes, so they follow whenever the form has been laid out anew.
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => redraw((count) => count + 1));
    if (sheet.current) observer.observe(sheet.current.firstElementChild!);
    return () => observer.disconnect();
  }, [store]);
  useEffect(() => store.subscribe('values', () => redraw((count) => count + 1)), [store]);

  /** Draws where something will stand; while dragging this alone is drawn, many times a second. */
  const showDrop = useCallback((spot: Spot | undefined) => {
    const mark = dropMark.current;
    if (!mark || !sheet.current) return;
    const spotName = spot ? `${spot.target} ${spot.edge}` : '';
    if (mark.dataset['said'] === spotName) return;
    mark.dataset['said'] = spotName;
    const box = spot && boxOf(sheet.current, spot.target);
    mark.toggleAttribute('data-shown', Boolean(box));
    const at = spot && box && line(box, spot.edge, current.current.store.form.language.startsWith('ar'));
    moveMark(mark, at, spot?.edge === 'inside' ? 0.35 : 1);
  }, []);

  const under = useCallback(
    (x: number, y: number): Element | undefined =>
      document.elementsFromPoint(x, y).find((element) => sheet.current?.contains(element) && !layer.current?.contains(element)),
    [],
  );

  const pointing = usePointing(props, under, setHovered, showDrop);
  useCanvasDrag(layer, sheet, current, trying, under, showDrop);

  // Marks are laid over what they are about after each drawing: measured, never guessed.
  useLayoutEffect(() => {
    for (const mark of layer.current?.querySelectorAll<HTMLElement>('[data-for]') ?? []) {
      const box = sheet.current && boxOf(sheet.current, mark.dataset['for']!);
      mark.hidden = !box;
      if (box) setBox(mark, box);
    }
  });
  useEffect(() => {
    showDrop(spot);
    if (spot) dropMark.current?.scrollIntoView({ block: 'center' });
  }, [spot, showDrop]);
  return (
    <div
      className="canvas"
      ref={sheet}
      onFocus={(event) => {
        if (!trying && !layer.current?.contains(event.target)) layer.current?.focus();
      }}
    >
      {isList(tree) ? (
        <ListSheet
          store={store}
          filter={typeof tree.properties['filter'] === 'string' ? tree.properties['filter'] : ''}
          width={props.width}
        />
      ) : (
        <Form store={store} page={page} onPage={onPage} />
      )}
      {!trying && (
        <div
          className="canvas-layer"
          ref={layer}
          tabIndex={0}
          role="application"
          aria-label={say('canvas.theFormBeingDesigned')}
          aria-roledescription={say('canvas.canvas')}
          data-placing={spot ? '' : undefined}
          {...pointing}
          onKeyDown={props.onKeyDown}
        >
          <CanvasMarks {...props} sheet={sheet} hovered={hovered} />
          <div className="mark-drop" ref={dropMark} />
        </div>
      )}
    </div>
  );
}

/** What the pointer does on the form: hovers, selects, places what was chosen, asks for the menu, pastes. */
function usePointing(
  { tree, selection, placing, spot, ...props }: CanvasProps,
  under: (x: number, y: number) => Element | undefined,
  onHover: (node: string | undefined) => void,
  showDrop: (spot: Spot | undefined) => void,
) {
  const spotUnder = ({ clientX, clientY }: React.PointerEvent | React.MouseEvent, at: Element | undefined, subject: Subject) =>
    at && spotAt(at, clientX, clientY, tree, subject);
  return {
    onPointerMove: (event: React.PointerEvent) => {
      const at = under(event.clientX, event.clientY);
      onHover(nodeAt(at));
      if (placing) showDrop(spotUnder(event, at, placing) ?? spot);
    },
    onPointerLeave: () => {
      onHover(undefined);
      if (placing) showDrop(spot);
    },
    onClick: (event: React.MouseEvent) => {
      const at = under(event.clientX, event.clientY);
      const tab = at?.closest<HTMLElement>('[data-tab]')?.dataset['tab'];
      if (tab) props.onPage(tab);
      if (!placing) {
        props.onSelect(tab ?? nodeAt(at), event.shiftKey ? 'upTo' : event.ctrlKey || event.metaKey);
        return;
      }
      const found = tab ? undefined : spotUnder(event, at, placing);
      const place = found && placeAt(tree, placing, found);
      if (place) props.onPlace(place, placing);
    },
    onDoubleClick: () => props.onBeginRename(),
    onContextMenu: (event: React.MouseEvent) => {
      event.preventDefault();
      const id = nodeAt(under(event.clientX, event.clientY));
      if (id && !selection.includes(id)) props.onSelect(id, false);
      if (id) props.onMenu();
    },
    onPaste: (event: React.ClipboardEvent) => {
      event.preventDefault();
      props.onPaste(event.clipboardData.getData('text/plain'));
    },
  };
}
