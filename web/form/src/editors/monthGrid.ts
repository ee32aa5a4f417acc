import { getWeeksInMonth, isSameMonth, parseDate, startOfMonth, startOfWeek, type CalendarDate } from '@internationalized/date';
import { make, place } from '../dom/dom.ts';
import { isRightToLeft, type Language } from '../model/texts.ts';
import { dateLocale } from '../values/locale.ts';

/** A month as a grid of days, and the day the keys stand at. */
export interface MonthGrid {
  readonly element: HTMLTableElement;
  readonly at: CalendarDate;
  show: (day: CalendarDate) => void;
  focus: () => void;
}

/**
 * By the ARIA practices: arrows go by day and week, Page Up and Down by month, with Shift by year.
 * @param day the day that is chosen already, and today, in ISO 8601
 */
export function monthGrid(
  language: Language,
  day: string | undefined,
  today: string,
  on: { shown: (at: CalendarDate) => void; choose: (day: string) => void },
): MonthGrid {
  const locale = dateLocale(language);
  const days = new Intl.DateTimeFormat(locale, { dateStyle: 'full', calendar: 'gregory', numberingSystem: 'latn', timeZone: 'UTC' });
  const week = [...Array(7).keys()];
  const weekday = (width: 'long' | 'short' | 'narrow', first: CalendarDate, i: number) =>
    new Intl.DateTimeFormat(locale, { weekday: width, timeZone: 'UTC' }).format(first.add({ days: i }).toDate('UTC'));
  // Some languages write no day short.
  const width = week.every((i) => weekday('short', parseDate(today), i).length <= 4) ? 'short' : 'narrow';
  const head = make('tr');
  const body = make('tbody');
  const element = make('table', { role: 'grid', on: { keydown: onKey } }, make('thead', {}, head), body);
  let at = parseDate(day ?? today);

  function show(next: CalendarDate) {
    at = next;
    const first = startOfWeek(startOfMonth(at), locale);
    place(
      head,
      week.map((i) => make('th', { scope: 'col', 'aria-label': weekday('long', first, i) }, weekday(width, first, i))),
    );
    place(
      body,
      [...Array(getWeeksInMonth(at, locale)).keys()].map((w) => make('tr', {}, ...week.map((i) => cell(first.add({ days: w * 7 + i }))))),
    );
    on.shown(at);
  }

  function cell(of: CalendarDate) {
    const iso = of.toString();
    return make(
      'td',
      {
        role: 'gridcell',
        tabindex: of.compare(at) === 0 ? 0 : -1,
        'aria-selected': String(iso === day),
        'aria-current': iso === today ? 'date' : undefined,
        'aria-label': days.format(of.toDate('UTC')),
        'data-beside': !isSameMonth(of, at),
        on: { click: () => on.choose(iso) },
      },
      String(of.day),
    );
  }

  const focus = () => body.querySelector<HTMLElement>('[tabindex="0"]')?.focus();

  function onKey(event: KeyboardEvent) {
    const next = stepped(at, event, isRightToLeft(language), locale);
    if (next) {
      show(next);
      focus();
    } else if (event.key === 'Enter' || event.key === ' ') on.choose(at.toString());
    else return;
    event.preventDefault();
  }

  return {
    element,
    get at() {
      return at;
    },
    show,
    focus,
  };
}

/** The day a key leads to; nothing where it leads nowhere. */
function stepped(at: CalendarDate, { key, shiftKey }: KeyboardEvent, rightToLeft: boolean, locale: string): CalendarDate | undefined {
  const sideways = rightToLeft ? -1 : 1;
  const far = shiftKey ? { years: 1 } : { months: 1 };
  const to: Record<string, () => CalendarDate> = {
    ArrowLeft: () => at.subtract({ days: sideways }),
    ArrowRight: () => at.add({ days: sideways }),
    ArrowUp: () => at.subtract({ weeks: 1 }),
    ArrowDown: () => at.add({ weeks: 1 }),
    Home: () => startOfWeek(at, locale),
    End: () => startOfWeek(at, locale).add({ days: 6 }),
    PageUp: () => at.subtract(far),
    PageDown: () => at.add(far),
  };
  return to[key]?.();
}
