import { contentOf, filled, FormStore, type ResolvedForm } from '#form';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { lazy, Suspense, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { answer, api, type EntitySummary, type RecordInfo } from '../../api/client.ts';
import { Form } from '../../shell/Form.tsx';
import { acknowledgeRelease } from '../../shell/events.ts';
import { useServerEvents, useSession, useWords } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { may, formHost } from '../../shell/session.ts';
import { Cards } from './Cards.tsx';
import { cardsBelow } from './cardsBelow.ts';
import { filterCondition, filterForm } from './filters.ts';
import { readPublishedForm } from '../../runtime/publishedForm.ts';
import { cellText, ColumnWidths } from './table.tsx';
import { useViews, Views, type View } from './Views.tsx';

const BulkDialog = lazy(() => import('./BulkDialog.tsx').then((module) => ({ default: module.BulkDialog })));
const ImportDialog = lazy(() => import('./ImportDialog.tsx').then((module) => ({ default: module.ImportDialog })));

const plain: View = { search: '', sort: '', filters: {}, names: {} };

const storedView = (entity: string): View => {
  try {
    return { ...plain, ...(JSON.parse(sessionStorage.getItem(`list:${entity}`) ?? '{}') as Partial<View>) };
  } catch {
    return plain;
  }
};

/** How long it is until a page of a list that did not arrive is asked for again, in milliseconds. */
const again = 2_000;

/** The records of an entity, as the published list has them. */
export function ListPage({ entity }: { entity: EntitySummary }) {
  const session = useSession();
  const say = useWords();
  const [list, setList] = useState<ResolvedForm>();
  const [filterStore, setFilterStore] = useState<FormStore>();
  const [view, setView] = useState<View>(() => storedView(entity.key));
  const [records, setRecords] = useState<RecordInfo[]>();
  const [page, setPage] = useState<{ next: string | null; total: number; exact: boolean }>({ next: null, total: 0, exact: true });
  const [problem, setProblem] = useState<string>();
  const [rem, setRem] = useState(80);
  const [filtering, setFiltering] = useState(() => Object.keys(view.filters).length > 0);
  const [taking, setTaking] = useState(false);
  const [selected, setSelected] = useState<ReadonlySet<number>>(new Set());
  const [changing, setChanging] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  const loadCount = useRef(0);
  const views = useViews(entity.key);
  const around = useMemo(() => formHost(), []);

  const filtersOf = useCallback(
    (form: ResolvedForm, taken: View) =>
      form.filters?.length ? new FormStore(filterForm(form, say), taken.filters, taken.names, around) : undefined,
    [say, around],
  );
  const fetchList = useCallback(() => {
    readPublishedForm(entity.key, 'list', 'view').then(
      (served) => {
        setList(served.form);
        acknowledgeRelease(served.release);
        setFilterStore(filtersOf(served.form, storedView(entity.key)));
      },
      (error: Error) => setProblem(error.message),
    );
  }, [entity.key, filtersOf]);
  useEffect(fetchList, [fetchList]);
  useServerEvents(
    useCallback(
      (event) => {
        if (event.type === 'release') fetchList();
      },
      [fetchList],
    ),
  );
  useEffect(
    () =>
      filterStore?.subscribe('values', () => {
        const set = filled(filterStore.allValues());
        const names = Object.fromEntries(
          Object.keys(set).flatMap((key) => {
            const name = filterStore.name(key);
            return name ? [[key, name]] : [];
          }),
        );
        setView((before) => (JSON.stringify(before.filters) === JSON.stringify(set) ? before : { ...before, filters: set, names }));
      }),
    [filterStore],
  );

  const condition = list ? filterCondition(list, view.filters, (day) => new Date(`${day}T00:00:00`).toISOString().replace('.000', '')) : '';
  const load = useCallback(
    (after?: string) => {
      const ask = after ? loadCount.current : ++loadCount.current;
      const query = {
        listed: true,
        ...(view.search ? { q: view.search } : {}),
        ...(view.sort ? { sort: view.sort } : {}),
        ...(condition ? { filter: condition } : {}),
        ...(after ? { after } : {}),
      };
      answer(api.GET('/api/records/{entity}', { params: { path: { entity: entity.key }, query } })).then(
        (found) => {
          // Answers may overtake each other; only the last question counts.
          if (ask !== loadCount.current) return;
          setProblem(undefined);
          setRecords((before) => (after ? [...(before ?? []), ...found.records] : found.records));
          if (!after) setSelected(new Set());
          setPage({ next: found.next ?? null, total: found.total, exact: found.exact ?? true });
        },
        (error: Error) => {
          setProblem(error.message);
          // The rest of the list is tried again after a while.
          if (after) setTimeout(() => setPage((before) => ({ ...before })), again);
        },
      );
    },
    [entity.key, view.search, view.sort, condition],
  );
  useEffect(() => {
    sessionStorage.setItem(`list:${entity.key}`, JSON.stringify(view));
  }, [entity.key, view]);
  useEffect(() => {
    const wait = setTimeout(load, view.search || condition ? 150 : 0);
    return () => clearTimeout(wait);
  }, [load, view.search, condition]);

  useEffect(() => {
    if (!frame.current) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setRem(entry.contentRect.width / parseFloat(getComputedStyle(document.documentElement).fontSize));
    });
    observer.observe(frame.current);
    return () => observer.disconnect();
  }, [list]);

  // The next page is fetched when the end of this one comes near.
  // Records may be here before the list that draws them: the end is watched from when it is drawn.
  const [end, setEnd] = useState<HTMLDivElement | null>(null);
  useEffect(() => {
    if (!end || page.next === null) return undefined;
    const next = page.next;
    // Each page is asked for once; the answer brings the next watch, which looks at once whether its end is near already.
    const observer = new IntersectionObserver(
      (entries) => {
        if (!entries.some((entry) => entry.isIntersecting)) return;
        observer.disconnect();
        load(next);
      },
      { rootMargin: '400px' },
    );
    observer.observe(end);
    return () => observer.disconnect();
  }, [page, load, end]);

  if (!list)
    return problem ? (
      <p className="notice" role="alert">
        {problem}
      </p>
    ) : (
      <p className="waiting">{say('loading')}</p>
    );
  const content = contentOf(list, rem);
  const set = Object.keys(view.filters).length;
  const counted = say(page.exact ? 'count' : 'countMore', page.total);
  const showView = (next: View) => {
    setView({ ...plain, ...next });
    setFilterStore(filtersOf(list, next));
  };
  return (
    <>
      <header className="page-head">
        <h1>{list.title || entity.plural}</h1>
        <input
          className="bt-input search"
          type="search"
          placeholder={say('search', entity.plural.toLowerCase())}
          aria-label={say('search', entity.plural.toLowerCase())}
          value={view.search}
          onChange={(event) => setView({ ...view, search: event.target.value })}
        />
        {filterStore && (
          <button type="button" className="button" aria-expanded={filtering} onClick={() => setFiltering(!filtering)}>
            {say('filters')}
            {set > 0 && <span className="count">{set}</span>}
          </button>
        )}
        {may(session, 'write-records') && (
          <a className="button primary" href={address('records', entity.key, 'new')}>
            {say('make', entity.label.toLowerCase())}
          </a>
        )}
      </header>
      <Views views={views} view={view} onTake={showView} />
      {filterStore && filtering && (
        <section className="filters" aria-label={say('filters')}>
          <Form store={filterStore} />
          {set > 0 && (
            <button
              type="button"
              className="bt-clear"
              onClick={() => {
                for (const key of Object.keys(view.filters)) filterStore.set(key, null);
              }}
            >
              {say('clearFilters')}
            </button>
          )}
        </section>
      )}
      {problem && (
        <p className="notice" data-tone="bad" role="alert">
          {problem}
        </p>
      )}
      {selected.size > 0 && (
        <p className="selection" role="status">
          {say('selected', selected.size)}
          <button type="button" className="button" onClick={() => setChanging(true)}>
            {say('bulkChange', selected.size)}
          </button>
          <button type="button" className="bt-link" onClick={() => setSelected(new Set())}>
            {say('selectNone')}
          </button>
        </p>
      )}
      <div ref={frame}>
        {records && records.length === 0 ? (
          <p className="empty">
            {view.search ? say('noResults', view.search) : set > 0 ? say('noMatches') : say('noneYet', entity.plural.toLowerCase())}
          </p>
        ) : rem < cardsBelow ? (
          <Cards entity={entity.key} records={records ?? []} host={around} />
        ) : (
          <Table
            entity={entity.key}
            selected={may(session, 'write-records') ? selected : undefined}
            onSelect={setSelected}
            list={list}
            columns={content.columns ?? []}
            records={records ?? []}
            sort={view.sort || (list.sort ?? []).join(',')}
            onSort={(sort) => setView({ ...view, sort })}
            timeZone={around.timeZone}
          />
        )}
      </div>
      <div ref={setEnd} />
      <div className="page-foot">
        <span role="status">{records && counted}</span>
        <span className="bar-space" />
        <a
          className="button"
          href={`/api/records/${encodeURIComponent(entity.key)}/csv?${new URLSearchParams({ listed: 'true', ...(view.search ? { q: view.search } : {}), ...(view.sort ? { sort: view.sort } : {}), ...(condition ? { filter: condition } : {}) })}`}
          download
        >
          {say('exportCsv')}
        </a>
        {may(session, 'write-records') && (
          <button type="button" className="button" onClick={() => setTaking(true)}>
            {say('importCsv')}
          </button>
        )}
      </div>
      {changing && (
        <Suspense>
          <BulkDialog
            entity={entity.key}
            records={(records ?? []).filter((record) => selected.has(record.id))}
            onClose={(changed) => {
              setChanging(false);
              if (changed) load();
            }}
          />
        </Suspense>
      )}
      {taking && (
        <Suspense>
          <ImportDialog
            entity={entity.key}
            onClose={(taken) => {
              setTaking(false);
              if (taken) load();
            }}
          />
        </Suspense>
      )}
    </>
  );
}

interface TableProps {
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

function Table({ entity, list, columns, records, sort, onSort, timeZone, selected, onSelect }: TableProps) {
  const say = useWords();
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
  const [first] = sort.split(',');
  const next = (field: string) => (first === field ? `-${field}` : first === `-${field}` ? '' : field);
  const all = selected !== undefined && records.length > 0 && records.every((record) => selected.has(record.id));
  const choose = (id: number, on: boolean) => onSelect(new Set(on ? [...selected!, id] : [...selected!].filter((each) => each !== id)));
  const space = columns.length + (selected ? 1 : 0);
  return (
    <div className="table-frame">
      <table className="table" aria-rowcount={records.length + 1}>
        <colgroup>
          {selected && <col className="table-choice" />}
          <ColumnWidths columns={columns} />
        </colgroup>
        <thead>
          <tr>
            {selected && (
              <th className="table-choice">
                <input
                  type="checkbox"
                  aria-label={say('selectAll')}
                  checked={all}
                  onChange={() => onSelect(new Set(all ? [] : records.map((record) => record.id)))}
                />
              </th>
            )}
            {columns.map((column) => (
              <th
                key={column.id}
                scope="col"
                data-align={column.align}
                aria-sort={first === column.field ? 'ascending' : first === `-${column.field}` ? 'descending' : 'none'}
              >
                <button type="button" onClick={() => onSort(next(column.field))}>
                  {column.label}
                  <span aria-hidden>{first === column.field ? ' ↑' : first === `-${column.field}` ? ' ↓' : ''}</span>
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody ref={body}>
          {before > 0 && (
            <tr className="table-space" aria-hidden>
              <td colSpan={space} style={{ height: before }} />
            </tr>
          )}
          {shown.map(({ index }) => {
            const record = records[index]!;
            return (
              <tr
                key={record.id}
                data-index={index}
                ref={rows.measureElement}
                aria-rowindex={index + 2}
                data-selected={selected?.has(record.id) ? '' : undefined}
              >
                {selected && (
                  <td className="table-choice">
                    <input
                      type="checkbox"
                      aria-label={say('selectOne', record.title)}
                      checked={selected.has(record.id)}
                      onChange={(event) => choose(record.id, event.target.checked)}
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
          })}
          {after > 0 && (
            <tr className="table-space" aria-hidden>
              <td colSpan={space} style={{ height: after }} />
            </tr>
          )}
        </tbody>
      </table>
    </div>
  );
}
