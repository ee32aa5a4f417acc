import { editorOf } from '../editors/editorOf.ts';
import type { Editor } from '../editors/editor.ts';
import type { FormRow, FormRows } from '../state/store.ts';
import { say } from '../model/texts.ts';
import type { Item, RelatedItem } from '../model/types.ts';
import { display, isNumeric } from '../values/values.ts';
import { attribute, make, newId, place, text } from '../dom/dom.ts';
import { ghostly, heading } from './nodeLook.ts';
import { gridKeys, gridPaste, type GridPlace, type PastedCells } from './gridKeys.ts';
import { View, type FormContext } from './View.ts';

/** Records that point at the one in the form, as a grid that is gone about by keys and filled by pasting as a spreadsheet is. */
export class RelatedView extends View<RelatedItem> {
  readonly element = make('div', {
    class: 'bt-item bt-related',
    on: { keydown: (event) => gridKeys(this.place, event), paste: (event) => gridPaste(this.place, event) },
  });
  private readonly id = newId();
  private readonly title: HTMLElement;
  private readonly none = make('p', { class: 'bt-text' });
  private readonly said = make('span', { class: 'bt-visually-hidden', role: 'status' });
  private readonly report = make('p', { class: 'bt-text', role: 'status' });
  private grid: Grid | undefined;
  private built: { item: RelatedItem; locked: boolean; rows: FormRows } | undefined;

  constructor(drawing: FormContext, node: RelatedItem, level: number) {
    super(drawing, node);
    this.title = make(heading(level), { class: 'bt-heading', id: this.id });
    this.show(node);
  }

  override takes(node: Item): boolean {
    return node.kind === 'related';
  }

  show(item: RelatedItem): void {
    this.node = item;
    this.listen(`related:${item.id}`, `node:${item.id}`);
    const { element, store } = this;
    const { language } = store.form;
    const rows = store.relatedOf(item);
    const { locked } = this;
    ghostly(store, element, 'bt-item bt-related', item);
    attribute(element, 'data-node', item.id);
    attribute(element, 'data-as', item.as);
    text(this.title, item.label);
    if (this.built?.item !== item || this.built.locked !== locked || this.built.rows !== rows) {
      this.grid?.dispose();
      this.grid = new Grid(this, rows, locked, this.id);
      this.built = { item, locked, rows };
    }
    this.grid!.show();
    const empty = rows.rows.length === 0 && rows.state === 'here';
    text(this.none, say(language, 'noRows'));
    place(element, [
      this.title,
      ...(rows.state === 'failed'
        ? [
            make(
              'p',
              { class: 'bt-error', role: 'alert' },
              `${say(language, 'rowsFailed')} `,
              make(
                'button',
                { type: 'button', class: 'bt-link', on: { click: () => void rows.load(store.record) } },
                say(language, 'readAgain'),
              ),
            ),
          ]
        : []),
      empty ? this.none : this.grid!.element,
      ...(locked ? [] : [this.adding(language, item.label)]),
      this.said,
      this.report,
    ]);
  }

  /** Says to whoever cannot see it what became of the rows. */
  say(what: string): void {
    this.said.textContent = what;
  }

  get rows(): FormRows {
    return this.store.relatedOf(this.node);
  }

  override dispose(): void {
    super.dispose();
    this.grid?.dispose();
  }

  private readonly more = make('button', { type: 'button', class: 'bt-action bt-add', on: { click: () => this.add() } });

  private adding(language: string, label: string): HTMLElement {
    text(this.more, say(language, 'addRow', label));
    return this.more;
  }

  private get locked(): boolean {
    const { store, node } = this;
    return store.state(node.id).readOnly || store.form.mode === 'view' || store.designing;
  }

  private focus(at: number, field: string): void {
    requestAnimationFrame(() => {
      const row = this.element.querySelectorAll<HTMLElement>('[data-row]')[at];
      const control = [...(row?.querySelectorAll<HTMLElement>('[data-field]') ?? [])]
        .find((cell) => cell.dataset['field'] === field)
        ?.querySelector<HTMLElement>('input, select, textarea');
      control?.focus();
      if (control instanceof HTMLInputElement && control.type === 'text') control.select();
    });
  }

  private add(field = this.node.shows?.[0] ?? ''): void {
    const { rows } = this;
    rows.add();
    this.say(say(this.store.form.language, 'rowNumber', String(rows.rows.length)));
    this.focus(rows.rows.length - 1, field);
  }

  /** Moves a row among the others, and says where it is. */
  move(row: FormRow, to: number): void {
    const { rows } = this;
    rows.move(row, to);
    this.say(say(this.store.form.language, 'rowNumber', String(rows.rows.indexOf(row) + 1)));
  }

  remove(row: FormRow): void {
    const at = this.rows.rows.indexOf(row);
    this.rows.remove(row);
    this.say(say(this.store.form.language, 'rowRemoved', String(at + 1)));
    // Whoever took a row away by keys goes on at the next one, or at the button that makes one.
    const left = this.rows.rows.length;
    if (left > 0) this.focus(Math.min(at, left - 1), this.node.shows?.[0] ?? '');
    else this.more.focus();
  }

  /** This grid, as keys and pasting see it. */
  private get place(): GridPlace {
    const { rows, node, element, locked } = this;
    const {
      form: { language },
      host: { timeZone },
    } = this.store;
    return {
      rows,
      element,
      locked,
      language,
      timeZone,
      shows: (node.shows ?? []).filter((key) => node.fields[key]),
      ordered: node.order !== undefined,
      focus: (at, field) => this.focus(at, field),
      add: (field) => this.add(field),
      move: (row, to) => this.move(row, to),
      remove: (row) => this.remove(row),
      pasted: (report) => this.pasted(report),
    };
  }

  /** Says what pasting did, and offers the way back. */
  private pasted({ filled, unread, takeBack }: PastedCells): void {
    const { language } = this.store.form;
    this.report.replaceChildren(
      say(language, 'pasted', String(filled)),
      ' ',
      ...(unread.length > 0
        ? [
            make(
              'span',
              { class: 'bt-error' },
              say(
                language,
                'notPasted',
                unread
                  .slice(0, 5)
                  .map((each) => `“${each}”`)
                  .join(', ') + (unread.length > 5 ? ' …' : ''),
              ),
            ),
            ' ',
          ]
        : []),
      make(
        'button',
        {
          type: 'button',
          class: 'bt-link',
          on: {
            click: () => {
              takeBack();
              this.report.replaceChildren();
              this.more.focus();
            },
          },
        },
        say(language, 'takeBack'),
      ),
    );
  }
}

/** The rows under their headings, and what they come to. */
class Grid {
  readonly element: HTMLTableElement;
  private readonly body = make('tbody');
  private readonly foot = make('tfoot');
  private drawn = new Map<number, GridRow>();
  private readonly shows: string[];

  constructor(
    private readonly around: RelatedView,
    private readonly rows: FormRows,
    private readonly locked: boolean,
    labelledBy: string,
  ) {
    const item = around.node;
    const { language } = around.store.form;
    this.shows = (item.shows ?? []).filter((key) => item.fields[key]);
    const columns = this.shows.map((key) => make('col', { 'data-type': item.fields[key]!.type }));
    const heads = this.shows.map((key) =>
      make(
        'th',
        { scope: 'col', 'data-number': isNumeric(item.fields[key]!.type) },
        item.fields[key]!.label,
        item.fields[key]!.required && !locked && make('span', { class: 'bt-required', 'aria-hidden': 'true' }, ' *'),
      ),
    );
    this.element = make(
      'table',
      { class: 'bt-grid', 'aria-labelledby': labelledBy },
      make('colgroup', {}, ...columns, !locked && make('col', { class: 'bt-grid-acts', 'data-moves': item.order !== undefined })),
      make(
        'thead',
        {},
        make('tr', {}, ...heads, !locked && make('th', {}, make('span', { class: 'bt-visually-hidden' }, say(language, 'remove')))),
      ),
      this.body,
    );
  }

  show(): void {
    const kept = new Map<number, GridRow>();
    this.rows.rows.forEach((row, i) => {
      const drawn = this.drawn.get(row.key) ?? new GridRow(this.around, row, this.shows, this.locked);
      drawn.show(i, this.rows.rows.length);
      kept.set(row.key, drawn);
    });
    for (const [key, row] of this.drawn) if (!kept.has(key)) row.dispose();
    this.drawn = kept;
    place(
      this.body,
      [...kept.values()].map((row) => row.element),
    );
    this.showTotals();
  }

  dispose(): void {
    for (const row of this.drawn.values()) row.dispose();
  }

  private showTotals(): void {
    const { store, node: item } = this.around;
    const sums = item.totals ?? [];
    if (sums.length === 0 || this.rows.rows.length === 0) return this.foot.remove();
    const {
      form: { language },
      host: { timeZone },
    } = store;
    this.foot.replaceChildren(
      make(
        'tr',
        {},
        ...this.shows.map((key, i) => {
          const sum = sums.includes(key) ? display(item.fields[key]!, this.rows.total(key), language, timeZone) : undefined;
          return i === 0
            ? make('th', { scope: 'row' }, `${say(language, 'total')}${sum ? ` ${sum}` : ''}`)
            : make('td', { 'data-number': isNumeric(item.fields[key]!.type) }, sum);
        }),
        !this.locked && make('td'),
      ),
    );
    if (!this.foot.isConnected || this.foot.parentElement !== this.element) this.element.append(this.foot);
  }
}

/** One row: a form of its own, whose labels are the columns' headings. */
class GridRow {
  readonly element = make('tr');
  private readonly cells: { field: string; show: () => void; dispose: () => void }[] = [];
  private readonly up: HTMLButtonElement;
  private readonly down: HTMLButtonElement;
  private readonly off: HTMLButtonElement;
  private readonly stop: () => void;

  constructor(
    private readonly around: RelatedView,
    private readonly row: FormRow,
    shows: string[],
    locked: boolean,
  ) {
    const act = (sign: string, run: () => void) => make('button', { type: 'button', class: 'bt-clear', on: { click: run } }, sign);
    const at = () => around.rows.rows.indexOf(row);
    this.up = act('↑', () => around.move(row, at() - 1));
    this.down = act('↓', () => around.move(row, at() + 1));
    this.off = act('×', () => around.remove(row));
    for (const field of shows) this.element.append(this.cell(field, locked));
    if (!locked) this.element.append(make('td', { class: 'bt-grid-acts' }, ...(around.node.order ? [this.up, this.down] : []), this.off));
    this.stop = row.store.watch((keys) => {
      for (const cell of this.cells) if (!keys || keys.includes(`field:${cell.field}`)) cell.show();
    });
  }

  show(at: number, of: number): void {
    const { language } = this.around.store.form;
    attribute(this.element, 'data-row', this.row.id ?? 'new');
    attribute(this.element, 'aria-label', say(language, 'rowNumber', String(at + 1)));
    attribute(this.up, 'aria-label', say(language, 'rowUp', String(at + 1)));
    attribute(this.down, 'aria-label', say(language, 'rowDown', String(at + 1)));
    attribute(this.off, 'aria-label', say(language, 'removeRow', String(at + 1)));
    this.up.disabled = at === 0;
    this.down.disabled = at === of - 1;
  }

  dispose(): void {
    this.stop();
    for (const cell of this.cells) cell.dispose();
  }

  private cell(field: string, locked: boolean): HTMLElement {
    const { store } = this.row;
    const type = this.around.node.fields[field]!;
    const id = newId();
    const editor: Editor = editorOf(
      { store, item: store.fieldItem(field)!, type, id, labelId: `${id}-label`, change: (value) => store.set(field, value) },
      locked,
    );
    const error = make('p', { class: 'bt-error', id: `${id}-error` });
    const cell = make(
      'td',
      { 'data-field': field, 'data-label': type.label, 'data-number': isNumeric(type.type), on: { focusout: () => store.leave(field) } },
      make('label', { class: 'bt-visually-hidden', id: `${id}-label`, for: locked ? undefined : id }, type.label),
      editor.element,
    );
    const show = () => {
      const problem = store.error(field);
      attribute(cell, 'data-error', problem !== undefined);
      text(error, problem ?? '');
      if (problem === undefined) error.remove();
      else if (!error.isConnected) cell.append(error);
      editor.show({
        value: store.get(field),
        required: type.required === true,
        invalid: problem !== undefined,
        describedBy: problem === undefined ? undefined : `${id}-error`,
      });
    };
    show();
    this.cells.push({ field, show, dispose: () => editor.dispose?.() });
    return cell;
  }
}
