import type { FormStore } from '../store.ts';
import type { Item, PanelItem } from '../types.ts';
import { attribute, make } from './dom.ts';
import type { FormDrawing } from './FormDrawing.ts';
import { FieldView } from './FieldView.ts';
import { MarkView } from './MarkView.ts';
import { PanelView, type Panel } from './PanelView.ts';
import { RelatedView } from './RelatedView.ts';
import { View } from './View.ts';

/** Draws whatever stands in a cell or a bar, its headings at a level. */
export function itemView(drawing: FormDrawing, item: Item, level: number): View<Item> {
  switch (item.kind) {
    case 'field':
      return new FieldView(drawing, item) as View<Item>;
    case 'panel':
      return new InnerPanelView(drawing, item, level) as View<Item>;
    case 'related':
      return new RelatedView(drawing, item, level) as View<Item>;
    default:
      return new MarkView(drawing, item, level) as View<Item>;
  }
}

/** Whether an item is drawn: its condition holds, and its field is known. */
export const seen = (store: FormStore, item: Item) => store.state(item.id).visible && (item.kind !== 'field' || store.form.fields[item.field] !== undefined);

/** A panel in a cell keeps its own page. It has no title: what is in it stands at the level it stands at itself. */
class InnerPanelView extends View<PanelItem> {
  readonly element = make('div', { class: 'bt-item bt-panel' });
  private readonly panel: PanelView;
  private current: string | undefined;

  constructor(drawing: FormDrawing, node: PanelItem, level: number) {
    super(drawing, node);
    this.panel = new PanelView(drawing, panelOf(node), level, {
      page: () => this.current,
      choose: (id) => {
        this.current = id;
        this.panel.update();
      },
    });
    this.element.append(this.panel.element);
    this.show(node);
  }

  override takes(node: Item): boolean {
    return node.kind === 'panel';
  }

  show(item: PanelItem): void {
    ghostly(this.store, this.element, 'bt-item bt-panel', item);
    attribute(this.element, 'data-node', item.id);
    if (this.drawing.anew || item !== this.node) this.panel.show(panelOf(item));
  }

  override dispose(): void {
    super.dispose();
    this.panel.dispose();
  }
}

const panelOf = ({ id, arrangement, guarded, pages }: PanelItem): Panel => ({ id, arrangement, guarded: guarded === true, pages });

/** Gives an element its class; while designing, what users would not see is drawn faintly, with the reason. */
export function ghostly(store: FormStore, element: HTMLElement, name: string, node: { id: string; ghost?: string }): void {
  const why = node.ghost ?? (store.designing && store.isHiddenByValues(node.id) ? 'Hidden for this record' : undefined);
  attribute(element, 'class', why ? `${name} bt-ghost` : name);
  attribute(element, 'title', why);
}

/** A colour that a style names without the other is meant for paper in daylight: at night it is drawn towards the theme's own, so that both can be read together. */
const alone = (colour: string, theme: string, share: number) => `light-dark(${colour}, color-mix(in srgb, ${colour} ${share}%, var(${theme})))`;

/** Gives an element the colours of a named style. */
export function styled(store: FormStore, element: HTMLElement, name: string | undefined): void {
  const { ink, paper, strong } = (name ? store.form.styles?.[name] : undefined) ?? {};
  const wanted = { color: ink ? (paper ? ink : alone(ink, '--ink', 30)) : '', background: paper ? (ink ? paper : alone(paper, '--paper', 20)) : '', fontWeight: strong ? '640' : '' };
  if (!name && element.style.length === 0) return;
  Object.assign(element.style, wanted);
}
