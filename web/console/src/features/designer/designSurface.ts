import type { RefObject } from 'react';
import type { NewNode, Place, Spot } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { boxOf, line, moveMark } from './boxes.ts';
import type { CanvasProps } from './canvasProps.ts';
import { DropPreview } from './dropPreview.ts';
import { measureForm, type FormBoxes } from './formBoxes.ts';
import { nodeAt } from './spotAt.ts';

/** What was dropped and is not drawn by then was refused, in milliseconds. */
const patience = 4_000;

/** What was dropped is drawn by so many milliseconds after it was done, or was given up. */
const afterwards = 300;

/** How long a place is meant before it is shown, in milliseconds: what is only passed over does not stir the form. */
const settled = 60;

/** The elements of the canvas, once they are there. */
export interface SurfaceElements {
  sheet: RefObject<HTMLDivElement | null>;
  layer: RefObject<HTMLDivElement | null>;
  dropMark: RefObject<HTMLDivElement | null>;
}

/** The form as it is measured, and as it is shown while something is held over it. */
export class DesignSurface {
  private measured: FormBoxes | undefined;
  private preview: DropPreview | undefined;
  private shown = '';
  /** What is shown is the form itself, and not a line on it. */
  private whole = false;
  private waiting: ReturnType<typeof setTimeout> | undefined;
  private meant = '';
  private coming: ReturnType<typeof setTimeout> | undefined;
  private readonly drawn = new Map<string, HTMLElement>();

  constructor(
    private readonly elements: SurfaceElements,
    private readonly current: RefObject<CanvasProps>,
  ) {}

  /** Where everything stands, whatever is shown meanwhile. */
  measure(): FormBoxes | undefined {
    const sheet = this.elements.sheet.current;
    if (sheet && !this.shown) this.measured ??= measureForm(sheet);
    return this.measured;
  }

  /** The form was laid out anew. */
  forget(): void {
    if (!this.shown) this.measured = undefined;
  }

  /** Shows what a place comes to once it is meant for a moment; nothing shows the form as it is. */
  showSoon(place: Place | undefined): void {
    const key = keyOf(place);
    if (key === this.meant) return;
    this.meant = key;
    clearTimeout(this.coming);
    this.coming = setTimeout(() => this.show(place), settled);
  }

  /** Shows what a place comes to. */
  show(place: Place | undefined): void {
    clearTimeout(this.coming);
    const sheet = this.elements.sheet.current;
    const key = keyOf(place);
    if (key === this.shown || !sheet) return;
    this.measure();
    this.clear();
    this.shown = this.meant = key;
    this.preview ??= new DropPreview(sheet, (node) => this.draw(node));
    const { tree } = this.current.current;
    this.whole = place !== undefined && this.preview.show(tree, place.edits, place.full ? say('canvas.rowFull') : undefined);
    this.showSpot(this.whole ? undefined : place);
    const layer = this.elements.layer.current;
    if (place) layer?.setAttribute('data-showing', this.whole ? 'form' : 'line');
    else layer?.removeAttribute('data-showing');
  }

  /** A line where something will stand, for what cannot be shown itself. */
  showSpot(spot: Spot | undefined): void {
    const [mark, sheet] = [this.elements.dropMark.current, this.elements.sheet.current];
    // To ask of a mark that is not shown where it is would have the form laid out.
    if (!mark || !sheet || (!spot && !mark.hasAttribute('data-shown'))) return;
    const box = spot && boxOf(sheet, spot.target);
    mark.toggleAttribute('data-shown', Boolean(box));
    const at = spot && box && line(box, spot.edge, this.current.current.store.form.language.startsWith('ar'));
    moveMark(mark, at, spot?.edge === 'inside' ? 0.35 : 1);
  }

  /** Something was dropped: what is shown stays until the form is drawn with it, for a while at most. */
  settle(until: Promise<unknown>): void {
    if (!this.whole) return this.show(undefined);
    const shown = this.shown;
    const putBack = (after: number) => {
      if (this.shown !== shown) return;
      clearTimeout(this.waiting);
      this.waiting = setTimeout(() => this.show(undefined), after);
    };
    putBack(patience);
    void until.finally(() => putBack(afterwards));
    this.showSpot(undefined);
  }

  /** The form is about to be drawn anew: what is shown is taken back, to the element. */
  beforeDrawing(): void {
    this.clear();
    this.drawn.clear();
    this.measured = undefined;
    this.elements.layer.current?.removeAttribute('data-showing');
  }

  /** What can be taken hold of at a point: an item, a section by its title, a tab by its label, a row by its handle. */
  holdAt(x: number, y: number): string | undefined {
    const { sheet, layer } = this.elements;
    const all = document.elementsFromPoint(x, y);
    const handle = all[0]?.closest('.mark-row');
    if (handle instanceof HTMLElement) return handle.dataset['for'];
    const under = all.find((element) => sheet.current?.contains(element) && !layer.current?.contains(element));
    const held = under?.closest('[data-tab], [data-column], .bt-item, .bt-section-title, .bt-section, .bt-band');
    return held?.matches('.bt-section') ? undefined : nodeAt(under);
  }

  private clear(): void {
    clearTimeout(this.waiting);
    clearTimeout(this.coming);
    this.preview?.undo();
    this.shown = this.meant = '';
  }

  private draw(node: NewNode): HTMLElement | undefined {
    const key = JSON.stringify(node);
    const known = this.drawn.get(key) ?? this.current.current.draw(node);
    // What is not known yet is a moment later.
    if (known) this.drawn.set(key, known);
    return known;
  }
}

const keyOf = (place: Place | undefined) => (place ? `${place.target} ${place.edge} ${JSON.stringify(place.edits)}` : '');
