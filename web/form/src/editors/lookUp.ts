import { attribute, make, place as hold } from '../drawing/dom.ts';
import { say } from '../texts.ts';
import type { Json, RecordName } from '../types.ts';
import { describe, put, type Editor, type Place } from './editor.ts';

/** A value as a condition writes it. */
const literal = (value: Json, type: string) => (typeof value === 'number' ? (type === 'decimal' || type === 'money' ? value.toFixed(6) : String(value)) : typeof value === 'boolean' ? String(value) : `'${String(value).replace(/\\/g, '\\\\').replace(/'/g, "\\'")}'`);

/** How long after a keystroke records are searched, in milliseconds. */
const patience = 120;

/** Searches the records a reference may point at while one types: the combobox pattern of the ARIA practices, with a list box. */
export function lookUp(place: Place): Editor {
  const { item, type, id } = place;
  const target = type.target!;
  const { language } = place.store.form;
  const list = make('ul', { id: `${id}-list`, role: 'listbox', 'aria-labelledby': place.labelId });
  const popUp = make('div', { class: 'bt-list' }, list);
  const input = make('input', {
    type: 'text', class: 'bt-input', role: 'combobox', dir: 'auto', autocomplete: 'off', id, 'aria-controls': `${id}-list`, 'aria-autocomplete': 'list', placeholder: item.hint ?? say(language, 'search'),
    on: { click: () => { if (!open && value === null) search(''); }, input: () => { search(input.value); if (input.value === '') place.change(null); }, keydown },
  });
  const openMark = make('button', { type: 'button', class: 'bt-clear', on: { click: () => place.store.surroundings.open?.(target, value as number) } }, make('span', { 'aria-hidden': 'true', class: 'bt-open-mark' }, '↗'));
  const clear = make('button', { type: 'button', class: 'bt-clear bt-lookup-clear', 'aria-label': say(language, 'clear'), on: { click: () => { place.change(null); input.focus(); } } }, '×');
  const acts = make('span', { class: 'bt-lookup-acts' });
  const count = make('span', { class: 'bt-visually-hidden', role: 'status' });
  const element = make('span', { class: 'bt-lookup', on: { focusout: (event) => { if (open && !element.contains(event.relatedTarget as Node | null)) close(); } } });
  let value: Json = null;
  let open = false;
  let found: RecordName[] = [];
  let lately = 0;
  let at = 0;
  let asked = 0;
  let wait: ReturnType<typeof setTimeout> | undefined;

  /** What a record must fulfil to be found, by the values of other fields. */
  const filter = () => Object.entries(item.filterBy ?? {}).flatMap(([theirs, ours]) => {
    const other = place.store.get(ours);
    return other === null || other === '' || Array.isArray(other) ? [] : [`record.${theirs} == ${literal(other, place.store.form.fields[ours]?.type ?? 'text')}`];
  }).join(' && ');

  function search(typed: string) {
    if (!open) [found, lately, at] = [[], 0, 0];
    open = true;
    draw();
    const ask = ++asked;
    clearTimeout(wait);
    wait = setTimeout(() => {
      const { surroundings } = place.store;
      const only = filter();
      const how = { ...(only ? { filter: only } : {}), ...(item.display ? { display: item.display } : {}) };
      // Before anything is typed, what was picked lately comes first.
      const recent = typed === '' && !only ? (surroundings.recent?.(target) ?? []) : [];
      Promise.all([recent.length > 0 ? surroundings.lookUp(target, '', { ...how, ids: recent }) : [], surroundings.lookUp(target, typed, how)]).then(([first, names]) => {
        // Answers may overtake each other; only the last question counts.
        if (ask !== asked || !open) return;
        lately = first.length;
        found = [...first, ...names.filter((name) => !first.some((each) => each.id === name.id))];
        at = 0;
        draw();
        count.textContent = found.length === 0 ? say(language, 'none') : say(language, 'foundCount', String(found.length));
      }, () => {
        if (ask !== asked) return;
        found = [];
        draw();
      });
    }, patience);
  }

  function close() {
    open = false;
    asked++;
    clearTimeout(wait);
    count.textContent = '';
    draw();
  }

  function choose(name: RecordName | undefined) {
    if (!name) return;
    const { store } = place;
    store.remember(item.field, name);
    store.surroundings.picked?.(target, name.id);
    open = false;
    asked++;
    place.change(name.id);
    draw();
    if (item.copies) store.copy(item.field, target, name.id, item.copies);
  }

  async function makeOne() {
    close();
    choose(await place.store.surroundings.create?.(target));
    input.focus();
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
      choose(found[at]);
    } else if (event.key === 'Escape' && open) {
      event.stopPropagation();
      close();
    }
  }

  function draw() {
    const { store } = place;
    const { surroundings } = store;
    const name = store.name(item.field);
    attribute(input, 'aria-expanded', String(open));
    const active = open ? found[at] : undefined;
    attribute(input, 'aria-activedescendant', active && `${id}-list-${active.id}`);
    if (!open) put(input, name?.title ?? (value === null ? '' : `${value as number}`));
    // What is pressed in the list leaves the focus where one types.
    const stay = (event: Event) => event.preventDefault();
    if (open) {
      hold(list, found.length === 0 ? [make('li', { class: 'bt-list-none' }, say(language, 'none'))] : found.map((each, i) => make('li', {
        id: `${id}-list-${each.id}`, role: 'option', 'aria-selected': String(i === at), class: 'bt-list-option', 'data-lately': i < lately, on: { mousedown: stay, click: () => choose(each) },
      }, each.title, i < lately && make('small', {}, say(language, 'lately')))));
      const can = item.creates === true && surroundings.create !== undefined;
      hold(popUp, [list, ...(can ? [make('button', { type: 'button', class: 'bt-list-make', on: { mousedown: stay, click: () => void makeOne() } }, say(language, 'makeOne'))] : [])]);
      if (at > 0) list.children[at]?.scrollIntoView({ block: 'nearest' });
    }
    for (const what of ['aria-label', 'title']) attribute(openMark, what, say(language, 'openBeside', name?.title ?? ''));
    hold(acts, [...(surroundings.open ? [openMark] : []), clear]);
    hold(element, [input, ...(value !== null && !open ? [acts] : []), ...(open ? [popUp] : []), count]);
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
