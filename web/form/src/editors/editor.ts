import { attribute } from '../dom/dom.ts';
import type { FormStore } from '../state/store.ts';
import type { FieldItem, FieldType, Json } from '../model/types.ts';

/** Where an editor stands: whose value it changes, under which label. */
export interface Place {
  readonly store: FormStore;
  readonly item: FieldItem;
  readonly type: FieldType;
  /** The id of the control itself, and that of its label. */
  readonly id: string;
  readonly labelId: string;
  readonly change: (value: Json) => void;
}

/** What an editor shows: values are the record's own, as JSON has them; null is empty. */
export interface EditorState {
  value: Json;
  required: boolean;
  invalid: boolean;
  describedBy: string | undefined;
}

/** A control, and how it takes up what its field has become. */
export interface Editor {
  readonly element: HTMLElement;
  show: (shown: EditorState) => void;
  dispose?: () => void;
}

/** What assistive technology is told of a control. */
export function describe(control: Element, { required, invalid, describedBy }: EditorState): void {
  if (
    !required &&
    !invalid &&
    describedBy === undefined &&
    !control.hasAttribute('aria-required') &&
    !control.hasAttribute('aria-invalid') &&
    !control.hasAttribute('aria-describedby')
  )
    return;
  attribute(control, 'aria-required', required ? 'true' : undefined);
  attribute(control, 'aria-invalid', invalid ? 'true' : undefined);
  attribute(control, 'aria-describedby', describedBy);
}

/** Puts a text into a control, unless it has it: whoever is typing keeps the place. */
export function setValue(control: HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement, value: string): void {
  if (control.value !== value) control.value = value;
}

/**
 * An input for what is written in another way than it is kept: what is typed stays as it is until one leaves. A text that cannot be read is
 * the value as it stands, to be told so.
 */
export function typed(
  element: HTMLElement,
  input: HTMLInputElement,
  value: Json,
  how: { read: (text: string) => Json | undefined; write: (value: Json) => string; change: (value: Json) => void },
): Editor {
  let typing = false;
  input.addEventListener('input', () => {
    typing = true;
    const text = input.value.trim();
    how.change(text === '' ? null : (how.read(text) ?? text));
  });
  input.addEventListener('blur', () => {
    typing = false;
    setValue(input, how.write(value));
  });
  return {
    element,
    show: (shown) => {
      ({ value } = shown);
      describe(input, shown);
      if (!typing) setValue(input, how.write(value));
    },
  };
}
