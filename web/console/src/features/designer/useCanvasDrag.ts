import { draggable, dropTargetForElements, monitorForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { setCustomNativeDragPreview } from '@atlaskit/pragmatic-drag-and-drop/element/set-custom-native-drag-preview';
import { useEffect, type RefObject } from 'react';
import { find, isItem, placeAt, type Place, type Spot, type Subject, type TreeNode } from '#layout';
import { edgeScrolling } from './edgeScroll.ts';
import { skipUnseen } from './skipUnseen.ts';
import { nodeAt, spotAt } from './spotAt.ts';

/** What a drag asks of the canvas, as it is at that moment. */
export interface DragHost {
  tree: TreeNode;
  nameOf: (id: string) => string;
  onPage: (id: string) => void;
  onPlace: (place: Place, subject: Subject) => void;
}

interface Pointer {
  clientX: number;
  clientY: number;
}

/**
 * Dragging over the form: what is taken hold of, where it would stand, tabs that open under it, the sheet that scrolls at its edges.
 * @param under what of the form lies under a point
 * @param showDrop draws where something will stand
 */
export function useCanvasDrag(
  layer: RefObject<HTMLDivElement | null>,
  sheet: RefObject<HTMLDivElement | null>,
  current: RefObject<DragHost>,
  trying: boolean,
  under: (x: number, y: number) => Element | undefined,
  showDrop: (spot: Spot | undefined) => void,
): void {
  useEffect(() => {
    const element = layer.current;
    if (!element || trying) return;
    const pointed = pointedAt(current, under);
    const pane = element.closest<HTMLElement>('.sheet-frame');
    // What lies under the pointer is another thing once the form has moved.
    const scrolling = pane && edgeScrolling(pane, pointed.forget);
    const tabs = openingTabs((tab) => current.current.onPage(tab));
    const painting = painted(() => sheet.current);
    const over = (targets: { element: Element }[]) => targets.some((target) => target.element === element);
    const stops = [
      source(element, current, under),
      dropTargetForElements({ element, getData: ({ input, source }) => ({ spot: pointed.at(input, subjectOf(source)).spot }) }),
      monitorForElements({
        onDragStart: painting.begin,
        onDrag: ({ location, source }) => {
          const found = over(location.current.dropTargets) ? pointed.at(location.current.input, subjectOf(source)) : undefined;
          scrolling?.at(found && location.current.input.clientY);
          showDrop(found?.spot);
          tabs.over(found?.at?.closest<HTMLElement>('[data-tab]')?.dataset['tab']);
        },
        onDrop: ({ location, source }) => {
          tabs.over(undefined);
          const subject = subjectOf(source);
          const found = over(location.current.dropTargets) ? pointed.at(location.current.input, subject) : undefined;
          pointed.forget();
          scrolling?.at(undefined);
          showDrop(undefined);
          painting.end();
          if (!found) return;
          const place = found.spot && placeAt(current.current.tree, subject, found.spot);
          // Whoever put it there goes on there, with keys too.
          element.focus({ preventScroll: true });
          if (place) current.current.onPlace(place, subject);
        },
      }),
    ];
    return () => {
      painting.stop();
      scrolling?.at(undefined);
      stops.forEach((stop) => stop());
    };
  }, [trying, under, showDrop, layer, sheet, current]);
}

const subjectOf = (source: { data: Record<string | symbol, unknown> }) => source.data['subject'] as Subject;

/** One place of the pointer is asked about several times, and finding what lies there is most of the work of a drag. */
function pointedAt(current: RefObject<DragHost>, under: (x: number, y: number) => Element | undefined) {
  let last: (Pointer & { tree: TreeNode; at: Element | undefined; spot: Spot | undefined }) | undefined;
  return {
    forget: () => {
      last = undefined;
    },
    at: ({ clientX, clientY }: Pointer, subject: Subject) => {
      const { tree } = current.current;
      if (last?.clientX === clientX && last.clientY === clientY && last.tree === tree) return last;
      const at = under(clientX, clientY);
      return (last = { clientX, clientY, tree, at, spot: at && spotAt(at, clientX, clientY, tree, subject) });
    },
  };
}

/** A tab under which something is held opens after a while. */
function openingTabs(onPage: (tab: string) => void) {
  let opening: { tab: string; timer: ReturnType<typeof setTimeout> } | undefined;
  return {
    over: (tab: string | undefined) => {
      if (tab === opening?.tab) return;
      if (opening) clearTimeout(opening.timer);
      opening = tab ? { tab, timer: setTimeout(() => onPage(tab), 450) } : undefined;
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

/** What can be taken hold of: parts of the form, but not while one is measured or named. */
function source(element: HTMLElement, current: RefObject<DragHost>, under: (x: number, y: number) => Element | undefined) {
  const nodeUnder = ({ clientX, clientY }: Pointer) => nodeAt(under(clientX, clientY));
  return draggable({
    element,
    canDrag: ({ input }) => {
      if (document.elementFromPoint(input.clientX, input.clientY)?.closest('.mark-handle, .mark-rename')) return false;
      const id = nodeUnder(input);
      const kind = id && find(current.current.tree, id)?.kind;
      return Boolean(kind && (isItem(kind) || ['section', 'page', 'row', 'column'].includes(kind)));
    },
    getInitialData: ({ input }) => ({ subject: { node: nodeUnder(input) } satisfies { node: string | undefined } }),
    onGenerateDragPreview: ({ nativeSetDragImage, source }) => {
      const subject = source.data['subject'] as { node: string };
      setCustomNativeDragPreview({
        nativeSetDragImage,
        render: ({ container }) => {
          const chip = document.createElement('div');
          chip.className = 'drag-chip';
          chip.textContent = current.current.nameOf(subject.node);
          container.append(chip);
        },
      });
    },
  });
}
