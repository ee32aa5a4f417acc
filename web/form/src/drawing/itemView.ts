import type { Item, PanelItem } from '../model/types.ts';
import { attribute, make } from '../dom/dom.ts';
import { FieldView } from './FieldView.ts';
import { MarkView } from './MarkView.ts';
import { ghostly } from './nodeLook.ts';
import { PanelView, type Panel } from './PanelView.ts';
import { RelatedView } from './RelatedView.ts';
import { View, type FormContext } from './View.ts';

/** Draws whatever stands in a cell or a bar, its headings at a level. */
export function itemView(drawing: FormContext, item: Item, level: number): View<Item> {
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

/** A panel in a cell keeps its own page. It has no title: what is in it stands at the level it stands at itself. */
class InnerPanelView extends View<PanelItem> {
  readonly element = make('div', { class: 'bt-item bt-panel' });
  private readonly panel: PanelView;
  private current: string | undefined;

  constructor(drawing: FormContext, node: PanelItem, level: number) {
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
