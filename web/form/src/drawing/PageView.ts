import type { Page, Section } from '../model/types.ts';
import { attribute, make, place, text } from '../dom/dom.ts';
import { heading } from './nodeLook.ts';
import { SectionView } from './SectionView.ts';
import { Children, View, type FormContext } from './View.ts';

/** A page's sections, under its title where it has to say it itself. */
export class PageView extends View<Page> {
  readonly element = make('div');
  private readonly title: HTMLHeadingElement;
  private readonly sections: Children<Section>;

  constructor(
    drawing: FormContext,
    node: Page,
    level: number,
    private readonly headed: () => boolean,
  ) {
    super(drawing, node);
    this.title = make(heading(level), { class: 'bt-page-title' });
    this.sections = new Children(drawing, (section) => new SectionView(drawing, section, headed() && this.node.title ? level + 1 : level));
    this.show(node);
  }

  show(page: Page): void {
    this.listen(`node:${page.id}`);
    attribute(this.element, 'class', page.ghost ? 'bt-page bt-ghost' : 'bt-page');
    attribute(this.element, 'data-node', page.id);
    const titled = this.headed() && page.title !== '';
    text(this.title, page.title);
    place(this.element, [
      ...(titled ? [this.title] : []),
      ...this.sections.of(page.sections.filter((section) => this.store.state(section.id).visible)),
    ]);
  }

  override dispose(): void {
    super.dispose();
    this.sections.dispose();
  }
}
