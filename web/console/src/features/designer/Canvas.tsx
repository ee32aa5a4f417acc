import { draggable, dropTargetForElements, monitorForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { setCustomNativeDragPreview } from '@atlaskit/pragmatic-drag-and-drop/element/set-custom-native-drag-preview';
import type { FormStore } from '#form';
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import {
  find,
  belongsInBand,
  isAround,
  isItem,
  isList,
  kindOf,
  pathTo,
  placeAt,
  type Edge,
  type Place,
  type Spot,
  type Subject,
  type TreeNode,
} from '#layout';
import { Form } from '../../shell/Form.tsx';
import { ListSheet } from './ListSheet.tsx';
import { zoomOf } from './measures.ts';
import { Rename } from './Rename.tsx';
import { edgeScrolling } from './edgeScroll.ts';
import { Sizes } from './Sizes.tsx';
import { TabOrder } from './TabOrder.tsx';
import type { Mark } from './marks.ts';
import { say } from '../../shell/configurator/texts.ts';

export interface CanvasProps {
  store: FormStore;
  tree: TreeNode;
  /** What is selected, the last chosen last. */
  selection: string[];
  trying: boolean;
  page: string | undefined;
  onPage: (id: string) => void;
  /** Selects a node; adding, takes it into what is selected or out of it; up to it, all between. */
  onSelect: (id: string | undefined, how: boolean | 'upTo') => void;
  /** The sheet's width in pixels. */
  width: number;
  /** The name of the selected node is being written where it stands. */
  renaming: string | undefined;
  onRename: (name: string | undefined) => void;
  onBeginRename: () => void;
  onSize: (node: string, property: 'span' | 'lines' | 'units', value: number) => void;
  onMenu: () => void;
  /** Something was pasted from the clipboard. */
  onPaste: (text: string) => void;
  onPlace: (place: Place, subject: Subject) => void;
  nameOf: (id: string) => string;
  /** What happened to nodes since what the form is compared with. */
  marks: Map<string, Mark>;
  /** How many comments are open on items. */
  comments: ReadonlyMap<string, number>;
  onComments: (item: string) => void;
  /** Whether the order of the Tab key is shown. */
  tabOrder: boolean;
  /** A spot the keyboard stands at while placing. */
  spot: Spot | undefined;
  /** What is being placed: a click places it. */
  placing: Subject | undefined;
  onKeyDown: (event: React.KeyboardEvent) => void;
}

interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * The form itself, drawn by the form package and untouched, under a transparent layer that does all the designing: it finds what lies under
 * the pointer, and draws selection, structure and insertion marks. Taken away, what is left is the published form.
 */
export function Canvas(props: CanvasProps) {
  const { store, tree, selection, trying, page, onPage, onSelect, nameOf, spot } = props;
  const sheet = useRef<HTMLDivElement>(null);
  const layer = useRef<HTMLDivElement>(null);
  const [hovered, setHovered] = useState<string>();
  const selected = selection.at(-1);
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

  useEffect(() => {
    const element = layer.current;
    if (!element || trying) return;
    let unskip: (() => void) | undefined;
    let unskipping: ReturnType<typeof setTimeout> | undefined;
    let openTab: { tab: string; timer: ReturnType<typeof setTimeout> } | undefined;
    // One place of the pointer is asked about several times, and finding what lies there is most of the work of a drag.
    let last: { clientX: number; clientY: number; tree: TreeNode; at: Element | undefined; spot: Spot | undefined } | undefined;
    const findSpot = ({ clientX, clientY }: { clientX: number; clientY: number }, subject: Subject) => {
      const { tree } = current.current;
      if (last?.clientX === clientX && last.clientY === clientY && last.tree === tree) return last;
      const at = under(clientX, clientY);
      return (last = { clientX, clientY, tree, at, spot: at && spotAt(at, clientX, clientY, tree, subject) });
    };
    const read = (input: { clientX: number; clientY: number }, subject: Subject) => findSpot(input, subject).spot;
    const pane = element.closest<HTMLElement>('.sheet-frame');
    // What lies under the pointer is another thing once the form has moved.
    const scrolling =
      pane &&
      edgeScrolling(pane, () => {
        last = undefined;
      });
    const stops = [
      draggable({
        element,
        canDrag: ({ input }) => {
          if (document.elementFromPoint(input.clientX, input.clientY)?.closest('.mark-handle, .mark-rename')) return false;
          const id = nodeAt(under(input.clientX, input.clientY));
          const kind = id && find(current.current.tree, id)?.kind;
          return Boolean(kind && (isItem(kind) || kind === 'section' || kind === 'page' || kind === 'row' || kind === 'column'));
        },
        getInitialData: ({ input }) => ({
          subject: { node: nodeAt(under(input.clientX, input.clientY)) } satisfies { node: string | undefined },
        }),
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
      }),
      dropTargetForElements({ element, getData: ({ input, source }) => ({ spot: read(input, source.data['subject'] as Subject) }) }),
      monitorForElements({
        onDragStart: () => {
          clearTimeout(unskipping);
          unskip?.();
          unskip = sheet.current ? skipUnseen(sheet.current) : undefined;
        },
        onDrag: ({ location, source }) => {
          const subject = source.data['subject'] as Subject;
          const { clientX, clientY } = location.current.input;
          const over = location.current.dropTargets.some((target) => target.element === element);
          const spot = over ? read({ clientX, clientY }, subject) : undefined;
          scrolling?.at(over ? clientY : undefined);
          showDrop(spot);
          const tab = over ? findSpot({ clientX, clientY }, subject).at?.closest<HTMLElement>('[data-tab]')?.dataset['tab'] : undefined;
          if (tab !== openTab?.tab) {
            if (openTab) clearTimeout(openTab.timer);
            openTab = tab ? { tab, timer: setTimeout(() => current.current.onPage(tab), 450) } : undefined;
          }
        },
        onDrop: ({ location, source }) => {
          if (openTab) clearTimeout(openTab.timer);
          openTab = undefined;
          const subject = source.data['subject'] as Subject;
          const over = location.current.dropTargets.some((target) => target.element === element);
          const spot = over ? read(location.current.input, subject) : undefined;
          last = undefined;
          scrolling?.at(undefined);
          showDrop(undefined);
          // What is out of sight can wait until what was dropped is drawn.
          unskipping = setTimeout(() => {
            unskip?.();
            unskip = undefined;
          }, 300);
          if (!over) return;
          const place = spot && placeAt(current.current.tree, subject, spot);
          // Whoever put it there goes on there, with keys too.
          element.focus({ preventScroll: true });
          if (place) current.current.onPlace(place, subject);
        },
      }),
    ];
    return () => {
      clearTimeout(unskipping);
      unskip?.();
      scrolling?.at(undefined);
      stops.forEach((stop) => stop());
    };
  }, [trying, under, showDrop]);

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
  const spotUnder = ({ clientX, clientY }: { clientX: number; clientY: number }, at: Element | undefined, subject: Subject) =>
    at && spotAt(at, clientX, clientY, tree, subject);
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
          onPointerMove={(event) => {
            const at = under(event.clientX, event.clientY);
            setHovered(nodeAt(at));
            if (props.placing) showDrop(spotUnder(event, at, props.placing) ?? spot);
          }}
          onPointerLeave={() => {
            setHovered(undefined);
            if (props.placing) showDrop(spot);
          }}
          onClick={(event) => {
            const at = under(event.clientX, event.clientY);
            const tab = (at?.closest('[data-tab]') as HTMLElement | null)?.dataset['tab'];
            if (tab) onPage(tab);
            if (props.placing) {
              const found = tab ? undefined : spotUnder(event, at, props.placing);
              const place = found && placeAt(tree, props.placing, found);
              if (place) props.onPlace(place, props.placing);
              return;
            }
            onSelect(tab ?? nodeAt(at), event.shiftKey ? 'upTo' : event.ctrlKey || event.metaKey);
          }}
          onDoubleClick={() => props.onBeginRename()}
          onContextMenu={(event) => {
            event.preventDefault();
            const id = nodeAt(under(event.clientX, event.clientY));
            if (id && !selection.includes(id)) onSelect(id, false);
            if (id) props.onMenu();
          }}
          onPaste={(event) => {
            event.preventDefault();
            props.onPaste(event.clipboardData.getData('text/plain'));
          }}
          onKeyDown={props.onKeyDown}
        >
          {[...props.marks].map(([id, mark]) => (
            <div key={id} className="mark-change" data-change={mark.what} data-for={id} title={mark.words}>
              <span>{mark.what}</span>
            </div>
          ))}
          {[...props.comments].map(
            ([id, count]) =>
              id && (
                <div key={`said ${id}`} className="mark-said" data-for={id}>
                  <span
                    title={say('canvas.openComments', count)}
                    onClick={(event) => {
                      event.stopPropagation();
                      props.onComments(id);
                    }}
                  >
                    {count}
                  </span>
                </div>
              ),
          )}
          {props.tabOrder && <TabOrder sheet={sheet} />}
          {emptyCells(tree).map((id) => (
            <div key={id} className="mark-empty" data-for={id} />
          ))}
          {hovered && !selection.includes(hovered) && <div className="mark-hover" data-for={hovered} />}
          {selection.map((id) => (
            <div key={id} className="mark-selected" data-for={id}>
              {id === selected &&
                (props.renaming === undefined ? (
                  <span className="mark-name">{selection.length > 1 ? say('common.selected', selection.length) : nameOf(id)}</span>
                ) : (
                  <Rename name={props.renaming} onDone={props.onRename} />
                ))}
            </div>
          ))}
          {selected && selection.length === 1 && props.renaming === undefined && (
            <Sizes
              key={selected}
              sheet={sheet}
              tree={tree}
              node={selected}
              rightToLeft={store.form.language.startsWith('ar')}
              onSize={props.onSize}
            />
          )}
          <div className="mark-drop" ref={dropMark} />
        </div>
      )}
    </div>
  );
}

/**
 * Moves the mark of a drop, or puts it out. An animation that stands still places it: that alone moves something without the whole page
 * being put
 * into layers anew, which takes longer than all the rest of a frame of a drag.
 */
function moveMark(mark: HTMLElement, at: Box | undefined, opacity: number): void {
  const transform =
    at &&
    `translate(calc(${at.left}px + var(--sheet-side)), calc(${at.top}px + var(--sheet-top))) scale(${at.width / 100}, ${at.height / 100})`;
  const still = { transform: Array(2).fill(transform ?? 'none'), opacity: Array(2).fill(transform ? opacity : 0) };
  const [placed] = mark.getAnimations();
  if (placed) (placed.effect as KeyframeEffect).setKeyframes(still);
  else mark.animate(still, { duration: 1000, fill: 'both' }).pause();
}

/**
 * While something is dragged, rows out of sight are left out of painting: a frame then costs what is seen of a form, not all of it. They
 * keep the
 * place they have, to the pixel, and are there again before they come into sight. Answers what ends it.
 */
function skipUnseen(sheet: HTMLElement): () => void {
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

/** Where a node is drawn, measured in the sheet's own pixels. */
function boxOf(sheet: HTMLElement, node: string): Box | undefined {
  const id = CSS.escape(node);
  // The layout itself has no element of its own: it is the whole form.
  const drawn =
    sheet.querySelector(`[data-node="${id}"], [data-tab="${id}"]`) ?? (node === 'layout' ? sheet.querySelector('.bt-form') : null);
  if (!drawn) return undefined;
  // A column is as high as its table.
  const of = drawn.getBoundingClientRect();
  const rect = drawn.matches('.list-column')
    ? new DOMRect(of.x, of.y, of.width, drawn.closest('table')!.getBoundingClientRect().bottom - of.top)
    : of;
  const [frame, zoom] = [sheet.getBoundingClientRect(), zoomOf(sheet)];
  return {
    left: (rect.left - frame.left) / zoom,
    top: (rect.top - frame.top) / zoom,
    width: rect.width / zoom,
    height: rect.height / zoom,
  };
}

function setBox(mark: HTMLElement, box: Box): void {
  for (const side of ['left', 'top', 'width', 'height'] as const) mark.style[side] = `${box[side]}px`;
}

/** The node an element belongs to; a cell with one item is that item, a bare row or cell its section. */
function nodeAt(element: Element | undefined): string | undefined {
  const tab = (element?.closest('[data-tab]') as HTMLElement | null)?.dataset['tab'];
  const column = (element?.closest('[data-column]') as HTMLElement | null)?.dataset['column'];
  // What a piece shows is the piece's: here it is one thing.
  return (
    tab ??
    column ??
    (element?.closest('.bt-item[data-node], .bt-section[data-node], .bt-band[data-node]') as HTMLElement | null)?.dataset['node']?.split(
      '/',
    )[0]
  );
}

function emptyCells(tree: TreeNode): string[] {
  const found: string[] = [];
  const look = (node: TreeNode) => {
    if (node.kind === 'cell' && node.children.length === 0) found.push(node.id);
    node.children.forEach(look);
  };
  look(tree);
  return found;
}

/**
 * The spot a pointer means: near a row's upper or lower edge another row, near a cell's side another column, else above or below what is
 * there.
 */
function spotAt(element: Element, x: number, y: number, tree: TreeNode, subject: Subject): Spot | undefined {
  const kind = kindOf(tree, subject);
  if (!kind) return undefined;
  if (isList(tree)) {
    const column = element.closest<HTMLElement>('[data-column]');
    return column
      ? sideways(column, column.dataset['column']!, x)
      : tree.children.some((child) => child.kind === 'column')
        ? undefined
        : { target: tree.id, edge: 'inside' };
  }
  if (isAround(kind)) return { target: tree.id, edge: 'inside' };
  const band = element.closest<HTMLElement>('.bt-band');
  if (band && belongsInBand(kind)) {
    const beside = element.closest<HTMLElement>('.bt-item');
    return beside ? sideways(beside, beside.dataset['node']!, x) : { target: band.dataset['node']!, edge: 'inside' };
  }
  const tab = element.closest<HTMLElement>('[data-tab]');
  if (tab) return kind === 'page' ? sideways(tab, tab.dataset['tab']!, x) : { target: tab.dataset['tab']!, edge: 'inside' };
  if (kind === 'page') {
    // A form of one page has no row of tabs yet: the page's own halves stand for it.
    const form = element.closest('.bt-form');
    const page = form?.querySelector('.bt-tabs') ? undefined : form?.querySelector<HTMLElement>('.bt-page');
    return page ? sideways(page, page.dataset['node']!, x) : undefined;
  }
  // Between two sections the nearer one is meant.
  const section =
    element.closest<HTMLElement>('.bt-section') ??
    nearest([...(element.closest('.bt-form')?.querySelectorAll<HTMLElement>('.bt-section') ?? [])].filter(isSeen), y);
  if (!section) return pageSpot(element, tree);
  if (kind === 'section') {
    const rect = section.getBoundingClientRect();
    return { target: section.dataset['node']!, edge: y < rect.top + rect.height / 2 ? 'above' : 'below' };
  }
  const row = element.closest<HTMLElement>('.bt-row') ?? nearest([...section.querySelectorAll<HTMLElement>('.bt-row')].filter(isSeen), y);
  if (!row) return { target: section.dataset['node']!, edge: 'inside' };
  const rowBox = row.getBoundingClientRect();
  const edge: Edge = y < rowBox.top + rowBox.height / 2 ? 'above' : 'below';
  const cell = element.closest<HTMLElement>('.bt-cell') ?? nearestX([...row.querySelectorAll<HTMLElement>(':scope > .bt-cell')], x);
  const rim = Math.min(10, rowBox.height / 5);
  if (kind === 'row' || !cell || y < rowBox.top + rim || y > rowBox.bottom - rim) return { target: row.dataset['node']!, edge };
  const id = cell.dataset['node']!;
  if (find(tree, id)?.children.length === 0) return { target: id, edge: 'inside' };
  const box = cell.getBoundingClientRect();
  const part = (x - box.left) / box.width;
  if (part < 0.22 || part > 0.78) return sideways(cell, id, x);
  const item = element.closest<HTMLElement>('.bt-item') ?? nearest([...cell.querySelectorAll<HTMLElement>(':scope > .bt-item')], y);
  if (!item) return { target: row.dataset['node']!, edge };
  const itemBox = item.getBoundingClientRect();
  return { target: item.dataset['node']!, edge: y < itemBox.top + itemBox.height / 2 ? 'above' : 'below' };
}

function pageSpot(element: Element, tree: TreeNode): Spot | undefined {
  const page = element.closest('.bt-form')?.querySelector<HTMLElement>('.bt-page')?.dataset['node'];
  return page && pathTo(tree, page).length > 0 ? { target: page, edge: 'inside' } : undefined;
}

function sideways(element: HTMLElement, target: string, x: number): Spot {
  const box = element.getBoundingClientRect();
  const rtl = getComputedStyle(element).direction === 'rtl';
  return { target, edge: x < box.left + box.width / 2 !== rtl ? 'left' : 'right' };
}

/** Whether something is not among what is far out of sight; see {@link skipUnseen}. */
const isSeen = (row: HTMLElement) => row.style.contentVisibility !== 'hidden';
const nearest = (elements: HTMLElement[], y: number) =>
  best(elements, (box) => (y < box.top ? box.top - y : y > box.bottom ? y - box.bottom : 0));
const nearestX = (elements: HTMLElement[], x: number) =>
  best(elements, (box) => (x < box.left ? box.left - x : x > box.right ? x - box.right : 0));

function best(elements: HTMLElement[], distance: (box: DOMRect) => number): HTMLElement | undefined {
  return elements.map((element) => ({ element, away: distance(element.getBoundingClientRect()) })).sort((a, b) => a.away - b.away)[0]
    ?.element;
}

/** The insertion mark: a line where something will stand, or the whole of what will take it. */
function line(box: Box, edge: Edge, rtl: boolean): Box {
  switch (edge) {
    case 'above':
      return { left: box.left, top: box.top - 9, width: box.width, height: 3 };
    case 'below':
      return { left: box.left, top: box.top + box.height + 6, width: box.width, height: 3 };
    case 'left':
    case 'right': {
      const atLeft = (edge === 'left') !== rtl;
      return { left: atLeft ? box.left - 11 : box.left + box.width + 8, top: box.top, width: 3, height: box.height };
    }
    default:
      return { ...box };
  }
}
