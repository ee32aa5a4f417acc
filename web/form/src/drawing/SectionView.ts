import { itemsIn } from '../model/content.ts';
import type { Cell, Item, Row, Section } from '../model/types.ts';
import { attribute, make, newId, place, text } from '../dom/dom.ts';
import { ghostly, heading, seen, styled } from './nodeLook.ts';
import { downColumns } from './tabOrder.ts';
import { Children, View, type FormContext } from './View.ts';

/** A section: its title, what it is about, and its rows; folded where it can be. */
export class SectionView extends View<Section> {
  readonly element: HTMLElement;
  private readonly id = newId();
  private readonly title: HTMLElement;
  private readonly words: HTMLElement;
  private readonly about = make('p', { class: 'bt-section-about' });
  private readonly body = make('div', { class: 'bt-rows' });
  private readonly rows: Children<Row>;

  constructor(drawing: FormContext, node: Section, level: number) {
    super(drawing, node);
    this.element = make(node.collapsible ? 'details' : 'section', {
      on: {
        keydown: (event) => {
          if (this.node.tabOrder === 'columns') downColumns(event, this.body);
        },
      },
    });
    this.words = make(heading(level), node.collapsible ? { class: 'bt-fold-heading' } : { class: 'bt-section-title', id: this.id });
    this.title = node.collapsible ? make('summary', { class: 'bt-section-title' }, this.words) : this.words;
    if (this.element instanceof HTMLDetailsElement) this.element.open = !node.collapsed;
    this.rows = new Children(drawing, (row) => new RowView(drawing, row, this.node.title ? level + 1 : level));
    this.show(node);
  }

  override takes(node: Section): boolean {
    return node.collapsible === this.node.collapsible && (node.title === undefined) === (this.node.title === undefined);
  }

  show(section: Section): void {
    this.listen(`node:${section.id}`);
    const { element, store } = this;
    ghostly(store, element, 'bt-section', section);
    for (const [name, value] of Object.entries({
      'data-node': section.id,
      'data-frame': section.frame,
      'data-labels': section.labels,
      'data-align': section.labelAlign,
      'data-tint': section.tint,
      'data-gap': section.gap,
      'data-above': section.above,
      'aria-labelledby': section.title && !section.collapsible ? this.id : undefined,
    }))
      attribute(element, name, value);
    styled(store, element, section.style);
    const width = section.labelWidth ?? (section.labels === 'beside' ? longestLabel(section) : undefined);
    if (width !== undefined) element.style.setProperty('--bt-label-width', `${width}ch`);
    else element.style.removeProperty('--bt-label-width');
    attribute(this.body, 'data-tab-order', section.tabOrder);
    text(this.words, section.title ?? '');
    text(this.about, section.description ?? '');
    place(element, [
      ...(section.title || section.collapsible ? [this.title] : []),
      ...(section.description ? [this.about] : []),
      this.body,
    ]);
    this.rows.into(
      this.body,
      section.rows.filter((row) => store.state(row.id).visible),
    );
  }

  override dispose(): void {
    super.dispose();
    this.rows.dispose();
  }
}

/** Characters that a column of labels needs for its longest, within reason. */
function longestLabel(section: Section): number {
  let longest = 6;
  for (const item of itemsIn([section])) if (item.kind === 'field') longest = Math.max(longest, item.label.length);
  return Math.min(26, longest + 1);
}

/** Cells that are shown share the row: a hidden one leaves no hole. */
class RowView extends View<Row> {
  readonly element = make('div', { class: 'bt-row' });
  private readonly cells: Children<Cell>;

  constructor(drawing: FormContext, node: Row, level: number) {
    super(drawing, node);
    this.cells = new Children(drawing, (cell) => new CellView(drawing, cell, level));
    this.show(node);
  }

  show(row: Row): void {
    this.listen(`node:${row.id}`);
    attribute(this.element, 'data-node', row.id);
    const shown = row.cells.filter((cell) => this.store.state(cell.id).visible);
    const elements = this.cells.of(shown);
    share(shown).forEach((span, i) => {
      const column = `span ${span}`;
      // So few that editors fold away what they can do without.
      if (span <= few) elements[i]!.dataset['few'] = `${span}`;
      else delete elements[i]!.dataset['few'];
      if (elements[i]!.style.gridColumn !== column) elements[i]!.style.gridColumn = column;
    });
    place(this.element, elements);
  }

  override dispose(): void {
    super.dispose();
    this.cells.dispose();
  }
}

/** At most so many units are few. */
const few = 2;

/** The units each cell takes: written spans stand, the others share what is left, the first ones taking what does not divide. */
export function share(cells: { span: number; shares?: boolean }[]): number[] {
  const sharing = cells.filter((cell) => cell.shares).length;
  const left = Math.max(12 - cells.reduce((sum, cell) => sum + (cell.shares ? 0 : cell.span), 0), sharing);
  let seen = 0;
  return cells.map((cell) => (cell.shares ? Math.floor(left / sharing) + (seen++ < left % sharing ? 1 : 0) : cell.span));
}

class CellView extends View<Cell> {
  readonly element = make('div', { class: 'bt-cell' });
  private readonly items: Children<Item>;

  constructor(drawing: FormContext, node: Cell, level: number) {
    super(drawing, node);
    this.items = new Children(drawing, (item) => drawing.item(item, level));
    this.show(node);
  }

  show(cell: Cell): void {
    this.listen(`node:${cell.id}`, ...cell.items.map((item) => `node:${item.id}`));
    if (this.element.dataset['node'] !== cell.id) this.element.dataset['node'] = cell.id;
    if (cell.align || this.node.align) attribute(this.element, 'data-align', cell.align);
    this.items.into(
      this.element,
      cell.items.filter((item) => seen(this.store, item)),
    );
  }

  override dispose(): void {
    super.dispose();
    this.items.dispose();
  }
}
