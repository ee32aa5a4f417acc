import { lazy, Suspense, useCallback, useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import type { FormStore } from '#form';
import { isList } from '#layout';
import { Form } from '../../shell/Form.tsx';
import { say } from '../../shell/configurator/texts.ts';
import { boxesOf, setBox } from './boxes.ts';
import type { CanvasProps } from './canvasProps.ts';
import { CanvasMarks } from './CanvasMarks.tsx';
import { DesignSurface } from './designSurface.ts';
import { useCanvasDrag } from './useCanvasDrag.ts';
import { usePointer } from './usePointer.ts';

// What is not there at first is fetched when it is.
const ListSheet = lazy(() => import('./ListSheet.tsx').then((module) => ({ default: module.ListSheet })));

/**
 * The form itself, drawn by the form package and untouched, under a transparent layer that does all the designing: it finds what lies under
 * the pointer, and draws selection, structure and insertion marks. Taken away, what is left is the published form.
 */
export function Canvas(props: CanvasProps) {
  const { store, tree, trying, page, onPage, spot, selection } = props;
  const sheet = useRef<HTMLDivElement>(null);
  const layer = useRef<HTMLDivElement>(null);
  const dropMark = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const [hovered, setHovered] = useState<string>();
  const [row, setRow] = useState<string>();
  const current = useRef(props);
  useLayoutEffect(() => {
    current.current = props;
  });
  const [surface] = useState(() => new DesignSurface({ sheet, layer, dropMark }, current));
  const beforeDrawing = useCallback(() => surface.beforeDrawing(), [surface]);
  useNewMeasures(sheet, store, surface);

  const onHover = (node: string | undefined, within?: string) => {
    setHovered(node);
    setRow(within);
  };
  const pointing = usePointer(props, { sheet, layer, frame, surface, current, onHover });
  useCanvasDrag(layer, sheet, current, trying, surface);

  // After each drawing.
  useLayoutEffect(() => layMarks(sheet.current, layer.current));
  useEffect(() => {
    surface.showSpot(spot);
    if (spot) dropMark.current?.scrollIntoView({ block: 'center' });
  }, [spot, surface]);
  useInSight(sheet, selection.at(-1));
  return (
    <div
      className="canvas"
      ref={sheet}
      onFocus={(event) => {
        if (!trying && !layer.current?.contains(event.target)) layer.current?.focus();
      }}
    >
      {isList(tree) ? (
        <Suspense>
          <ListSheet
            store={store}
            filter={typeof tree.properties['filter'] === 'string' ? tree.properties['filter'] : ''}
            width={props.width}
          />
        </Suspense>
      ) : (
        <Form store={store} page={page} onPage={onPage} beforeDrawing={beforeDrawing} />
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
          <CanvasMarks {...props} sheet={sheet} hovered={hovered} row={row} />
          <div className="mark-drop" ref={dropMark} />
          <div className="mark-frame" ref={frame} />
        </div>
      )}
    </div>
  );
}

/** Lays marks over what they are about: measured, never guessed. */
function layMarks(sheet: HTMLElement | null, layer: HTMLElement | null): void {
  const all = [...(layer?.querySelectorAll<HTMLElement>(':scope > [data-for]') ?? [])];
  // First all is measured, then all is placed: what is placed would have to be laid out before the next is measured.
  const boxes = sheet
    ? boxesOf(
        sheet,
        all.map((mark) => ({ node: mark.dataset['for']!, itself: mark.dataset['kind'] !== undefined })),
      )
    : [];
  for (const [i, mark] of all.entries()) {
    const box = boxes[i];
    // What is named and not drawn yet is there in a moment: hidden meanwhile, it would lose the caret.
    mark.hidden = !box && !mark.querySelector('.mark-rename');
    if (box) setBox(mark, box);
  }
}

/** What is selected is in sight, as soon as it is drawn. */
function useInSight(sheet: RefObject<HTMLElement | null>, selected: string | undefined): void {
  const scrolledTo = useRef<string>(undefined);
  useEffect(() => {
    if (selected === scrolledTo.current) return;
    const drawn = selected && sheet.current?.querySelector(`[data-node="${CSS.escape(selected)}"]`);
    if (drawn) drawn.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    if (drawn || !selected) scrolledTo.current = selected;
  });
}

/** Marks are drawn from measured boxes, so they follow whenever the form has been laid out anew. */
function useNewMeasures(sheet: RefObject<HTMLElement | null>, store: FormStore, surface: DesignSurface): void {
  const [, redraw] = useState(0);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => {
      surface.forget();
      redraw((count) => count + 1);
    });
    if (sheet.current) observer.observe(sheet.current.firstElementChild!);
    return () => observer.disconnect();
  }, [sheet, store, surface]);
  useEffect(() => store.subscribe('values', () => redraw((count) => count + 1)), [store]);
}
