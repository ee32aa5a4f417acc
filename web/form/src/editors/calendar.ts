import { make } from '../dom/dom.ts';
import { placeBeneath } from '../dom/placeBeneath.ts';
import { say, type Language } from '../model/texts.ts';
import { dateLocale } from '../values/locale.ts';
import { monthGrid } from './monthGrid.ts';

/** What a calendar is opened for. Days are of ISO 8601. */
export interface CalendarPlace {
  /** The field's control, and the input in it, which has the focus again when the calendar is closed. */
  element: HTMLElement;
  input: HTMLInputElement;
  language: Language;
  day: string | undefined;
  today: string;
  /** Whether a time belongs to the day. */
  timed: boolean;
  /** Takes the day that was chosen; null is none. */
  choose: (day: string | 'now' | null) => void;
}

const monthNames = (locale: string) => {
  const format = new Intl.DateTimeFormat(locale, { month: 'long', calendar: 'gregory', timeZone: 'UTC' });
  return [...Array(12).keys()].map((month) => format.format(Date.UTC(2001, month, 1)));
};

/** Opens a calendar beneath a field. A second press on what opened it closes it. */
export function openCalendar({ element, input, language, day, today, timed, choose }: CalendarPlace): void {
  const before = element.querySelector<HTMLElement>('.bt-calendar');
  if (before) return before.hidePopover();
  const done = (chosen: string | null) => {
    choose(chosen);
    panel.hidePopover();
  };
  const grid = monthGrid(language, day, today, {
    choose: done,
    shown: (at) => {
      month.value = String(at.month);
      if (!year.matches(':focus')) year.value = String(at.year);
    },
  });
  const month = make(
    'select',
    { class: 'bt-input bt-select', 'aria-label': say(language, 'month') },
    ...monthNames(dateLocale(language)).map((name, i) => make('option', { value: i + 1 }, name)),
  );
  month.addEventListener('change', () => grid.show(grid.at.set({ month: Number(month.value) })));
  const year = make('input', { class: 'bt-input bt-number', type: 'text', inputmode: 'numeric', 'aria-label': say(language, 'year') });
  year.addEventListener('input', () => {
    if (/^[1-9]\d{3}$/.test(year.value)) grid.show(grid.at.set({ year: Number(year.value) }));
  });
  const button = (text: string, click: () => void, label?: string) =>
    make('button', { type: 'button', class: 'bt-clear', 'aria-label': label, on: { click } }, text);
  const turn = (mark: string, key: 'monthBefore' | 'monthAfter', months: number) =>
    button(mark, () => grid.show(grid.at.add({ months })), say(language, key));
  const panel = make(
    'div',
    { class: 'bt-calendar', role: 'dialog', popover: 'auto', 'aria-label': say(language, 'chooseDay') },
    make('div', { class: 'bt-calendar-head' }, turn('‹', 'monthBefore', -1), month, year, turn('›', 'monthAfter', 1)),
    grid.element,
    make(
      'div',
      { class: 'bt-calendar-foot' },
      timed ? button(say(language, 'now'), () => done('now')) : button(say(language, 'today'), () => done(today)),
      button(say(language, 'clear'), () => done(null)),
    ),
  );
  panel.addEventListener('keydown', (event) => {
    // What is pressed in here is nobody else's, and closing it is all that Escape does.
    event.stopPropagation();
    if (event.key === 'Escape') panel.hidePopover();
  });
  panel.addEventListener('beforetoggle', (event) => {
    // Whoever pressed elsewhere stays there.
    if (event.newState === 'closed' && panel.matches(':focus-within')) input.focus();
  });
  panel.addEventListener('toggle', (event) => {
    if (event.newState === 'closed') panel.remove();
  });
  element.append(panel);
  grid.show(grid.at);
  panel.showPopover();
  placeBeneath(panel, element, true);
  grid.focus();
}
