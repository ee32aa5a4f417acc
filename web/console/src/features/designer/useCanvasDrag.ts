import { draggable, dropTargetForElements, monitorForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { setCustomNativeDragPreview } from '@atlaskit/pragmatic-drag-and-drop/element/set-custom-native-drag-preview';
import { useEffect, type RefObject } from 'react';
import { find, isItem, outermost, placeAt, type Facts, type Place, type Subject, type TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { edgeScrolling } from './edgeScroll.ts';
import type { DesignSurface } from './designSurface.ts';
import { zoomOf } from './measures.ts';
import { skipUnseen } from './skipUnseen.ts';
import { spotAt, tabAt } from './spotAt.ts';

/** What a drag asks of the canvas, as it is at that moment. */
export interface DragHost {
  tree: TreeNode;
  facts: Facts;
  nameOf: (id: string) => string;
  /** What is selected, the last chosen last. */
  selection: string[];
  onPage: (id: string) => void;
  /** Something is taken hold of, and will be over the form in a moment. */
  onHold: (subject: Subject) => void;
  onPlace: (place: Place, subject: Subject) => Promise<void>;
  onPlaceSeveral: (subjects: Subject[], first: Place) => Promise<void>;
}

type Follow = NonNullable<Parameters<typeof monitorForElements>[0]['onDrag']>;

interface Pointer {
  clientX: number;
  clientY: number;
}

/**
 * Dragging over the form: what is taken hold of, where it would stand, tabs that open under it, the sheet that scrolls at its edges.
 */
export function useCanvasDrag(
  layer: RefObject<HTMLDivElement | null>,
  sheet: RefObject<HTMLDivElement | null>,
  current: RefObject<DragHost>,
  trying: boolean,
  surface: DesignSurface,
): void {
  useEffect(() => {
    const element = layer.current;
    if (!element || trying) return;
    const pointed = pointedAt(current, sheet, surface);
    const pane = element.closest<HTMLElement>('.sheet-frame');
    // What the pointer is at is another thing once the form has moved.
    const scrolling = pane && edgeScrolling(pane, pointed.forget);
    const tabs = openingTabs((tab) => current.current.onPage(tab));
    const painting = painted(() => sheet.current);
    const over = (targets: { element: Element }[]) => targets.some((target) => target.element === element);
    const follow: Follow = ({ location, source }) => {
      const found = over(location.current.dropTargets) ? pointed.at(location.current.input, subjectsOf(source)[0]!) : undefined;
      scrolling?.at(found && location.current.input.clientY);
      surface.showSoon(found?.place);
      tabs.over(found?.tab);
    };
    const stops = [
      source(element, current, surface),
      dropTargetForElements({ element, getData: ({ input, source }) => ({ place: pointed.at(input, subjectsOf(source)[0]!).place }) }),
      monitorForElements({
        onDragStart: ({ source }) => {
          subjectsOf(source).forEach((subject) => current.current.onHold(subject));
          surface.measure();
          painting.begin();
        },
        onDrag: follow,
        // What leaves the form is told by this alone.
        onDropTargetChange: follow,
        onDrop: ({ location, source }) => {
          tabs.over(undefined);
          const subjects = subjectsOf(source);
          const [subject] = subjects;
          const found = over(location.current.dropTargets) ? pointed.at(location.current.input, subject!) : undefined;
          pointed.forget();
          scrolling?.at(undefined);
          painting.end();
          const place = found?.place;
          surface.show(place);
          if (!found) return;
          // Whoever put it there goes on there, with keys too.
          element.focus({ preventScroll: true });
          if (!place) return;
          const put = () =>
            subjects.length > 1 ? current.current.onPlaceSeveral(subjects, place) : current.current.onPlace(place, subject!);
          // What was dropped is seen in the next frame; drawing the form anew with it takes longer, and changes nothing one sees.
          surface.settle(nextFrame().then(put));
        },
      }),
    ];
    return () => {
      painting.stop();
      scrolling?.at(undefined);
      stops.forEach((stop) => stop());
    };
  }, [trying, surface, layer, sheet, current]);
}

/** Once the next frame is drawn; a page nobody looks at has none. */
const nextFrame = () =>
  new Promise<void>((drawn) => {
    const late = setTimeout(drawn, 100);
    requestAnimationFrame(() => {
      clearTimeout(late);
      setTimeout(drawn);
    });
  });

/** What is dragged: one thing, or several fields in their order. */
const subjectsOf = (source: { data: Record<string | symbol, unknown> }): Subject[] =>
  (source.data['subjects'] as Subject[] | undefined) ?? [source.data['subject'] as Subject];

/** One place of the pointer is asked about several times, and what would become of it is most of the work of a drag. */
function pointedAt(current: RefObject<DragHost>, sheet: RefObject<HTMLElement | null>, surface: DesignSurface) {
  let last: (Pointer & { tree: TreeNode; tab: string | undefined; place: Place | undefined }) | undefined;
  return {
    forget: () => {
      last = undefined;
    },
    at: ({ clientX, clientY }: Pointer, subject: Subject) => {
      const { tree, facts } = current.current;
      if (last?.clientX === clientX && last.clientY === clientY && last.tree === tree) return last;
      const boxes = surface.measure();
      const { x, y } = pointOn(sheet.current, clientX, clientY);
      const spot = boxes && spotAt(boxes, x, y, tree, subject);
      return (last = {
        clientX,
        clientY,
        tree,
        tab: boxes && tabAt(boxes, x, y),
        place: spot && placeAt(tree, subject, spot, facts),
      });
    },
  };
}

/** A point of the window in the sheet's own pixels. */
export function pointOn(sheet: HTMLElement | null, clientX: number, clientY: number): { x: number; y: number } {
  if (!sheet) return { x: clientX, y: clientY };
  const [{ left, top }, zoom] = [sheet.getBoundingClientRect(), zoomOf(sheet)];
  return { x: (clientX - left) / zoom, y: (clientY - top) / zoom };
}

/** A tab under which something is held opens after a while. */
function openingTabs(onPage: (tab: string) => void) {
  let opening: { tab: string; timer: ReturnType<typeof setTimeout> } | undefined;
  return {
    over: (tab: string | undefined) => {
      if (tab === opening?.tab) return;
      if (opening) clearTimeout(opening.timer);
      opening = tab ? { tab, timer: setTimeout(() => onPage(tab), 400) } : undefined;
    },
  };
}

/** What is out of sight is not painted while something is dragged, and can wait until what was dropped is drawn. */
function painted(sheet: () => HTMLElement | null) {
  let unskip: (() => void) | undefined;
  let waiting: ReturnType<typeof setTimeout> | undefined;
  const stop = () => {
    clearTimeout(waiting);
    unskip?.();
    unskip = undefined;
  };
  return {
    stop,
    begin: () => {
      stop();
      const of = sheet();
      unskip = of ? skipUnseen(of) : undefined;
    },
    end: () => {
      waiting = setTimeout(stop, 300);
    },
  };
}

/** What comes along with what is taken hold of: all that is selected with it, in reading order, where it is all of its sort. */
function heldTogether({ tree, selection }: DragHost, held: string): string[] {
  if (selection.length < 2 || !selection.includes(held)) return [held];
  const sort = (id: string) => {
    const kind = find(tree, id)?.kind;
    return kind && isItem(kind) ? 'item' : kind;
  };
  return selection.every((id) => sort(id) === sort(held)) ? outermost(tree, selection) : [held];
}

/** What can be taken hold of: parts of the form, but not while one is measured or named. */
function source(element: HTMLElement, current: RefObject<DragHost>, surface: DesignSurface) {
  const held = ({ clientX, clientY }: Pointer) => surface.holdAt(clientX, clientY);
  return draggable({
    element,
    canDrag: ({ input }) => {
      if (document.elementFromPoint(input.clientX, input.clientY)?.closest('.mark-handle, .mark-rename')) return false;
      const id = held(input);
      const kind = id && find(current.current.tree, id)?.kind;
      return Boolean(kind && (isItem(kind) || ['section', 'page', 'row', 'column'].includes(kind)));
    },
    getInitialData: ({ input }) => {
      const subjects = heldTogether(current.current, held(input)!).map((node) => ({ node }));
      return { subject: subjects[0], subjects };
    },
    onGenerateDragPreview: ({ nativeSetDragImage, source }) => {
      const { nameOf } = current.current;
      const held = subjectsOf(source) as { node: string }[];
      setCustomNativeDragPreview({
        nativeSetDragImage,
        render: ({ container }) => {
          const chip = document.createElement('div');
          chip.className = 'drag-chip';
          chip.textContent = held.length > 1 ? say('common.parts', held.length) : nameOf(held[0]!.node);
          container.append(chip);
        },
      });
    },
  });
}
