import { pageOf } from '../model/content.ts';
import { say } from '../model/texts.ts';
import type { Arrangement, Page } from '../model/types.ts';
import { attribute, icon, make, newId, place, text } from '../dom/dom.ts';
import { PageView } from './PageView.ts';
import { Children, View, type FormContext } from './View.ts';

/** Pages and how they are arranged: the body, or a panel in a cell. */
export interface Panel {
  id: string;
  arrangement: Arrangement;
  guarded: boolean;
  pages: Page[];
}

/** Which of a panel's pages is shown, and how another is chosen. */
export interface PageSwitch {
  page: () => string | undefined;
  choose: (id: string) => void;
}

/** Pages in one of the four arrangements. */
export class PanelView extends View<Panel> {
  readonly element = make('div', { class: 'bt-body' });
  private readonly pages: Children<Page>;
  private readonly folds: Children<Page>;
  private readonly heads: Children<Page>;
  private readonly prefix = newId();
  private headed = false;
  private shown: Page[] = [];
  private active: Page | undefined;
  private readonly list = make('div', { class: 'bt-tabs', role: 'tablist' });
  private readonly tabPanel = make('div', { role: 'tabpanel', id: `${this.prefix}-panel` });
  private readonly steps = make('ol', { class: 'bt-steps' });
  private readonly back = make('button', { type: 'button', class: 'bt-action', on: { click: () => this.step(-1) } });
  private readonly next = make('button', { type: 'button', class: 'bt-action', 'data-weight': 'main', on: { click: () => this.step(1) } });
  private readonly count = make('span', { class: 'bt-help' });
  private readonly bar = make('div', { class: 'bt-bar' }, this.back, this.count, this.next);

  constructor(
    drawing: FormContext,
    node: Panel,
    level: number,
    private readonly turning: PageSwitch,
  ) {
    super(drawing, node);
    this.pages = new Children(drawing, (page) => new PageView(drawing, page, level, () => this.headed));
    this.folds = new Children(drawing, (page) => new FoldView(drawing, page, level, (id) => id === this.active?.id, turning));
    this.heads = new Children(drawing, (page) =>
      this.node.arrangement === 'tabs'
        ? new TabView(
            drawing,
            page,
            this.prefix,
            (id) => id === this.active?.id,
            turning,
            (from, step) => this.turnTab(from, step),
          )
        : new StepView(
            drawing,
            page,
            (id) => ({ current: id === this.active?.id, number: this.shown.findIndex((each) => each.id === id) + 1 }),
            (id) => this.goTo(this.shown.findIndex((each) => each.id === id)),
          ),
    );
    this.show(node);
  }

  show(panel: Panel): void {
    this.listen('content', ...panel.pages.map((page) => `node:${page.id}`));
    const { element } = this;
    if (panel.arrangement !== this.node.arrangement) for (const each of [this.pages, this.folds, this.heads]) each.dispose();
    this.node = panel;
    const chosen = this.turning.page();
    this.shown = panel.pages.filter((page) => this.store.state(page.id).visible);
    this.active = this.shown.find((page) => page.id === chosen) ?? this.shown[0];
    const arrangement = this.shown.length === 0 ? 'stack' : panel.arrangement;
    attribute(element, 'data-arrangement', arrangement);
    this.headed = this.shown.length > 1 && arrangement === 'stack';
    // Which page is shown is seen at every head, the same ones though they be.
    const mark = (heads: Children<Page>) => {
      for (const page of this.shown) heads.get(page.id)?.update();
    };
    if (arrangement === 'stack') this.pages.into(element, this.shown);
    else if (arrangement === 'accordion') {
      this.folds.into(element, this.shown);
      mark(this.folds);
    } else if (arrangement === 'tabs') {
      this.heads.into(this.list, this.shown);
      mark(this.heads);
      attribute(this.tabPanel, 'aria-labelledby', `${this.prefix}-${this.active!.id}`);
      this.pages.into(this.tabPanel, [this.active!]);
      place(element, [this.list, this.tabPanel]);
    } else {
      const { language } = this.store.form;
      const at = this.shown.indexOf(this.active!);
      this.heads.into(this.steps, this.shown);
      mark(this.heads);
      text(this.back, say(language, 'back'));
      text(this.next, say(language, 'next'));
      text(this.count, say(language, 'step', String(at + 1), String(this.shown.length)));
      this.back.disabled = at === 0;
      this.next.disabled = at === this.shown.length - 1;
      place(element, [this.steps, ...this.pages.of([this.active!]), this.bar]);
    }
  }

  override dispose(): void {
    super.dispose();
    for (const each of [this.pages, this.folds, this.heads]) each.dispose();
  }

  private step(by: number): void {
    this.goTo(this.shown.indexOf(this.active!) + by);
  }

  /** Steps are free or guarded: those let on only when what lies before is right. */
  private goTo(to: number): void {
    const at = this.shown.indexOf(this.active!);
    const { store } = this;
    if (this.node.guarded && store.form.mode !== 'view' && to > at && !this.shown.slice(at, to).every((page) => store.validatePage(page)))
      return;
    this.turning.choose(this.shown[to]!.id);
  }

  private turnTab(from: string, step: number): void {
    const at = this.shown.findIndex((page) => page.id === from);
    const next = this.shown[(at + step + this.shown.length) % this.shown.length]!;
    this.turning.choose(next.id);
    this.heads.get(next.id)?.element.focus();
  }
}

/** A tab, with a mark while something on its page stands against saving: the tabs pattern of the ARIA practices. */
class TabView extends View<Page> {
  readonly element: HTMLButtonElement;
  private readonly alert = make('span', { class: 'bt-tab-alert' }, '!');

  constructor(
    drawing: FormContext,
    node: Page,
    private readonly prefix: string,
    private readonly isActive: (id: string) => boolean,
    turning: PageSwitch,
    turn: (from: string, step: number) => void,
  ) {
    super(drawing, node);
    this.element = make('button', {
      type: 'button',
      role: 'tab',
      class: 'bt-tab',
      on: {
        click: () => turning.choose(this.node.id),
        keydown: (event) => {
          const rtl = getComputedStyle(this.element).direction === 'rtl';
          if (event.key === 'ArrowRight') turn(this.node.id, rtl ? -1 : 1);
          if (event.key === 'ArrowLeft') turn(this.node.id, rtl ? 1 : -1);
        },
      },
    });
    this.show(node);
    this.listen('values');
  }

  show(page: Page): void {
    const active = this.isActive(page.id);
    for (const [name, value] of Object.entries({
      id: `${this.prefix}-${page.id}`,
      'data-tab': page.id,
      'aria-selected': String(active),
      'aria-controls': `${this.prefix}-panel`,
      tabindex: active ? 0 : -1,
    }))
      attribute(this.element, name, value);
    const alerted = this.store.problems().some((problem) => problem.id && pageOf([page], problem.id));
    attribute(this.alert, 'aria-label', say(this.store.form.language, 'attention'));
    this.element.replaceChildren(...[icon(page.icon) ?? []].flat(), page.title || '\u00a0', ...(alerted ? [this.alert] : []));
  }
}

/** A heading of a step, which one can click. */
class StepView extends View<Page> {
  readonly element = make('li');
  private readonly button: HTMLButtonElement;

  constructor(
    drawing: FormContext,
    node: Page,
    private readonly where: (id: string) => { current: boolean; number: number },
    go: (id: string) => void,
  ) {
    super(drawing, node);
    this.button = make('button', { type: 'button', class: 'bt-step', on: { click: () => go(this.node.id) } });
    this.element.append(this.button);
    this.show(node);
  }

  show(page: Page): void {
    const { current, number } = this.where(page.id);
    attribute(this.button, 'data-tab', page.id);
    attribute(this.button, 'aria-current', current ? 'step' : undefined);
    this.button.replaceChildren(make('span', { class: 'bt-step-number' }, String(number)), ...[icon(page.icon) ?? []].flat(), page.title);
  }
}

/** A page folded under its title; one is open at a time. */
class FoldView extends View<Page> {
  readonly element = make('details', { class: 'bt-fold' });
  private readonly title: HTMLElement;
  private readonly page: Children<Page>;

  constructor(
    drawing: FormContext,
    node: Page,
    level: number,
    private readonly isOpen: (id: string) => boolean,
    turning: PageSwitch,
  ) {
    super(drawing, node);
    this.title = make('summary', {
      class: 'bt-fold-title',
      on: {
        click: (event) => {
          event.preventDefault();
          turning.choose(this.node.id);
        },
      },
    });
    this.page = new Children(drawing, (page) => new PageView(drawing, page, level, () => false));
    this.show(node);
  }

  show(page: Page): void {
    const open = this.isOpen(page.id);
    attribute(this.element, 'data-tab', page.id);
    this.element.open = open;
    this.title.replaceChildren(...[icon(page.icon) ?? []].flat(), page.title);
    place(this.element, [this.title, ...this.page.of(open ? [page] : [])]);
  }

  override dispose(): void {
    super.dispose();
    this.page.dispose();
  }
}
