import type { FormRow, FormRows } from '../state/store.ts';
import { fromText, pastedCells } from '../values/pastedValues.ts';
import { isRightToLeft } from '../model/texts.ts';
import type { Json } from '../model/types.ts';

/** The grid in which keys are pressed, as far as they have to know. */
export interface GridPlace {
  element: HTMLElement;
  rows: FormRows;
  locked: boolean;
  language: string;
  timeZone: string;
  /** What is shown of a row, in order. */
  shows: string[];
  /** Whether rows have an order of their own. */
  ordered: boolean;
  focus: (at: number, field: string) => void;
  add: (field: string) => void;
  move: (row: FormRow, to: number) => void;
  remove: (row: FormRow) => void;
  pasted: (report: PastedCells) => void;
}

/** What pasting did: cells that were filled, texts that could not be read, and the way back. */
export interface PastedCells {
  filled: number;
  unread: string[];
  takeBack: () => void;
}

/** The cell an event is in; nothing where grid keys mean nothing. */
function cellOf(grid: GridPlace, event: Event) {
  const target = event.target as HTMLElement;
  const field = target.closest('[data-field]')?.getAttribute('data-field');
  const at = [...grid.element.querySelectorAll('[data-row]')].indexOf(target.closest('[data-row]')!);
  return grid.locked || !field || at < 0 || event.defaultPrevented ? undefined : { target, field, at };
}

/** Whether leaving a text sideways is meant: all of it is marked, or the caret stands at its end on that side. */
function atEdge(input: HTMLInputElement, back: boolean): boolean {
  if (input.type === 'checkbox') return true;
  const {
    selectionStart: start,
    selectionEnd: end,
    value: { length },
  } = input;
  return start === null || (start === 0 && end === length) || (start === end && start === (back ? 0 : length));
}

/**
 * Keys as in a spreadsheet: Enter goes down and makes a row at the end; arrows go up and down, and sideways from the edge of what is typed;
 * with Alt
 * they move the row; Ctrl+D takes what stands above; Ctrl+Delete removes the row.
 */
export function gridKeys(grid: GridPlace, event: KeyboardEvent): void {
  const cell = cellOf(grid, event);
  if (!cell || event.isComposing) return;
  const { target, field, at } = cell;
  const { rows } = grid.rows;
  const plain =
    target instanceof HTMLInputElement && target.getAttribute('role') !== 'combobox' && !['range', 'radio'].includes(target.type);
  const ctrl = event.ctrlKey || event.metaKey;
  const focusCell = (to: number, column = field) => {
    event.preventDefault();
    grid.focus(to, column);
  };
  if (event.altKey && grid.ordered && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    const to = Math.max(0, Math.min(at + (event.key === 'ArrowUp' ? -1 : 1), rows.length - 1));
    grid.move(rows[at]!, to);
    focusCell(to);
  } else if (ctrl && event.key === 'Delete') {
    event.preventDefault();
    grid.remove(rows[at]!);
  } else if (ctrl && event.key.toLowerCase() === 'd' && at > 0) {
    event.preventDefault();
    const [from, to] = [rows[at - 1]!.store, rows[at]!.store];
    const name = from.name(field);
    if (name) to.remember(field, name);
    to.set(field, from.get(field));
  } else if (plain && !ctrl && !event.altKey && !event.shiftKey) {
    if (event.key === 'Enter') {
      if (at < rows.length - 1) return focusCell(at + 1);
      event.preventDefault();
      grid.add(field);
    } else if (event.key === 'ArrowDown' && at < rows.length - 1) focusCell(at + 1);
    else if (event.key === 'ArrowUp' && at > 0) focusCell(at - 1);
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
      const back = (event.key === 'ArrowLeft') !== isRightToLeft(grid.language);
      const next = grid.shows[grid.shows.indexOf(field) + (back ? -1 : 1)];
      // In a text the caret moves in the text's own direction until it is at the edge.
      if (next && atEdge(target, (getComputedStyle(target).direction === 'rtl') !== (event.key === 'ArrowLeft'))) focusCell(at, next);
    }
  }
}

/** Fills cells from the one in which several are pasted, to its side and below; rows are made where there are none. */
export function gridPaste(grid: GridPlace, event: ClipboardEvent): void {
  const cell = cellOf(grid, event);
  const text = event.clipboardData?.getData('text/plain').replace(/(\r\n|\n|\r)$/, '') ?? '';
  if (!cell || !/[\t\r\n]/.test(text) || (cell.target instanceof HTMLTextAreaElement && !text.includes('\t'))) return;
  event.preventDefault();
  const cells = pastedCells(text);
  const before: { row: FormRow; field: string; value: Json }[] = [];
  const made: FormRow[] = [];
  const report: PastedCells = {
    filled: 0,
    unread: [],
    takeBack: () => {
      for (const row of made) grid.rows.remove(row);
      for (const { row, field, value } of before) row.store.set(field, value);
    },
  };
  const setCell = (row: FormRow, field: string, value: Json) => {
    before.push({ row, field, value: row.store.get(field) });
    row.store.set(field, value);
    report.filled++;
  };
  const first = grid.shows.indexOf(cell.field);
  const changes = cells.flatMap((line, down) => {
    let row = grid.rows.rows[cell.at + down];
    if (!row) made.push((row = grid.rows.add()));
    const into = row;
    return line.flatMap((written, over) => {
      const field = grid.shows[first + over];
      const item = field === undefined ? undefined : into.store.fieldItem(field);
      if (field === undefined || !item || into.store.state(item.id).readOnly) {
        if (written.trim() !== '') report.unread.push(written);
        return [];
      }
      const type = grid.rows.item.fields[field]!;
      const value = fromText(type, written, grid.language, grid.timeZone);
      if (value !== undefined) setCell(into, field, value);
      else if (type.target) return [named(into, field, type.target, written.trim())];
      else report.unread.push(written);
      return [];
    });
  });
  void Promise.all(changes).then(() => grid.pasted(report));

  /** The one record that is called so; where there is none, or several, the cell stays as it is. */
  async function named(row: FormRow, field: string, target: string, title: string): Promise<void> {
    const names = await row.store.host.lookUp(target, title).catch(() => []);
    const called = names.filter((name) => name.title.toLowerCase() === title.toLowerCase());
    const [name] = called.length === 1 ? called : names.length === 1 ? names : [];
    if (!name) return void report.unread.push(title);
    row.store.remember(field, name);
    setCell(row, field, name.id);
  }
}
