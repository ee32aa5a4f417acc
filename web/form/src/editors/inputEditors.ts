import { attribute, make, text as write } from '../dom/dom.ts';
import type { FieldItem, FieldType, Json } from '../model/types.ts';
import { formatNumber, parseNumber } from '../values/values.ts';
import { dayControl, sketchDay } from './dayControl.ts';
import { describe, setValue, typed, type Editor, type Place } from './editor.ts';

const text = (value: Json) => (value === null ? '' : String(value));

const kinds: Record<string, Record<string, string>> = {
  'e-mail': { type: 'email', inputmode: 'email' },
  phone: { type: 'tel', inputmode: 'tel' },
  'web-address': { type: 'url', inputmode: 'url' },
};

// Forms are mostly such inputs: one of each is made, the others are copies of it.
const boxes: Record<string, HTMLInputElement> = {
  line: make('input', { type: 'text', class: 'bt-input', dir: 'auto', autocomplete: 'off' }),
  number: make('input', { type: 'text', class: 'bt-input bt-number', dir: 'ltr', autocomplete: 'off' }),
  check: make('input', { type: 'checkbox', class: 'bt-check' }),
};
boxes['money'] = boxes['number']!;
for (const [editor, kind] of Object.entries(kinds)) {
  boxes[editor] = boxes['line']!.cloneNode(true) as HTMLInputElement;
  for (const [name, value] of Object.entries(kind)) boxes[editor].setAttribute(name, value);
}

const written = (value: Json, type: FieldType, language: string) =>
  typeof value === 'number' ? formatNumber(value, type, language) : text(value);

/** What is drawn before it is touched; a day with its time waits, since finding the zone costs some milliseconds. */
const isDay = (editor: string) => editor === 'date' || editor === 'time';

const numeric = (editor: string) => editor === 'number' || editor === 'money';

/** The control of an editor that is a plain input, to be copied; nothing for what is more than that. */
export function plainControl(editor: string): HTMLElement | undefined {
  if (isDay(editor)) return dayControl(editor === 'date');
  const of = boxes[editor];
  return of && (numeric(editor) ? make('span', { class: 'bt-affixed' }, of.cloneNode()) : (of.cloneNode() as HTMLElement));
}

/** Makes a copied control what it is before anybody touches it. */
export function sketch(
  control: HTMLElement,
  { editor, hint, spellCheck }: FieldItem,
  type: FieldType,
  id: string,
  value: Json,
  language: string,
): void {
  if (isDay(editor)) return sketchDay(control, editor, id, value, language, hint);
  const input = (numeric(editor) ? control.firstChild : control) as HTMLInputElement;
  input.id = id;
  if (hint !== undefined) input.placeholder = hint;
  if (spellCheck !== undefined) input.spellcheck = spellCheck;
  if (editor === 'check') {
    input.checked = value === true;
    input.indeterminate = value === null;
    return;
  }
  if (numeric(editor)) {
    input.inputMode = type.type === 'integer' || type.type === 'rating' ? 'numeric' : 'decimal';
    if (type.unit) control.append(make('span', { class: 'bt-unit' }, type.unit));
  }
  if (value !== null) input.value = numeric(editor) ? written(value, type, language) : text(value);
}

/** What is drawn already, or drawn now. */
function drawnOf({ item, type, id, store }: Place, drawn: HTMLElement | undefined): HTMLElement {
  if (drawn) return drawn;
  const plain = boxes[item.editor] ? item : { ...item, editor: 'line' };
  const control = plainControl(plain.editor)!;
  sketch(control, plain, type, id, null, store.form.language);
  return control;
}

/** An input as every editor has it: it is named by its label, and what is typed is the value. */
function box<E extends HTMLInputElement | HTMLTextAreaElement>(
  place: Place,
  input: E,
  read: (typed: string) => Json,
  write: (value: Json) => string = text,
): Editor {
  input.addEventListener('input', () => place.change(read(input.value)));
  return {
    element: input,
    show: (shown) => {
      describe(input, shown);
      setValue(input, write(shown.value));
    },
  };
}

const orNull = (typed: string) => typed || null;

export const line = (place: Place, drawn?: HTMLElement): Editor => box(place, drawnOf(place, drawn) as HTMLInputElement, orNull);

export function lines(place: Place): Editor {
  const { item } = place;
  return box(
    place,
    make('textarea', {
      id: place.id,
      class: 'bt-input bt-textarea',
      dir: 'auto',
      rows: Math.max(2, item.lines),
      placeholder: item.hint,
      spellcheck: item.spellCheck === undefined ? undefined : String(item.spellCheck),
    }),
    orNull,
  );
}

/** What is no number stays in view and is said to be wrong on leaving. */
export function number(place: Place, drawn?: HTMLElement): Editor {
  const { language } = place.store.form;
  const element = drawnOf(place, drawn);
  return typed(element, element.firstChild as HTMLInputElement, place.store.get(place.item.field), {
    read: (text) => parseNumber(text, language),
    write: (value) => written(value, place.type, language),
    change: place.change,
  });
}

/** The bounds and the step are those of the layout, or else of the field. */
export function slider(place: Place): Editor {
  const { type, item } = place;
  const { language } = place.store.form;
  const [min, max] = [item.min ?? type.min ?? 0, item.max ?? type.max ?? 100];
  const input = make('input', {
    type: 'range',
    class: 'bt-slider',
    id: place.id,
    min,
    max,
    step: item.step ?? 10 ** -(type.scale ?? 0),
    on: { input: () => place.change(Number(input.value)) },
  });
  const output = make('output', { class: 'bt-unit', for: place.id });
  const element = make('span', { class: 'bt-affixed' }, input, output);
  return {
    element,
    show: (shown) => {
      const empty = typeof shown.value !== 'number';
      describe(input, shown);
      attribute(element, 'data-empty', empty);
      setValue(input, empty ? String(min) : String(shown.value));
      write(output, empty ? '–' : `${formatNumber(shown.value as number, type, language)}${type.unit ? `\u00a0${type.unit}` : ''}`);
      attribute(input, 'aria-valuetext', output.textContent);
    },
  };
}

/** A box or a switch that nobody has ticked or unticked yet shows a third state. */
export function check(place: Place, drawn?: HTMLElement): Editor {
  const switched = place.item.editor === 'switch';
  const input = switched
    ? make('input', { type: 'checkbox', role: 'switch', class: 'bt-switch', id: place.id })
    : (drawnOf(place, drawn) as HTMLInputElement);
  input.addEventListener('change', () => place.change(input.checked));
  return {
    element: input,
    show: (shown) => {
      describe(input, shown);
      input.checked = shown.value === true;
      input.indeterminate = shown.value === null;
    },
  };
}
