import { editorOf } from '../editors/editorOf.ts';
import type { Editor, Place } from '../editors/editor.ts';
import { plainControl, sketch } from '../editors/inputEditors.ts';
import { say } from '../model/texts.ts';
import type { FieldItem, FieldType, Item } from '../model/types.ts';
import { attribute, setInitialAttributes, make, newId, place, text } from '../dom/dom.ts';
import { ghostly, styled } from './nodeLook.ts';
import { View, type FormContext } from './View.ts';

const grouped = ['radio', 'checks', 'yes-no', 'stars'];

const frame = () => make('div', { class: 'bt-item bt-field' }, make('label', { class: 'bt-label' }), make('div', { class: 'bt-control' }));

const frames = new Map<string, HTMLDivElement>();

/** A field's frame with its control in it where that is a plain input: one is made of each kind, the others are copies of it. */
function framed(editor: string): HTMLDivElement {
  let found = frames.get(editor);
  if (!found) {
    found = frame();
    const control = plainControl(editor);
    if (control) found.lastChild!.appendChild(control);
    markTyped(found);
    frames.set(editor, found);
  }
  return found.cloneNode(true) as HTMLDivElement;
}

/**
 * Says on a field whether one types into it: its label may stand in there. Style sheets could ask that of what is in it, and would each
 * time anything changes.
 */
const markTyped = (field: HTMLElement) => attribute(field, 'data-typed', field.querySelector('.bt-input') !== null);

/**
 * A field's label, editor, help and error: one thing, moved and hidden together. Most fields of a form are never touched: what takes in
 * what is typed is made only when one is, or when something becomes of it.
 */
export class FieldView extends View<FieldItem> {
  readonly element: HTMLDivElement;
  private readonly id = newId();
  private editor: Editor | undefined;
  private type: FieldType | undefined;
  private readOnly = false;
  private required = false;
  private language = '';
  private help: HTMLElement | undefined;
  private prefix: HTMLElement | undefined;
  private error: HTMLElement | undefined;
  private said: string | undefined;
  /** Whether it was ever drawn faintly. */
  private ghost = false;

  constructor(drawing: FormContext, node: FieldItem) {
    super(drawing, node);
    this.element = framed(node.editor);
    this.show(node);
  }

  override takes(node: Item): boolean {
    return node.kind === 'field';
  }

  show(item: FieldItem): void {
    const { store, element } = this;
    this.listen(`node:${item.id}`, `field:${item.field}`);
    const type = store.form.fields[item.field];
    if (!type) return;
    const { required, readOnly } = store.state(item.id);
    const { language } = store.form;
    const first = this.type === undefined;
    if (first || this.isOther(item, type) || this.readOnly !== readOnly || this.required !== required || this.language !== language) {
      [this.readOnly, this.required, this.language] = [readOnly, required, language];
      this.build(item, type, first);
    }
    this.node = item;
    this.type = type;
    if (item.ghost !== undefined || store.designing || this.ghost) {
      ghostly(store, element, 'bt-item bt-field', item);
      this.ghost = true;
    }
    if (item.style || element.style.length > 0) styled(store, element, item.style);
    const error = store.error(item.field);
    if (error !== this.said) this.complain(error);
    if (!first) this.wake();
    this.editor?.show({
      value: store.get(item.field),
      required,
      invalid: error !== undefined,
      describedBy:
        !this.help && !this.prefix && error === undefined
          ? undefined
          : [this.prefix && `${this.id}-prefix`, this.help && `${this.id}-help`, error !== undefined && `${this.id}-error`]
              .filter(Boolean)
              .join(' '),
    });
  }

  /** Makes the editor over what is drawn. */
  wake(): void {
    if (this.editor || !this.type) return;
    this.drawing.asleep.delete(this.element);
    this.editor = editorOf(this.placeOf(this.node, this.type), this.readOnly, (this.control.firstChild as HTMLElement | null) ?? undefined);
    this.element.addEventListener('focusout', (event) => {
      if (!this.element.contains(event.relatedTarget as Node | null)) this.store.leave(this.node.field);
    });
  }

  override dispose(): void {
    super.dispose();
    this.drawing.asleep.delete(this.element);
    this.editor?.dispose?.();
  }

  private get control(): HTMLElement {
    return this.element.childNodes[1] as HTMLElement;
  }

  /** Versions of a form are compared by what they say. */
  private isOther(item: FieldItem, type: FieldType): boolean {
    return (
      (item !== this.node && JSON.stringify(item) !== JSON.stringify(this.node)) ||
      (type !== this.type && JSON.stringify(type) !== JSON.stringify(this.type))
    );
  }

  private complain(error: string | undefined): void {
    this.said = error;
    attribute(this.element, 'data-error', error !== undefined);
    if (error === undefined) {
      this.error?.remove();
      this.error = undefined;
    } else {
      this.error ??= make('p', { class: 'bt-error', id: `${this.id}-error` });
      text(this.error, error);
      this.element.append(this.error);
    }
  }

  private build(item: FieldItem, type: FieldType, first: boolean): void {
    const { store, element, id, readOnly, required } = this;
    const label = element.firstChild as HTMLLabelElement;
    const { marks, language } = store.form;
    const after = !readOnly && (item.editor === 'check' || item.editor === 'switch');
    if (!first)
      for (const name of ['data-emphasis', 'data-readonly', 'data-after', 'data-labels', 'data-stretches']) element.removeAttribute(name);
    setInitialAttributes(element, {
      'data-node': item.id,
      'data-field': item.field,
      'data-editor': item.editor,
      'data-emphasis': item.emphasis || undefined,
      'data-readonly': readOnly || undefined,
      'data-after': after || undefined,
      'data-labels': item.labels,
      'data-stretches': item.stretches || undefined,
    });
    label.id = `${id}-label`;
    if (!readOnly && !grouped.includes(item.editor)) label.htmlFor = id;
    else label.removeAttribute('for');
    label.textContent = item.punctuation ? `${item.label}:` : item.label;
    if (!readOnly && marks === 'required' && required)
      label.append(make('span', { class: 'bt-required', title: say(language, 'requiredMark'), 'aria-hidden': 'true' }, ' *'));
    if (!readOnly && marks === 'optional' && !required)
      label.append(make('span', { class: 'bt-optional' }, ` (${say(language, 'optional')})`));
    this.help = item.help ? make('p', { class: 'bt-help', id: `${id}-help` }, item.help) : undefined;
    this.prefix = item.prefix ? make('span', { class: 'bt-prefix', id: `${id}-prefix` }, item.prefix) : undefined;
    this.editor?.dispose?.();
    this.editor = undefined;
    const { control } = this;
    const drawn = first ? (control.firstChild as HTMLElement | null) : null;
    if (drawn && !readOnly && !required && !item.help && !this.prefix) {
      sketch(drawn, item, type, id, store.get(item.field), language);
      this.drawing.asleep.set(element, this);
      return;
    }
    control.replaceChildren();
    this.node = item;
    this.type = type;
    this.wake();
    control.append(...(this.prefix ? [this.prefix] : []), this.editor!.element);
    attribute(control, 'data-prefixed', this.prefix !== undefined);
    markTyped(element);
    if (!first || this.help) place(element, [label, control, ...(this.help ? [this.help] : []), ...(this.error ? [this.error] : [])]);
  }

  private placeOf(item: FieldItem, type: FieldType): Place {
    const { drawing, id } = this;
    return {
      get store() {
        return drawing.store;
      },
      item,
      type,
      id,
      labelId: `${id}-label`,
      change: (value) => drawing.store.set(item.field, value),
    };
  }
}
