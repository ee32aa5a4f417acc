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

/** Answers may overtake each other: only the last question counts. */
function searching<O extends Option>(source: Source<O>, onFound: (found: O[], lately: number, answered: boolean) => void) {
  let asked = 0;
  let wait: ReturnType<typeof setTimeout> | undefined;
  const stop = () => {
    asked++;
    clearTimeout(wait);
  };
  return {
    stop,
    ask: (typed: string) => {
      stop();
      const ask = asked;
      wait = setTimeout(() => {
        source.find(typed).then(
          (answer) => ask === asked && onFound(answer.found, answer.lately, true),
          () => ask === asked && onFound([], 0, false),
        );
      }, source.patience);
    },
  };
}

/** What can be picked, the one the keys stand at first among equals. */
function listed<O extends Option>(id: string, language: string, found: O[], lately: number, at: number, pick: (option: O) => void) {
  // What is pressed in the list leaves the focus where one types.
  const stay = (event: Event) => event.preventDefault();
  if (found.length === 0) return [make('li', { class: 'bt-list-none' }, say(language, 'none'))];
  return found.map((each, i) =>
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
  );
}

/** The elements of a combobox, by the ARIA practices. */
function partsOf(
  place: Place,
  on: Record<'click' | 'input' | 'clear' | 'leave', () => unknown> & { keydown: (event: KeyboardEvent) => void },
) {
  const { item, id } = place;
  const { language } = place.store.form;
  const list = make('ul', { id: `${id}-list`, role: 'listbox', 'aria-labelledby': place.labelId });
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
    on: { click: on.click, input: on.input, keydown: on.keydown },
  });
  const element = make('span', {
    class: 'bt-lookup',
    on: {
      focusout: (event) => {
        if (!element.contains(event.relatedTarget as Node | null)) on.leave();
      },
    },
  });
  return {
    element,
    input,
    list,
    popUp: make('div', { class: 'bt-list' }, list),
    clear: make(
      'button',
      { type: 'button', class: 'bt-clear bt-lookup-clear', 'aria-label': say(language, 'clear'), on: { click: on.clear } },
      '×',
    ),
    acts: make('span', { class: 'bt-lookup-acts' }),
    count: make('span', { class: 'bt-visually-hidden', role: 'status' }),
  };
}

const countText = (language: string, found: number) => (found === 0 ? say(language, 'none') : say(language, 'foundCount', String(found)));

/** What is searched for and found. */
interface Search<O extends Option> {
  value: Json;
  open: boolean;
  found: O[];
  lately: number;
  /** The one the keys stand at. */
  at: number;
}

/** Draws a combobox as it stands. */
function drawn<O extends Option>(
  { id, store }: Place,
  { element, input, list, popUp, clear, acts, count }: ReturnType<typeof partsOf>,
  source: Source<O>,
  { value, open, found, lately, at }: Search<O>,
  on: { close: () => void; pick: (option: O | undefined) => void },
): void {
  attribute(input, 'aria-expanded', String(open));
  const active = open ? found[at] : undefined;
  attribute(input, 'aria-activedescendant', active && `${id}-list-${active.id}`);
  if (!open) setValue(input, source.title(value));
  if (open) {
    hold(list, listed(id, store.form.language, found, lately, at, on.pick));
    hold(popUp, [list, ...(source.under?.(on.close, on.pick) ?? [])]);
    if (at > 0) list.children[at]?.scrollIntoView({ block: 'nearest' });
  }
  hold(acts, [...(source.beside?.(value) ?? []), clear]);
  const acting = value !== null && !open;
  attribute(element, 'data-acts', acting);
  hold(element, [input, ...(acting ? [acts] : []), ...(open ? [popUp] : []), count]);
}

/** Searches while one types: the combobox pattern of the ARIA practices, with a list box. */
export function combobox<O extends Option>(place: Place, source: Source<O>): Editor {
  const { language } = place.store.form;
  const state: Search<O> = { value: null, open: false, found: [], lately: 0, at: 0 };
  const change = (next: Partial<Search<O>>) => {
    Object.assign(state, next);
    drawn(place, parts, source, state, { close, pick });
  };
  const questions = searching(source, (found: O[], lately, answered) => {
    change({ found, lately, at: 0 });
    if (answered) parts.count.textContent = countText(language, found.length);
  });
  const parts = partsOf(place, {
    click: () => {
      if (!state.open && state.value === null) search('');
    },
    input: () => {
      search(parts.input.value);
      if (parts.input.value === '') place.change(null);
    },
    clear: () => {
      place.change(null);
      parts.input.focus();
    },
    leave: () => state.open && close(),
    keydown,
  });

  function search(typed: string) {
    change({ open: true, ...(state.open ? {} : { found: [], lately: 0, at: 0 }) });
    questions.ask(typed);
  }

  function close() {
    questions.stop();
    parts.count.textContent = '';
    change({ open: false });
  }

  function pick(option: O | undefined) {
    if (!option) return;
    state.open = false;
    questions.stop();
    source.pick(option);
    change({});
  }

  function keydown(event: KeyboardEvent) {
    const { open, found, at } = state;
    const acts: Record<string, () => void> = {
      ArrowDown: () => (open ? change({ at: Math.min(at + 1, found.length - 1) }) : search('')),
      ArrowUp: () => change({ at: Math.max(at - 1, 0) }),
      Enter: () => pick(found[at]),
      Escape: close,
    };
    const act = open || event.key === 'ArrowDown' ? acts[event.key] : undefined;
    if (!act) return;
    if (event.key === 'Escape') event.stopPropagation();
    else event.preventDefault();
    act();
  }

  return {
    element: parts.element,
    show: (shown) => {
      describe(parts.input, shown);
      change({ value: shown.value });
    },
    dispose: questions.stop,
  };
}
