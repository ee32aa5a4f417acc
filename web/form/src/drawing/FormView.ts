import type { Item } from '../model/types.ts';
import type { FormStore } from '../state/store.ts';
import { isRightToLeft } from '../model/texts.ts';
import { themed } from '../model/theme.ts';
import { attribute, make } from '../dom/dom.ts';
import { ContentView } from './ContentView.ts';
import { itemView } from './itemView.ts';
import type { FormContext, Updatable, View } from './View.ts';

/**
 * Which page is shown where pages are tabs, steps or folds, and what happens when another is chosen; without these the form keeps its own.
 */
export interface PageOptions {
  page?: string | undefined;
  onPage?: ((id: string) => void) | undefined;
}

/**
 * A resolved form drawn over a store: plain elements, each made once. Everything drawn carries the id of its node in data-node. What is
 * told of a change draws itself again, and nothing else does; another version of the form keeps the elements of what is the same in it.
 */
export class FormView implements FormContext {
  readonly element = make('div', { class: 'bt-form' });
  /** Set while everything is drawn again. */
  anew = false;
  /** Fields that are drawn and have no editor yet, by their elements. */
  readonly asleep = new Map<Element, { wake: () => void }>();
  private readonly listening = new Map<string, Updatable[]>();
  private content: ContentView;
  private stop: () => void;
  private observer: ResizeObserver | undefined;
  private own: string | undefined;

  constructor(
    public store: FormStore,
    private paging: PageOptions = {},
  ) {
    this.frame();
    // What is only drawn takes nothing in: its editor is made when it is first touched. Not every browser gives a pressed button the focus.
    for (const type of ['focusin', 'input', 'change', 'click'] as const)
      this.element.addEventListener(type, (event) => this.wake(event.target), true);
    this.content = new ContentView(this);
    this.element.append(this.content.element);
    this.stop = store.watch((keys) => this.take(keys));
    this.observeWidth();
  }

  /** The page that is asked for. */
  get page(): string | undefined {
    return this.paging.page ?? this.own;
  }

  /** Shows another page. */
  choose(id: string): void {
    if (this.paging.onPage) this.paging.onPage(id);
    else {
      this.own = id;
      this.content.update();
    }
  }

  /** Draws another store's form in the place of this one: what is the same in both keeps its elements. */
  use(store: FormStore, paging: PageOptions = {}): void {
    const other = store !== this.store;
    const calm = other && store.differsInNodesOnly(this.store);
    const turned = paging.page !== this.paging.page;
    this.paging = paging;
    if (other) {
      this.stop();
      this.store = store;
      this.stop = store.watch((keys) => this.take(keys));
      this.observeWidth();
      this.showAll(!calm);
    } else if (turned) this.content.update();
  }

  /** Draws something again whenever one of these keys is told of. */
  listen(keys: readonly string[], drawn: Updatable): void {
    for (const key of keys) {
      const told = this.listening.get(key);
      if (told) told.push(drawn);
      else this.listening.set(key, [drawn]);
    }
  }

  item(item: Item, level: number): View<Item> {
    return itemView(this, item, level);
  }

  unlisten(keys: readonly string[], drawn: Updatable): void {
    for (const key of keys) {
      const told = this.listening.get(key)!;
      if (told.length === 1) this.listening.delete(key);
      else told.splice(told.indexOf(drawn), 1);
    }
  }

  dispose(): void {
    this.stop();
    this.observer?.disconnect();
    this.content.dispose();
  }

  /** Makes the editor of the field an element belongs to. */
  private wake(target: EventTarget | null): void {
    const line = target instanceof Element ? target.closest('.bt-field') : null;
    if (line) this.asleep.get(line)?.wake();
  }

  private take(keys: readonly string[] | undefined): void {
    if (keys === undefined) return this.showAll();
    const told = new Set<Updatable>();
    for (const key of keys) for (const drawn of this.listening.get(key) ?? []) told.add(drawn);
    this.keepingFocus(() => {
      for (const drawn of told) drawn.update();
    });
  }

  private showAll(anew = true): void {
    this.anew = anew;
    this.keepingFocus(() => {
      this.frame();
      this.content.update();
    });
    this.anew = false;
  }

  private frame(): void {
    const { form } = this.store;
    for (const [name, value] of Object.entries({
      'data-width': form.width,
      'data-density': form.density,
      'data-mode': form.mode,
      dir: isRightToLeft(form.language) ? 'rtl' : 'ltr',
      lang: form.language,
    }))
      attribute(this.element, name, value);
    themed(this.element, form.theme);
  }

  /** The width of the form's own container decides, not that of the window. */
  private observeWidth(): void {
    this.observer?.disconnect();
    this.observer = undefined;
    if (!this.store.form.variants || typeof ResizeObserver === 'undefined') return;
    this.observer = new ResizeObserver(([entry]) => {
      if (entry) this.store.setWidth(entry.contentRect.width / parseFloat(getComputedStyle(document.documentElement).fontSize));
    });
    this.observer.observe(this.element);
  }

  /** Where somebody types stays where she types, though its elements be made anew or moved. */
  private keepingFocus(draw: () => void): void {
    const root = this.element.getRootNode() as Document | ShadowRoot;
    const active = root.activeElement;
    const held = active instanceof HTMLElement && this.element.contains(active) ? active : undefined;
    const field = held?.closest<HTMLElement>('[data-field]')?.dataset['field'];
    const within = held?.closest<HTMLElement>('[data-field]');
    const at = held && within ? [...within.querySelectorAll('input, select, textarea, button, a')].indexOf(held) : -1;
    const [from, to] =
      held instanceof HTMLInputElement || held instanceof HTMLTextAreaElement ? [held.selectionStart, held.selectionEnd] : [null, null];
    draw();
    if (!held || root.activeElement === held) return;
    const again = held.isConnected
      ? held
      : field === undefined
        ? undefined
        : this.element
            .querySelector(`[data-field="${CSS.escape(field)}"]`)
            ?.querySelectorAll<HTMLElement>('input, select, textarea, button, a')[Math.max(0, at)];
    again?.focus({ preventScroll: true });
    if (from !== null && (again instanceof HTMLInputElement || again instanceof HTMLTextAreaElement)) again.setSelectionRange(from, to);
  }
}
