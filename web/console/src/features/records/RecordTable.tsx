import { type ResolvedForm } from '#form';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type MouseEvent, type Ref } from 'react';
import type { RecordInfo } from '../../api/client.ts';
import { useWords } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { cellText, ColumnWidths } from './table.tsx';

interface RecordTableProps {
  entity: string;
  list: ResolvedForm;
  columns: NonNullable<ResolvedForm['columns']>;
  records: RecordInfo[];
  sort: string;
  onSort: (sort: string) => void;
  timeZone: string;
  /** The records chosen for a change together; undefined where nothing may be changed. */
  selected: ReadonlySet<number> | undefined;
  onSelect: (selected: ReadonlySet<number>) => void;
}

/** Records as rows, those that are drawn that can be seen. */
export function RecordTable({ entity, list, columns, records, sort, onSort, timeZone, selected, onSelect }: RecordTableProps) {
  const body = useRef<HTMLTableSectionElement>(null);
  const [offset, setOffset] = useState(0);
  useLayoutEffect(() => {
    if (body.current) setOffset(body.current.getBoundingClientRect().top + window.scrollY);
  }, [records]);
  // Of a long list only the rows in sight are drawn.
  const rows = useWindowVirtualizer({ count: records.length, estimateSize: () => 45, overscan: 20, scrollMargin: offset });
  const shown = rows.getVirtualItems();
  const before = (shown[0]?.start ?? offset) - offset;
  const after = rows.getTotalSize() - ((shown.at(-1)?.end ?? offset) - offset);
  const all = selected === undefined ? undefined : records.length > 0 && records.every((record) => selected.has(record.id));
  const choose = (id: number, on: boolean) => onSelect(new Set(on ? [...selected!, id] : [...selected!].filter((each) => each !== id)));
  const space = columns.length + (selected ? 1 : 0);
  return (
    <div className="table-frame">
      <table className="table" aria-rowcount={records.length + 1}>
        <colgroup>
          {selected && <col className="table-choice" />}
          <ColumnWidths columns={columns} />
        </colgroup>
        <TableHead
          columns={columns}
          sort={sort}
          onSort={onSort}
          all={all}
          onAll={(on) => onSelect(new Set(on ? records.map((record) => record.id) : []))}
        />
        <tbody ref={body}>
          <Space height={before} columns={space} />
          {shown.map(({ index }) => (
            <RecordRow
              key={records[index]!.id}
              ref={rows.measureElement}
              index={index}
              record={records[index]!}
              {...{ entity, list, columns, timeZone }}
              selected={selected?.has(records[index]!.id)}
              onChoose={(on) => choose(records[index]!.id, on)}
            />
          ))}
          <Space height={after} columns={space} />
        </tbody>
      </table>
    </div>
  );
}

const arrows = { ascending: ' ↑', descending: ' ↓', none: '' };

interface TableHeadProps extends Pick<RecordTableProps, 'columns' | 'sort' | 'onSort'> {
  /** Whether all are chosen; nothing where nothing may be changed. */
  all: boolean | undefined;
  onAll: (on: boolean) => void;
}

/** The columns, each a press to sort by: up, down, as before. */
function TableHead({ columns, sort, onSort, all, onAll }: TableHeadProps) {
  const say = useWords();
  const [first] = sort.split(',');
  const next = (field: string) => (first === field ? `-${field}` : first === `-${field}` ? '' : field);
  const sorted = (field: string) => (first === field ? 'ascending' : first === `-${field}` ? 'descending' : 'none');
  return (
    <thead>
      <tr>
        {all !== undefined && (
          <th className="table-choice">
            <input type="checkbox" aria-label={say('selectAll')} checked={all} onChange={() => onAll(!all)} />
          </th>
        )}
        {columns.map((column) => (
          <th key={column.id} scope="col" data-align={column.align} aria-sort={sorted(column.field)}>
            <button type="button" onClick={() => onSort(next(column.field))}>
              {column.label}
              <span aria-hidden>{arrows[sorted(column.field)]}</span>
            </button>
          </th>
        ))}
      </tr>
    </thead>
  );
}

interface RecordRowProps extends Pick<RecordTableProps, 'entity' | 'list' | 'columns' | 'timeZone'> {
  index: number;
  record: RecordInfo;
  /** Whether it is chosen; nothing where nothing may be changed. */
  selected: boolean | undefined;
  onChoose: (chosen: boolean) => void;
  ref: Ref<HTMLTableRowElement>;
}

/** A row opens its record wherever it is pressed, as its link would: with Ctrl or the middle button beside. Text in it can be selected. */
function openRow(event: MouseEvent<HTMLTableRowElement>): void {
  const beside = event.ctrlKey || event.metaKey || event.button === 1;
  if (event.button > 1 || (event.target as Element).closest('a, button, input, label')) return;
  if (!window.getSelection()?.isCollapsed) return;
  const link = event.currentTarget.querySelector<HTMLAnchorElement>('.row-link');
  if (beside && link) window.open(link.href, '_blank', 'noopener');
  else link?.click();
}

function RecordRow({ entity, list, columns, timeZone, index, record, selected, onChoose, ref }: RecordRowProps) {
  const say = useWords();
  return (
    <tr
      data-index={index}
      ref={ref}
      aria-rowindex={index + 2}
      data-selected={selected ? '' : undefined}
      onClick={openRow}
      onAuxClick={openRow}
    >
      {selected !== undefined && (
        <td className="table-choice">
          <input
            type="checkbox"
            aria-label={say('selectOne', record.title)}
            checked={selected}
            onChange={(event) => onChoose(event.target.checked)}
          />
        </td>
      )}
      {columns.map((column, i) => {
        const text = cellText(list, column, record, timeZone);
        return (
          <td key={column.id} data-align={column.align}>
            {i === 0 ? (
              <a className="row-link" href={address('records', entity, record.id)}>
                {text || record.title}
              </a>
            ) : (
              text
            )}
          </td>
        );
      })}
    </tr>
  );
}

/** The room of rows that are out of sight. */
function Space({ height, columns }: { height: number; columns: number }) {
  return (
    height > 0 && (
      <tr className="table-space" aria-hidden>
        <td colSpan={columns} style={{ height }} />
      </tr>
    )
  );
}
