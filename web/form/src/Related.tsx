import { useId, useRef } from 'react';
import { editor } from './editors/Editor.tsx';
import { Heading } from './Heading.tsx';
import { StoreContext, useRelated, useStore, useTold } from './hooks.ts';
import type { RelatedRows, Row } from './related.ts';
import { say } from './texts.ts';
import type { FieldType, RelatedItem } from './types.ts';
import { display, isNumeric } from './values.ts';

interface RelatedProps {
  item: RelatedItem;
  ghost: { why: string | undefined; className: (name: string) => string };
}

/** Records that point at the one in the form, as a grid: Enter goes a row down and makes one at the end, the arrows go up and down, with Alt they move the row. */
export function Related({ item, ghost }: RelatedProps) {
  const store = useStore();
  const rows = useRelated(item);
  const { readOnly } = store.state(item.id);
  const heading = useId();
  const grid = useRef<HTMLDivElement>(null);
  const { language, mode } = store.form;
  const locked = readOnly || mode === 'view' || store.designing;
  const focus = (at: number, field: string) => requestAnimationFrame(() => {
    const row = grid.current?.querySelectorAll<HTMLElement>('[data-row]')[at];
    const control = [...(row?.querySelectorAll<HTMLElement>('[data-field]') ?? [])].find((cell) => cell.dataset.field === field)?.querySelector<HTMLElement>('input, select, textarea');
    control?.focus();
    if (control instanceof HTMLInputElement && control.type === 'text') control.select();
  });
  const add = (field = item.shows?.[0] ?? '') => {
    rows.add();
    focus(rows.rows.length - 1, field);
  };
  const onKeyDown = (event: React.KeyboardEvent<HTMLElement>) => {
    const target = event.target as HTMLElement;
    const field = target.closest('[data-field]')?.getAttribute('data-field');
    const at = [...(grid.current?.querySelectorAll('[data-row]') ?? [])].indexOf(target.closest('[data-row]')!);
    if (locked || !field || at < 0 || event.defaultPrevented || event.nativeEvent.isComposing) return;
    const plain = target instanceof HTMLInputElement && target.getAttribute('role') !== 'combobox' && !['date', 'time', 'datetime-local', 'range', 'radio'].includes(target.type);
    if (event.key === 'Enter' && plain) {
      event.preventDefault();
      if (at === rows.rows.length - 1) add(field);
      else focus(at + 1, field);
    } else if (event.key === 'ArrowDown' && plain && !event.altKey && at < rows.rows.length - 1) {
      event.preventDefault();
      focus(at + 1, field);
    } else if (event.key === 'ArrowUp' && plain && !event.altKey && at > 0) {
      event.preventDefault();
      focus(at - 1, field);
    } else if (event.altKey && item.order && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      event.preventDefault();
      const to = at + (event.key === 'ArrowUp' ? -1 : 1);
      rows.move(rows.rows[at]!, to);
      focus(Math.max(0, Math.min(to, rows.rows.length - 1)), field);
    } else if (event.key === 'Delete' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      rows.remove(rows.rows[at]!);
      focus(Math.max(0, Math.min(at, rows.rows.length - 1)), field);
    }
  };
  return (
    <div className={ghost.className('bt-item bt-related')} title={ghost.why} data-node={item.id} data-as={item.as} ref={grid} onKeyDown={onKeyDown}>
      <Heading className="bt-heading" id={heading}>{item.label}</Heading>
      {rows.state === 'failed' && <p className="bt-error" role="alert">{say(language, 'rowsFailed')} <button type="button" className="bt-link" onClick={() => void rows.load(store.record)}>{say(language, 'readAgain')}</button></p>}
      {rows.rows.length === 0 && rows.state === 'here' ? <p className="bt-text">{say(language, 'noRows')}</p> : <Grid item={item} rows={rows} locked={locked} labelledBy={heading} />}
      {!locked && <button type="button" className="bt-action bt-add" onClick={() => add()}>{say(language, 'addRow', item.label)}</button>}
    </div>
  );
}

function Grid({ item, rows, locked, labelledBy }: { item: RelatedItem; rows: RelatedRows; locked: boolean; labelledBy: string }) {
  const { form: { language }, surroundings: { timeZone } } = useStore();
  const shows = (item.shows ?? []).filter((key) => item.fields[key]);
  const sums = item.totals ?? [];
  return (
    <table className="bt-grid" aria-labelledby={labelledBy}>
      <colgroup>{shows.map((key) => <col key={key} data-type={item.fields[key]!.type} />)}{!locked && <col className="bt-grid-acts" data-moves={item.order ? '' : undefined} />}</colgroup>
      <thead>
        <tr>
          {shows.map((key) => <th key={key} scope="col" data-number={isNumeric(item.fields[key]!.type) ? '' : undefined}>{item.fields[key]!.label}{item.fields[key]!.required && !locked && <span className="bt-required" aria-hidden> *</span>}</th>)}
          {!locked && <th><span className="bt-visually-hidden">{say(language, 'remove')}</span></th>}
        </tr>
      </thead>
      <tbody>
        {rows.rows.map((row, i) => (
          <StoreContext key={row.key} value={row.store}>
            <tr data-row={row.id ?? 'new'} aria-label={say(language, 'rowNumber', String(i + 1))}>
              {shows.map((key) => <GridCell key={key} row={row} field={key} type={item.fields[key]!} locked={locked} />)}
              {!locked && (
                <td className="bt-grid-acts">
                  {item.order && <button type="button" className="bt-clear" disabled={i === 0} aria-label={say(language, 'rowUp', String(i + 1))} onClick={() => rows.move(row, i - 1)}>↑</button>}
                  {item.order && <button type="button" className="bt-clear" disabled={i === rows.rows.length - 1} aria-label={say(language, 'rowDown', String(i + 1))} onClick={() => rows.move(row, i + 1)}>↓</button>}
                  <button type="button" className="bt-clear" aria-label={say(language, 'removeRow', String(i + 1))} onClick={() => rows.remove(row)}>×</button>
                </td>
              )}
            </tr>
          </StoreContext>
        ))}
      </tbody>
      {sums.length > 0 && rows.rows.length > 0 && (
        <tfoot>
          <tr>
            {shows.map((key, i) => {
              const sum = sums.includes(key) ? display(item.fields[key]!, rows.total(key), language, timeZone) : undefined;
              return i === 0 ? <th key={key} scope="row">{say(language, 'total')}{sum ? ` ${sum}` : ''}</th> : <td key={key} data-number={isNumeric(item.fields[key]!.type) ? '' : undefined}>{sum}</td>;
            })}
            {!locked && <td />}
          </tr>
        </tfoot>
      )}
    </table>
  );
}

/** One value of a row; its label is the column's heading. */
function GridCell({ row, field, type, locked }: { row: Row; field: string; type: FieldType; locked: boolean }) {
  const store = useTold(`field:${field}`);
  const error = store.error(field);
  const id = useId();
  const item = row.store.fieldItem(field)!;
  return (
    <td data-field={field} data-label={type.label} data-number={isNumeric(type.type) ? '' : undefined} data-error={error ? '' : undefined} onBlur={() => row.store.leave(field)}>
      <label className="bt-visually-hidden" id={`${id}-label`} htmlFor={locked ? undefined : id}>{type.label}</label>
      {editor({
        item, type, value: store.get(field), id, labelId: `${id}-label`, required: type.required === true, readOnly: locked,
        invalid: error !== undefined, describedBy: error ? `${id}-error` : undefined, onChange: (next) => row.store.set(field, next),
      })}
      {error && <p className="bt-error" id={`${id}-error`}>{error}</p>}
    </td>
  );
}
