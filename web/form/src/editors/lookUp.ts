import { attribute, make } from '../dom/dom.ts';
import { say, type Language } from '../model/texts.ts';
import type { Json, RecordName } from '../model/types.ts';
import { combobox } from './combobox.ts';
import type { Editor, Place } from './editor.ts';

/** A value as a condition writes it. */
const literal = (value: Json, type: string) =>
  typeof value === 'number'
    ? type === 'decimal' || type === 'money'
      ? value.toFixed(6)
      : String(value)
    : typeof value === 'boolean'
      ? String(value)
      : `'${String(value).replace(/\\/g, '\\\\').replace(/'/g, "\\'")}'`;

/**
 * Searches the records a reference may point at, those picked lately first; opens the one it points at beside the form, and makes a missing
 * one.
 */
export function lookupEditor(place: Place): Editor {
  const { item, type } = place;
  const target = type.target!;
  const { language } = place.store.form;
  let current: Json = null;
  const openMark = make(
    'button',
    { type: 'button', class: 'bt-clear', on: { click: () => place.store.host.open?.(target, current as number) } },
    make('span', { 'aria-hidden': 'true', class: 'bt-open-mark' }, '↗'),
  );

  /** What a record must fulfil to be found, by the values of other fields. */
  const filter = () =>
    Object.entries(item.filterBy ?? {})
      .flatMap(([theirs, ours]) => {
        const other = place.store.get(ours);
        return other === null || other === '' || Array.isArray(other)
          ? []
          : [`record.${theirs} == ${literal(other, place.store.form.fields[ours]?.type ?? 'text')}`];
      })
      .join(' && ');

  return combobox<RecordName>(place, {
    patience: 120,
    find: (typed) => found(place, target, typed, filter()),
    title: (value) => place.store.name(item.field)?.title ?? (value === null ? '' : `${value as number}`),
    pick: (name) => {
      const { store } = place;
      store.remember(item.field, name);
      store.host.picked?.(target, name.id);
      place.change(name.id);
      if (item.copies) store.copy(item.field, target, name.id, item.copies);
    },
    beside: (value) => {
      current = value;
      for (const what of ['aria-label', 'title'])
        attribute(openMark, what, say(language, 'openBeside', place.store.name(item.field)?.title ?? ''));
      return place.store.host.open ? [openMark] : [];
    },
    under: (close, pick) => {
      const { create } = place.store.host;
      if (item.creates !== true || !create) return [];
      return [
        makeButton(language, () => {
          close();
          void create(target).then((made) => {
            pick(made);
            document.getElementById(place.id)?.focus();
          });
        }),
      ];
    },
  });
}

/** The records that fit what is typed; before anything is, what was picked lately comes first. */
async function found({ store: { host }, item }: Place, target: string, typed: string, filter: string) {
  const how = { ...(filter ? { filter } : {}), ...(item.display ? { display: item.display } : {}) };
  const recent = typed === '' && !filter ? (host.recent?.(target) ?? []) : [];
  const [first, names] = await Promise.all([
    recent.length > 0 ? host.lookUp(target, '', { ...how, ids: recent }) : [],
    host.lookUp(target, typed, how),
  ]);
  return { found: [...first, ...names.filter((name) => !first.some((each) => each.id === name.id))], lately: first.length };
}

const makeButton = (language: Language, click: () => void) =>
  make(
    'button',
    { type: 'button', class: 'bt-list-make', on: { mousedown: (event) => event.preventDefault(), click } },
    say(language, 'makeOne'),
  );
