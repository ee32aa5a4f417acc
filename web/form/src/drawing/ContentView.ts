import type { Band, Side } from '../model/types.ts';
import { BandView } from './BandView.ts';
import { make, place } from '../dom/dom.ts';
import { PanelView } from './PanelView.ts';
import { SectionView } from './SectionView.ts';
import { Children, View, type FormContext } from './View.ts';

/** Headings of the form begin a level below the page's own. */
const firstLevel = 2;

/** A form's top, its body with what stands beside it, and its bottom. */
export class ContentView extends View {
  readonly element = make('div', { class: 'bt-measure' });
  private readonly top: Children<Band>;
  private readonly bottom: Children<Band>;
  private readonly start: Children<Side>;
  private readonly end: Children<Side>;
  private readonly body: PanelView;
  private readonly sides = make('div', { class: 'bt-sides' });
  private readonly between = make('div', { class: 'bt-between' });

  constructor(drawing: FormContext) {
    super(drawing, { id: '' });
    this.top = new Children(drawing, (band) => new BandView(drawing, band, 'top'));
    this.bottom = new Children(drawing, (band) => new BandView(drawing, band, 'bottom'));
    this.start = new Children(drawing, (side) => new SideView(drawing, side));
    this.end = new Children(drawing, (side) => new SideView(drawing, side));
    this.body = new PanelView(drawing, this.panel(), firstLevel, { page: () => drawing.page, choose: (id) => drawing.choose(id) });
    this.place();
  }

  show(): void {
    this.body.show(this.panel());
    this.place();
  }

  override dispose(): void {
    super.dispose();
    for (const each of [this.top, this.bottom, this.start, this.end, this.body]) each.dispose();
  }

  private panel() {
    const { arrangement, guarded, pages } = this.store.content;
    return { id: '', arrangement, guarded: guarded === true, pages };
  }

  private place(): void {
    const { top, bottom, start, end } = this.store.content;
    this.listen('content', ...[start, end].flatMap((side) => (side ? [`node:${side.id}`] : [])));
    const shown = (side: Side | undefined) => (side && this.store.state(side.id).visible ? [side] : []);
    const [before, after] = [this.start.of(shown(start)), this.end.of(shown(end))];
    if (start || end) {
      place(this.between, [this.body.element]);
      place(this.sides, [...before, this.between, ...after]);
    }
    place(this.element, [
      ...this.top.of(top ? [top] : []),
      start || end ? this.sides : this.body.element,
      ...this.bottom.of(bottom ? [bottom] : []),
    ]);
  }
}

class SideView extends View<Side> {
  readonly element = make('aside', { class: 'bt-side' });
  private readonly sections: Children<Side['sections'][number]>;

  constructor(drawing: FormContext, node: Side) {
    super(drawing, node);
    this.sections = new Children(drawing, (section) => new SectionView(drawing, section, firstLevel));
    this.show(node);
  }

  show(side: Side): void {
    this.listen(`node:${side.id}`);
    this.element.dataset['node'] = side.id;
    this.element.style.flexBasis = `${(side.share / 12) * 100}%`;
    this.sections.into(
      this.element,
      side.sections.filter((section) => this.store.state(section.id).visible),
    );
  }

  override dispose(): void {
    super.dispose();
    this.sections.dispose();
  }
}
