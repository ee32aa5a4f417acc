import { icon, make } from '../dom/dom.ts';
import { say, type Language } from '../model/texts.ts';
import type { Json } from '../model/types.ts';
import { isMoment } from '../values/values.ts';
import { dayShape, writeClock, writeDay } from '../values/moments.ts';

const input = () => make('input', { type: 'text', class: 'bt-input bt-number', dir: 'ltr', autocomplete: 'off' });

const timed = make('span', { class: 'bt-affixed' }, input());

const dated = make(
  'span',
  { class: 'bt-affixed bt-dated' },
  input(),
  make(
    'button',
    { type: 'button', class: 'bt-clear', tabindex: -1, 'aria-haspopup': 'dialog' },
    icon('M4 6h16v14H4zM4 10h16M8 3v4M16 3v4'),
  ),
);

/** The control of a day, with the calendar's button, or of a time of day; drawn once and copied. */
export const dayControl = (withDay: boolean): HTMLElement => (withDay ? dated : timed).cloneNode(true) as HTMLElement;

/** What one types into. */
export const dayInput = (control: HTMLElement): HTMLInputElement => control.firstChild as HTMLInputElement;

/** A day or a time as its field shows it; what is neither as it stands. */
export function writeShort(editor: string, value: Json, language: Language): string {
  if (editor === 'date') return isMoment('date', value) ? writeDay(value, language) : String(value ?? '');
  return isMoment('time', value) ? writeClock(value, language) : String(value ?? '');
}

/** Makes a copied control what it is before anybody touches it; its button says what it opens. */
export function sketchDay(control: HTMLElement, editor: string, id: string, value: Json, language: Language, hint?: string): void {
  const field = dayInput(control);
  field.id = id;
  if (hint !== undefined) field.placeholder = hint;
  else if (editor === 'date') field.placeholder = dayShape(language);
  else if (editor === 'date-time') field.placeholder = `${dayShape(language)} ${say(language, 'clockShape')}`;
  if (value !== null) field.value = writeShort(editor, value, language);
  const button = control.childNodes[1] as HTMLButtonElement | undefined;
  if (button) button.title = button.ariaLabel = say(language, 'chooseDay');
}
