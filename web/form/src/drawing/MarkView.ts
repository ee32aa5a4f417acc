import type { FieldItem, Item, PanelItem, RelatedItem, TextRun } from '../model/types.ts';
import { display, fill } from '../values/values.ts';
import { attribute, icon, make } from '../dom/dom.ts';
import { ghostly, heading, styled } from './nodeLook.ts';
import { View, type FormContext } from './View.ts';

type Mark = Exclude<Item, FieldItem | PanelItem | RelatedItem>;

/** Everything in a cell that is neither a field, a panel nor related records. */
export class MarkView extends View<Mark> {
  readonly element: HTMLElement;

  constructor(drawing: FormContext, node: Mark, level: number) {
    super(drawing, node);
    this.element = this.begin(node, level);
    this.show(node);
  }

  override takes(node: Item): boolean {
    return (
      node.kind === this.node.kind &&
      (node.kind !== 'action' || (node.does === 'open') === (this.node.kind === 'action' && this.node.does === 'open'))
    );
  }

  show(item: Mark): void {
    const { element } = this;
    // Only what shows values follows them.
    this.listen(`node:${item.id}`, ...(item.kind === 'text' || 'address' in item ? ['values'] : []));
    ghostly(this.store, element, `bt-item bt-${item.kind}${item.kind === 'link' ? ' bt-link' : ''}`, item);
    attribute(element, 'data-node', item.id);
    if ('style' in item) styled(this.store, element, item.style);
    switch (item.kind) {
      case 'image':
        attribute(element, 'src', this.address(item.address));
        attribute(element, 'alt', item.alt);
        element.style.height = item.lines ? `${item.lines * 1.4}em` : '';
        break;
      case 'link':
        this.leadTo(item.address);
        element.replaceChildren(item.label);
        break;
      case 'action':
        attribute(element, 'data-weight', item.weight);
        if (item.does === 'open') this.leadTo(item.address ?? '');
        else (element as HTMLButtonElement).disabled = this.store.form.mode === 'view' && item.does === 'set';
        element.replaceChildren(...[icon(item.icon) ?? []].flat(), item.label);
        break;
      case 'heading':
        element.replaceChildren(item.content);
        break;
      case 'text':
        element.replaceChildren(...this.blocks(item));
        break;
      default:
        attribute(element, 'data-size', item.content);
    }
  }

  private begin(item: Mark, level: number): HTMLElement {
    switch (item.kind) {
      case 'image':
        return make('img');
      case 'link':
        return make('a');
      case 'action':
        return item.does === 'open' ? make('a') : make('button', { type: 'button', on: { click: () => this.act() } });
      case 'heading':
        return make(heading(level));
      case 'divider':
        return make('hr');
      case 'spacer':
        return make('div', { 'aria-hidden': 'true' });
      default:
        return make('div');
    }
  }

  private act(): void {
    const { node: item, store } = this;
    if (item.kind !== 'action') return;
    const { form, host } = store;
    if (item.does === 'set') store.apply(item.values ?? {});
    // Where such records are shown in this form, one is begun there.
    else if (form.mode === 'view' || !store.addRelated(item.begins ?? '', item.through ?? '', store.work(item.values ?? {})))
      host.begin?.(item.begins ?? '', item.through ?? '', store.work(item.values ?? {}), store.record);
  }

  private leadTo(address: string): void {
    for (const [name, value] of Object.entries({ href: this.address(address), rel: 'noreferrer noopener', target: '_blank' }))
      attribute(this.element, name, value);
  }

  /** What is put into an address cannot change where it leads. */
  private address(text: string): string {
    return text.startsWith('file:')
      ? this.store.host.fileAddress(text.slice(5))
      : fill(text, (field) => encodeURIComponent(this.value(field)));
  }

  private value(field: string): string {
    const { store } = this;
    const type = store.form.fields[field];
    return type ? display(type, store.get(field), store.form.language, store.host.timeZone, store.name(field)) : '';
  }

  private blocks(item: Extract<Mark, { kind: 'text' | 'heading' | 'divider' | 'spacer' }>): HTMLElement[] {
    const run = (each: TextRun) => {
      const text = fill(each.text, (field) => this.value(field));
      return each.kind === 'strong'
        ? make('strong', {}, text)
        : each.kind === 'emphasis'
          ? make('em', {}, text)
          : each.kind === 'link'
            ? make('a', { class: 'bt-link', href: each.to, rel: 'noreferrer noopener', target: '_blank' }, text)
            : text;
    };
    return (item.blocks ?? []).map((block) =>
      block.kind === 'paragraph'
        ? make('p', {}, ...(block.lines[0] ?? []).map(run))
        : make(block.kind === 'list' ? 'ul' : 'ol', {}, ...block.lines.map((line) => make('li', {}, ...line.map(run)))),
    );
  }
}
