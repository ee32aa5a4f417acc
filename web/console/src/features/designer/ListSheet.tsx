import { contentOf, type FormStore } from '#form';
import { useEffect, useState } from 'react';
import { answer, api, type RecordInfo } from '../../api/client.ts';
import { Cards, cardsBelow, cellText, ColumnWidths } from '../records/index.ts';
import { say } from '../../shell/configurator/texts.ts';
import { NoticeBox, Problem } from '../../ui/Notice.tsx';

type Column = NonNullable<ReturnType<typeof contentOf>['columns']>[number];

/** A list as its users will see it at a width, over live rows; each column is a part that can be laid out. */
export function ListSheet({ store, filter, width }: { store: FormStore; filter: string; width: number }) {
  const { form, host } = store;
  const { records, problem } = useRows(form.entity, (form.sort ?? []).join(','), filter);
  const columns = contentOf(form, width / 16).columns ?? [];
  const [first = ''] = form.sort ?? [];
  const filters = (form.filters ?? []).map((key) => form.fields[key]?.label ?? key);
  return (
    <div className="list-sheet" dir={store.form.language.startsWith('ar') ? 'rtl' : 'ltr'} lang={form.language}>
      <h1>{form.title}</h1>
      {filters.length > 0 && <p className="list-filters">{say('listSheet.filters', filters.join(', '))}</p>}
      <Problem text={problem} />
      {width / 16 < cardsBelow ? (
        <>
          <NoticeBox>{say('listSheet.underPixelsRecordsAreCards', cardsBelow * 16)}</NoticeBox>
          <Cards entity={form.entity} records={records.slice(0, 4)} host={host} />
        </>
      ) : columns.length === 0 ? (
        <p className="empty">{say('listSheet.noColumnsYetDragFields')}</p>
      ) : (
        <div className="table-frame">
          <table className="table">
            <colgroup>
              <ColumnWidths columns={columns} />
            </colgroup>
            <ColumnHeads columns={columns} first={first} />
            <tbody>
              {records.map((record) => (
                <tr key={record.id}>
                  {columns.map((column) => (
                    <td key={column.id} data-column={column.id} data-align={column.align}>
                      {cellText(form, column, record, host.timeZone)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}

/** Some records of the list, as it is sorted and filtered; and why there are none. */
function useRows(entity: string, sort: string, filter: string) {
  const [records, setRecords] = useState<RecordInfo[]>([]);
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    let left = false;
    const query = { limit: 12, ...(sort ? { sort } : {}), ...(filter ? { filter } : {}) };
    answer(api.GET('/api/records/{entity}', { params: { path: { entity }, query } })).then(
      (found) => {
        if (left) return;
        setRecords(found.records);
        setProblem(undefined);
      },
      (error: Error) => {
        if (!left) setProblem(error.message);
      },
    );
    return () => {
      left = true;
    };
  }, [entity, sort, filter]);
  return { records, problem };
}

/** The columns by their labels, and which one it is sorted by. */
function ColumnHeads({ columns, first }: { columns: readonly Column[]; first: string }) {
  return (
    <thead>
      <tr>
        {columns.map((column) => (
          <th key={column.id} scope="col" className="list-column" data-node={column.id} data-column={column.id} data-align={column.align}>
            {column.label}
            {first.replace('-', '') === column.field ? (first.startsWith('-') ? ' ↓' : ' ↑') : ''}
          </th>
        ))}
      </tr>
    </thead>
  );
}
