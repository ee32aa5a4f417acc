import { display, type FieldType, type Values } from '#form';
import { useCallback, useEffect, useState } from 'react';
import { answer, api, type EntityInfo, type FieldInfo, type RecordInfo } from '../api/client.ts';
import { address } from '../shell/location.ts';
import { may, useSession } from '../shell/session.tsx';

const toType = (field: FieldInfo): FieldType => ({
  type: field.type, label: field.label, ...(field.unit ? { unit: field.unit } : {}), scale: field.scale ?? 2,
  choices: (field.choices ?? []).map((choice) => ({ key: choice.key, label: choice.label })),
});

/** The records of an entity: searched, sorted, opened. */
export function ListPage({ entity }: { entity: string }) {
  const session = useSession();
  const [info, setInfo] = useState<EntityInfo>();
  const [records, setRecords] = useState<RecordInfo[]>();
  const [next, setNext] = useState<string | null>();
  const [total, setTotal] = useState(0);
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState('');
  const [problem, setProblem] = useState<string>();
  const language = session.person!.language;

  const load = useCallback(
    (after?: string) => {
      const query = { ...(search ? { q: search } : {}), ...(sort ? { sort } : {}), ...(after ? { after } : {}) };
      answer(api.GET('/api/records/{entity}', { params: { path: { entity }, query } })).then(
        (page) => {
          setRecords((before) => (after ? [...(before ?? []), ...page.records] : page.records));
          setNext(page.next ?? null);
          setTotal(page.total);
        },
        (error: Error) => setProblem(error.message),
      );
    },
    [entity, search, sort],
  );
  useEffect(() => {
    answer(api.GET('/api/entities/{key}', { params: { path: { key: entity } } })).then(setInfo, (error: Error) => setProblem(error.message));
  }, [entity]);
  useEffect(() => {
    const wait = setTimeout(load, search ? 150 : 0);
    return () => clearTimeout(wait);
  }, [load, search]);

  if (problem) return <p className="notice" role="alert">{problem}</p>;
  if (!info) return null;
  const columns = info.listColumns.map((key) => info.fields.find((field) => field.key === key)!);
  return (
    <>
      <header className="page-head">
        <h1>{info.plural}</h1>
        <input className="bt-input search" type="search" placeholder={`Search ${info.plural.toLowerCase()}`} aria-label={`Search ${info.plural.toLowerCase()}`} value={search} onChange={(event) => setSearch(event.target.value)} />
        {may(session, 'write-records') && <a className="button primary" href={address('records', entity, 'new')}>New {info.label.toLowerCase()}</a>}
      </header>
      {records && records.length === 0 ? (
        <p className="empty">{search ? `Nothing has “${search}” in it.` : `There are no ${info.plural.toLowerCase()} yet.`}</p>
      ) : (
        <div className="table-frame">
          <table className="table">
            <thead>
              <tr>
                {columns.map((field) => (
                  <th key={field.key} scope="col" data-number={['integer', 'decimal', 'money'].includes(field.type) ? '' : undefined} aria-sort={sort === field.key ? 'ascending' : sort === `-${field.key}` ? 'descending' : 'none'}>
                    <button type="button" onClick={() => setSort(sort === field.key ? `-${field.key}` : sort === `-${field.key}` ? '' : field.key)}>
                      {field.label}<span aria-hidden>{sort === field.key ? ' ↑' : sort === `-${field.key}` ? ' ↓' : ''}</span>
                    </button>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {(records ?? []).map((record) => (
                <tr key={record.id}>
                  {columns.map((field, i) => {
                    const text = display(toType(field), (record.values as Values)[field.key], language, session.application.timeZone, record.references[field.key]);
                    return <td key={field.key} data-label={field.label} data-number={['integer', 'decimal', 'money'].includes(field.type) ? '' : undefined}>{i === 0 ? <a href={address('records', entity, record.id)}>{text || record.title}</a> : text}</td>;
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <footer className="page-foot">
        {records && <span>{records.length < total ? `${records.length} of ${total}` : total === 1 ? '1 record' : `${total} records`}</span>}
        {next && <button type="button" className="button" onClick={() => load(next)}>Show more</button>}
      </footer>
    </>
  );
}
