import { attribute, make, place as hold } from '../dom/dom.ts';
import { say } from '../model/texts.ts';
import type { Json } from '../model/types.ts';
import { describe, setValue, type Editor, type Place } from './editor.ts';

/** Something that can be picked. */
export interface Option {
  id: string | number;
  title: string;
}

/** What a combobox searches in, and what becomes of what is picked. */
export interface Source<O extends Option> {
  /** What has the text in it, and how many of these were picked lately. */
  find: (typed: string) => Promise<{ found: O[]; lately: number }>;
  /** How long after a keystroke it is asked, in milliseconds. */
  patience: number;
  /** How the value is named. */
  title: (value: Json) => string;
  pick: (option: O) => void;
  /** Buttons beside the value, and under the list. */
  beside?: (value: Json) => HTMLElement[];
  under?: (close: () => void, pick: (option: O | undefined) => void) => HTMLElement[];
}

/** Searches while one types: the combobox pattern of the ARIA practices, with a list box. */
export function combobox<O extends Option>(place: Place, source: Source<O>): Editor {
  const { item, id } = place;
  const { language } = place.store.form;
  const list = make('ul', { id: `${id}-list`, role: 'listbox', 'aria-labelledby': place.labelId });
  const popUp = make('div', { class: 'bt-list' }, list);
  const input = make('input', {
    type: 'text',
    class: 'bt-input',
    role: 'combobox',
    dir: 'auto',
    autocomplete: 'off',
    id,
    'aria-controls': `${id}-list`,
    'aria-autocomplete': 'list',
    placeholder: item.hint ?? say(language, 'search'),
    on: {
      click: () => {
        if (!open && value === null) search('');
      },
      input: () => {
        search(input.value);
        if (input.value === '') place.change(null);
      },
      keydown,
    },
  });
  const clear = make(
    'button',
    {
      type: 'button',
      class: 'bt-clear bt-lookup-clear',
      'aria-label': say(language, 'clear'),
      on: {
        click: () => {
          place.change(null);
          input.focus();
        },
      },
    },
    '×',
  );
  const acts = make('span', { class: 'bt-lookup-acts' });
  const count = make('span', { class: 'bt-visually-hidden', role: 'status' });
  const element = make('span', {
    class: 'bt-lookup',
    on: {
      focusout: (event) => {
        if (open && !element.contains(event.relatedTarget as Node | null)) close();
      },
    },
  });
  let value: Json = null;
  let open = false;
  let found: O[] = [];
  let lately = 0;
  let at = 0;
  let asked = 0;
  let wait: ReturnType<typeof setTimeout> | undefined;

  function search(typed: string) {
    if (!open) [found, lately, at] = [[], 0, 0];
    open = true;
    draw();
    const ask = ++asked;
    clearTimeout(wait);
    wait = setTimeout(() => {
      source.find(typed).then(
        (answer) => {
          // Answers may overtake each other; only the last question counts.
          if (ask !== asked || !open) return;
          [found, lately, at] = [answer.found, answer.lately, 0];
          draw();
          count.textContent = found.length === 0 ? say(language, 'none') : say(language, 'foundCount', String(found.length));
        },
        () => {
          if (ask !== asked) return;
          found = [];
          draw();
        },
      );
    }, source.patience);
  }

  function close() {
    open = false;
    asked++;
    clearTimeout(wait);
    count.textContent = '';
    draw();
  }

  function pick(option: O | undefined) {
    if (!option) return;
    open = false;
    asked++;
    source.pick(option);
    draw();
  }

  function keydown(event: KeyboardEvent) {
    if (event.key === 'ArrowDown') {
      event.preventDefault();
      if (!open) return search('');
      at = Math.min(at + 1, found.length - 1);
      draw();
    } else if (event.key === 'ArrowUp' && open) {
      event.preventDefault();
      at = Math.max(at - 1, 0);
      draw();
    } else if (event.key === 'Enter' && open) {
      event.preventDefault();
      pick(found[at]);
    } else if (event.key === 'Escape' && open) {
      event.stopPropagation();
      close();
    }
  }

  function draw() {
    attribute(input, 'aria-expanded', String(open));
    const active = open ? found[at] : undefined;
    attribute(input, 'aria-activedescendant', active && `${id}-list-${active.id}`);
    if (!open) setValue(input, source.title(value));
    // What is pressed in the list leaves the focus where one types.
    const stay = (event: Event) => event.preventDefault();
    if (open) {
      hold(
        list,
        found.length === 0
          ? [make('li', { class: 'bt-list-none' }, say(language, 'none'))]
          : found.map((each, i) =>
              make(
                'li',
                {
                  id: `${id}-list-${each.id}`,
                  role: 'option',
                  'aria-selected': String(i === at),
                  class: 'bt-list-option',
                  'data-lately': i < lately,
                  on: { mousedown: stay, click: () => pick(each) },
                },
                each.title,
                i < lately && make('small', {}, say(language, 'lately')),
              ),
            ),
      );
      hold(popUp, [list, ...(source.under?.(close, pick) ?? [])]);
      if (at > 0) list.children[at]?.scrollIntoView({ block: 'nearest' });
    }
    hold(acts, [...(source.beside?.(value) ?? []), clear]);
    const acting = value !== null && !open;
    attribute(element, 'data-acts', acting);
    hold(element, [input, ...(acting ? [acts] : []), ...(open ? [popUp] : []), count]);
  }

  return {
    element,
    show: (shown) => {
      value = shown.value;
      describe(input, shown);
      draw();
    },
    dispose: () => clearTimeout(wait),
  };
}
