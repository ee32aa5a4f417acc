import { attribute, make, newId, place as hold } from '../dom/dom.ts';
import { say } from '../model/texts.ts';
import type { FieldType, Json } from '../model/types.ts';
import { combobox } from './combobox.ts';
import { describe, setValue, type Editor, type Place } from './editor.ts';

/** Retired choices are offered only to the record that has one. */
const offered = (type: FieldType, value: Json) =>
  (type.choices ?? []).filter((choice) => !choice.retired || choice.key === value || (Array.isArray(value) && value.includes(choice.key)));

export function select(place: Place): Editor {
  const input = make('select', { class: 'bt-input bt-select', id: place.id, on: { change: () => place.change(input.value || null) } });
  let listed = '';
  return {
    element: input,
    show: (shown) => {
      describe(input, shown);
      const choices = offered(place.type, shown.value);
      const keys = choices.map((choice) => choice.key).join(' ');
      if (keys !== listed || !input.firstChild) {
        listed = keys;
        hold(input, [
          make('option', { value: '' }, place.item.hint ?? say(place.store.form.language, 'choose')),
          ...choices.map((choice) => make('option', { value: choice.key }, choice.label)),
        ]);
      }
      setValue(input, (shown.value as string | null) ?? '');
    },
  };
}

/** One of many, found by typing a part of its name. */
export function search(place: Place): Editor {
  const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
  return combobox(place, {
    patience: 0,
    find: (typed) =>
      Promise.resolve({
        found: offered(place.type, place.store.get(place.item.field))
          .filter((choice) => plain(choice.label).includes(plain(typed)))
          .map((choice) => ({ id: choice.key, title: choice.label })),
        lately: 0,
      }),
    title: (value) => place.type.choices?.find((choice) => choice.key === value)?.label ?? '',
    pick: (choice) => place.change(choice.id),
  });
}

type Offer<T> = { key: T; label: string };

/** One of several, each with a button of its own. */
function options<T extends string | boolean | null>(place: Place, offers: (value: Json, required: boolean) => Offer<T>[]): Editor {
  const element = make('div', { class: 'bt-options', role: 'radiogroup', 'aria-labelledby': place.labelId });
  const group = newId();
  let listed = '';
  let inputs: [T, HTMLInputElement][] = [];
  return {
    element,
    show: (shown) => {
      describe(element, shown);
      const all = offers(shown.value, shown.required);
      const keys = all.map((option) => String(option.key)).join(' ');
      if (keys !== listed || inputs.length === 0) {
        listed = keys;
        inputs = all.map((option, i) => [
          option.key,
          make('input', { type: 'radio', name: group, id: i === 0 ? place.id : undefined, on: { change: () => place.change(option.key) } }),
        ]);
        hold(
          element,
          all.map((option, i) => make('label', { class: 'bt-option' }, inputs[i]![1], make('span', {}, option.label))),
        );
      }
      for (const [key, input] of inputs) input.checked = key === shown.value;
    },
  };
}

export const oneOf = (place: Place): Editor => options<string>(place, (value) => offered(place.type, value));

/** Yes, no, and that nobody has said. */
export function yesNo(place: Place): Editor {
  const { language } = place.store.form;
  return options<boolean | null>(place, (_, required) => [
    { key: true, label: say(language, 'yes') },
    { key: false, label: say(language, 'no') },
    ...(required ? [] : [{ key: null, label: say(language, 'notSaid') }]),
  ]);
}

export function stars(place: Place): Editor {
  const { language } = place.store.form;
  const max = place.item.max ?? place.type.max ?? 5;
  const group = newId();
  const element = make('div', { class: 'bt-stars', role: 'radiogroup', 'aria-labelledby': place.labelId });
  const inputs = Array.from({ length: max }, (_, i) =>
    make('input', {
      type: 'radio',
      name: group,
      id: i === 0 ? place.id : undefined,
      'aria-label': say(language, 'stars', String(i + 1), String(max)),
      on: { change: () => place.change(i + 1) },
    }),
  );
  const labels = inputs.map((input) => make('label', { class: 'bt-star' }, input, make('span', { 'aria-hidden': 'true' }, '★')));
  const clear = make(
    'button',
    {
      type: 'button',
      class: 'bt-clear',
      on: {
        click: () => {
          place.change(null);
          inputs[0]?.focus();
        },
      },
    },
    say(language, 'clear'),
  );
  return {
    element,
    show: (shown) => {
      describe(element, shown);
      inputs.forEach((input, i) => {
        input.checked = shown.value === i + 1;
        attribute(labels[i]!, 'data-on', typeof shown.value === 'number' && i < shown.value);
      });
      hold(element, [...labels, ...(shown.value === null ? [] : [clear])]);
    },
  };
}

/** Several of several. */
export function choices(place: Place): Editor {
  const element = make('div', { class: 'bt-options', role: 'group', 'aria-labelledby': place.labelId });
  let listed = '';
  let inputs: [string, HTMLInputElement][] = [];
  return {
    element,
    show: (shown) => {
      // A group can be neither required nor invalid (WAI-ARIA 1.2); its description says so.
      attribute(element, 'aria-describedby', shown.describedBy);
      const chosen = (shown.value as string[] | null) ?? [];
      const all = offered(place.type, shown.value);
      const keys = all.map((choice) => choice.key).join(' ');
      if (keys !== listed || inputs.length === 0) {
        listed = keys;
        const change = () => {
          const next = inputs.filter(([, input]) => input.checked).map(([key]) => key);
          place.change(next.length > 0 ? next : null);
        };
        inputs = all.map((choice, i) => [
          choice.key,
          make('input', { type: 'checkbox', id: i === 0 ? place.id : undefined, on: { change } }),
        ]);
        hold(
          element,
          all.map((choice, i) => make('label', { class: 'bt-option' }, inputs[i]![1], make('span', {}, choice.label))),
        );
      }
      for (const [key, input] of inputs) input.checked = chosen.includes(key);
    },
  };
}
