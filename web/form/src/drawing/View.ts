import type { Item } from '../model/types.ts';
import type { FormStore } from '../state/store.ts';
import { place } from '../dom/dom.ts';

const none: readonly string[] = [];

/** Something that is drawn again when it is told to. */
export interface Updatable {
  update: () => void;
}

/** The form a node is drawn in, as the views of its nodes know it; FormView is it. */
export interface FormContext {
  readonly store: FormStore;
  /** Set while everything is drawn again. */
  readonly anew: boolean;
  /** Fields that are drawn and have no editor yet, by their elements. */
  readonly asleep: Map<Element, { wake: () => void }>;
  /** The page that is asked for. */
  readonly page: string | undefined;
  /** Shows another page. */
  choose: (id: string) => void;
  /** Draws something again whenever one of these keys is told of. */
  listen: (keys: readonly string[], drawn: Updatable) => void;
  unlisten: (keys: readonly string[], drawn: Updatable) => void;
  /**
   * Draws whatever stands in a cell or a bar, its headings at a level. Panels hold pages, and those items again: the form alone knows all
   * of them.
   */
  item: (item: Item, level: number) => View<Item>;
}

/** One node of a form as it is drawn: its element, which stays while the node does, and how it takes up a change. */
export abstract class View<N extends { id: string } = { id: string }> {
  abstract readonly element: HTMLElement;
  private heard: readonly string[] = none;

  constructor(
    readonly drawing: FormContext,
    public node: N,
  ) {}

  get store(): FormStore {
    return this.drawing.store;
  }

  /** Draws the node as it is now: another version of it, or the same one after something has changed. */
  abstract show(node: N): void;

  /** Whether this view can show another version of its node; where not, a new one is made. */
  takes(node: N): boolean {
    return node.id === this.node.id;
  }

  update(): void {
    this.show(this.node);
  }

  /** Draws the node again whenever one of these is told of, and of nothing said before; see FormStore.notify. */
  protected listen(...keys: string[]): void {
    const { heard } = this;
    if (heard.length === keys.length && keys.every((key, i) => key === heard[i])) return;
    this.drawing.unlisten(heard, this);
    this.heard = keys;
    this.drawing.listen(keys, this);
  }

  dispose(): void {
    this.drawing.unlisten(this.heard, this);
  }
}

/** The views of what a node holds, each kept as long as what it shows is there. */
export class Children<N extends { id: string }> {
  private views: View<N>[] = [];

  constructor(
    private readonly drawing: FormContext,
    private readonly make: (node: N) => View<N>,
  ) {}

  /**
   * The elements of these nodes, in their order. A view is drawn again where its node is another object, or where everything may have
   * changed.
   */
  of(nodes: readonly N[]): HTMLElement[] {
    const before = this.views;
    if (before.length === 0) return this.begin(nodes);
    const kept: View<N>[] = [];
    for (const node of nodes) {
      let view = this.get(node.id);
      if (view && !view.takes(node)) view = undefined;
      if (!view) view = this.make(node);
      else if (this.drawing.anew || view.node !== node) {
        view.show(node);
        view.node = node;
      }
      kept.push(view);
    }
    for (const view of before) if (!kept.includes(view)) view.dispose();
    this.views = kept;
    return kept.map((view) => view.element);
  }

  private begin(nodes: readonly N[]): HTMLElement[] {
    const elements: HTMLElement[] = [];
    for (const node of nodes) {
      const view = this.make(node);
      this.views.push(view);
      elements.push(view.element);
    }
    return elements;
  }

  /** Has an element hold these nodes and nothing else. */
  into(parent: Element, nodes: readonly N[]): void {
    place(parent, this.of(nodes));
  }

  get(id: string): View<N> | undefined {
    return this.views.find((view) => view.node.id === id);
  }

  dispose(): void {
    for (const view of this.views) view.dispose();
    this.views = [];
  }
}
