import type { Language } from '../model/texts.ts';
import type { Json } from '../model/types.ts';
import { fromLocal, toLocal } from '../values/localTime.ts';
import { isMoment } from '../values/values.ts';
import { readClock, readDay, readMoment, writeLocal } from '../values/moments.ts';
import { dayControl, dayInput, sketchDay, writeShort } from './dayControl.ts';
import { partAt, placesOf, stepped } from './dayParts.ts';
import { typed, type Editor, type Place } from './editor.ts';

/** What is entered: a day, a time of day, or both by the clock of a time zone. */
export type DayEditor = 'date' | 'time' | 'date-time';

/** Where such an editor stands, in a form or by itself. */
export interface DayPlace {
  id: string;
  language: Language;
  /** Whose clock it is. Asked for its zone only where that matters: finding it costs some milliseconds. */
  host: { readonly timeZone: string; now: () => Date };
  hint?: string | undefined;
  value: Json;
  change: (value: Json) => void;
}

/** How a kind of value is typed, shown, and seen as a wall clock's (2026-12-31T14:30). */
interface Kind {
  read: (text: string, today: string) => string | undefined;
  write: (value: Json) => string;
  toWall: (value: string) => string;
  fromWall: (wall: string) => string;
}

const kindOf = (editor: DayEditor, language: Language, host: DayPlace['host']): Kind => {
  if (editor === 'date')
    return {
      read: (text, today) => readDay(text, language, today),
      write: (value) => writeShort('date', value, language),
      toWall: (value) => `${value}T00:00`,
      fromWall: (wall) => wall.slice(0, 10),
    };
  if (editor === 'time')
    return {
      read: (text) => readClock(text, language),
      write: (value) => writeShort('time', value, language),
      toWall: (value) => `2000-01-01T${value.slice(0, 5)}`,
      fromWall: (wall) => wall.slice(11),
    };
  return {
    read: (text, today) => readMoment(text, language, host.timeZone, today),
    write: (value) => (isMoment('dateTime', value) ? writeLocal(toLocal(value, host.timeZone), language) : String(value ?? '')),
    toWall: (value) => toLocal(value, host.timeZone),
    fromWall: (wall) => fromLocal(wall, host.timeZone),
  };
};

/** Such an editor of a form: kept in UTC where a time belongs to the day. */
export const dayOf = ({ store, item, id, change }: Place, drawn?: HTMLElement): Editor =>
  dayEditor(
    item.editor as DayEditor,
    {
      id,
      language: store.form.language,
      host: store.host,
      hint: item.hint,
      value: store.get(item.field),
      change,
    },
    drawn,
  );

/** Up and Down change the part the caret is in, Alt+Down and the button open the calendar. */
export function dayEditor(kind: DayEditor, { id, language, host, hint, value, change }: DayPlace, drawn?: HTMLElement): Editor {
  const { read: readText, write, toWall, fromWall } = kindOf(kind, language, host);
  const withDay = kind !== 'time';
  const element = drawn ?? dayControl(withDay);
  const input = dayInput(element);
  if (!drawn) sketchDay(element, kind, id, null, language, hint);
  const now = () => toLocal(host.now().toISOString(), host.timeZone);
  const read = (text: string) => readText(text, now().slice(0, 10));
  const editor = typed(element, input, value, { read, write, change });

  /** The wall clock's of what stands in the input; nothing where it is empty or cannot be read. */
  const wall = () => {
    const shown = read(input.value.trim());
    return shown && toWall(shown);
  };
  const take = (next: string) => {
    const taken = fromWall(next);
    input.value = write(taken);
    change(taken);
  };
  const step = (by: number) => {
    const at = wall();
    const part = at ? partAt(input.value, input.selectionStart ?? 0, kind, language) : undefined;
    if (input.value.trim() !== '' && !at) return;
    take(at && part ? stepped(at, part, by) : now());
    const span = part && placesOf(input.value, kind, language).find((each) => each.part === part);
    if (span) input.setSelectionRange(span.from, span.to);
    else input.select();
  };
  const open = () => {
    if (input.readOnly || input.disabled) return;
    void import('./calendar.ts').then(({ openCalendar }) =>
      openCalendar({
        element,
        input,
        language,
        day: wall()?.slice(0, 10),
        today: now().slice(0, 10),
        timed: kind === 'date-time',
        choose: (chosen) => {
          if (chosen === null) {
            input.value = '';
            change(null);
          } else take(chosen === 'now' ? now() : `${chosen}T${wall()?.slice(11) ?? '00:00'}`);
        },
      }),
    );
  };
  input.addEventListener('keydown', (event) => {
    if (event.isComposing || event.ctrlKey || event.metaKey || event.shiftKey) return;
    const upOrDown = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (withDay && (event.key === 'F4' || (event.altKey && event.key === 'ArrowDown'))) open();
    else if (upOrDown !== 0 && !event.altKey) step(upOrDown);
    else return;
    event.preventDefault();
  });
  element.childNodes[1]?.addEventListener('click', open);
  return editor;
}
