import type { ActionItem, Band, Item } from '../model/types.ts';
import { display, fill, isEmpty } from '../values/values.ts';
import { attribute, icon, make, place } from '../dom/dom.ts';
import { seen } from './nodeLook.ts';
import { Children, View, type FormContext } from './View.ts';

/** A band's text follows what is typed; while none of its values are there it says what it says of an empty record. */
export class BandView extends View<Band> {
  readonly element = make('div', { class: 'bt-band' });
  private readonly words: HTMLElement;
  private readonly said = document.createTextNode('');
  private readonly picture = make('img', { class: 'bt-band-picture', alt: '' });
  private readonly bar = make('div', { class: 'bt-bar' });
  private readonly gap = make('span', { class: 'bt-bar-gap' });
  private readonly start: Children<Item>;
  private readonly end: Children<Item>;

  constructor(
    drawing: FormContext,
    node: Band,
    private readonly at: 'top' | 'bottom',
  ) {
    super(drawing, node);
    this.words = make(at === 'top' ? 'h1' : 'p', { class: 'bt-band-text' });
    this.start = new Children(drawing, (item) => drawing.item(item, 2));
    this.end = new Children(drawing, (item) => drawing.item(item, 2));
    this.show(node);
  }

  show(band: Band): void {
    this.listen('values', ...(band.items ?? []).map((item) => `node:${item.id}`));
    const { store, element } = this;
    for (const [name, value] of Object.entries({ 'data-node': band.id, 'data-place': this.at, 'data-tone': band.tone }))
      attribute(element, name, value);
    const text = this.text(band) || '\u00a0';
    if (this.said.data !== text) this.said.data = text;
    if (this.words.firstChild === null || this.node !== band) place(this.words, [...[icon(band.icon) ?? []].flat(), this.said]);
    const picture = band.picture ? store.get(band.picture) : null;
    const pictured = typeof picture === 'string' && picture !== '';
    if (pictured) attribute(this.picture, 'src', store.host.fileAddress(picture));
    const [start, end] = [this.side(this.start, band.items ?? [], 'start'), this.side(this.end, band.items ?? [], 'end')];
    const acting = start.length + end.length > 0;
    if (acting) place(this.bar, [...start, this.gap, ...end]);
    place(element, [...(pictured ? [this.picture] : []), this.words, ...(acting ? [this.bar] : [])]);
  }

  override dispose(): void {
    super.dispose();
    this.start.dispose();
    this.end.dispose();
  }

  private side(children: Children<Item>, items: Item[], side: 'start' | 'end'): HTMLElement[] {
    return children.of(items.filter((item) => ((item as ActionItem).side ?? 'start') === side && seen(this.store, item)));
  }

  private text({ text, empty }: Band): string {
    const { store } = this;
    const { form, host } = store;
    const named = [...text.matchAll(/\{\s*([A-Za-z][\w-]*)/g)].map((match) => match[1]!);
    if (empty && named.length > 0 && named.every((field) => isEmpty(store.get(field)))) return empty;
    return fill(text, (field) => {
      const type = form.fields[field];
      return type ? display(type, store.get(field), form.language, host.timeZone, store.name(field)) : '';
    }).replace(/^[\s,·-]+|[\s,·-]+$/g, '');
  }
}
