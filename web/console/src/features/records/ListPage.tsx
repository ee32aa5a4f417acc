import { contentOf } from '#form';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import type { EntitySummary } from '../../api/client.ts';
import { Form } from '../../shell/Form.tsx';
import { usePageTitle, useSession, useWords } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { may, formHost } from '../../shell/session.ts';
import { Cards } from './Cards.tsx';
import { cardsBelow } from './cardsBelow.ts';
import { RecordTable } from './RecordTable.tsx';
import { listQuery, useListView, useRecordPages } from './recordList.ts';
import { useViews, Views } from './Views.tsx';
import { NoticeBox, Problem } from '../../ui/Notice.tsx';
import '../../pages.css';

const BulkDialog = lazy(() => import('./BulkDialog.tsx').then((module) => ({ default: module.BulkDialog })));
const ImportDialog = lazy(() => import('./ImportDialog.tsx').then((module) => ({ default: module.ImportDialog })));

/** The list as it is looked at, and its records. */
type ListState = ReturnType<typeof useListView> & { pages: Omit<ReturnType<typeof useRecordPages>, 'setEnd'>; entity: EntitySummary };

/** The records of an entity, as the published list has them. */
export function ListPage({ entity }: { entity: EntitySummary }) {
  usePageTitle(entity.plural);
  const say = useWords();
  const host = useMemo(() => formHost(), []);
  const looked = useListView(entity, host);
  const { list, view, condition } = looked;
  const { setEnd, ...pages } = useRecordPages(entity.key, view, condition);
  const views = useViews(entity.key);
  const [filtering, setFiltering] = useState(() => Object.keys(view.filters).length > 0);
  const [open, setOpen] = useState<'import' | 'change'>();
  const problem = pages.problem ?? looked.problem;
  const notice = problem && <Problem text={problem} />;
  if (!list) return notice || <p className="waiting">{say('loading')}</p>;
  const shown: ListState = { ...looked, pages, entity };
  return (
    <>
      <ListHead shown={shown} filtering={filtering} onFiltering={setFiltering} />
      <Views views={views} view={view} onTake={looked.showView} />
      {filtering && <Filters shown={shown} />}
      {notice}
      {pages.doubt && (
        <NoticeBox>
          {pages.doubt.why}{' '}
          <button type="button" className="button" onClick={pages.doubt.agree}>
            {say('listAnyway')}
          </button>
        </NoticeBox>
      )}
      <SelectionLine shown={shown} onChange={() => setOpen('change')} />
      <Records shown={shown} />
      <div ref={setEnd} />
      <ListFoot shown={shown} onImport={() => setOpen('import')} />
      {open && <ListDialog shown={shown} open={open} onClose={() => setOpen(undefined)} />}
    </>
  );
}

interface ListHeadProps {
  shown: ListState;
  filtering: boolean;
  onFiltering: (filtering: boolean) => void;
}

function ListHead({ shown: { list, entity, view, setView, filterStore }, filtering, onFiltering }: ListHeadProps) {
  const session = useSession();
  const say = useWords();
  const set = Object.keys(view.filters).length;
  const sought = say('search', entity.plural.toLowerCase());
  return (
    <header className="page-head">
      <h1>{list!.title || entity.plural}</h1>
      <input
        className="bt-input search"
        type="search"
        placeholder={sought}
        aria-label={sought}
        value={view.search}
        onChange={(event) => setView({ ...view, search: event.target.value })}
      />
      {filterStore && (
        <button type="button" className="button" aria-expanded={filtering} onClick={() => onFiltering(!filtering)}>
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
  );
}

function Filters({ shown: { filterStore, view } }: { shown: ListState }) {
  const say = useWords();
  if (!filterStore) return null;
  const set = Object.keys(view.filters);
  return (
    <section className="filters" aria-label={say('filters')}>
      <Form store={filterStore} />
      {set.length > 0 && (
        <button type="button" className="bt-clear" onClick={() => set.forEach((key) => filterStore.set(key, null))}>
          {say('clearFilters')}
        </button>
      )}
    </section>
  );
}

/** What is chosen, to be changed together. */
function SelectionLine({ shown: { pages }, onChange }: { shown: ListState; onChange: () => void }) {
  const say = useWords();
  const { selected, setSelected } = pages;
  if (selected.size === 0) return null;
  return (
    <p className="selection" role="status">
      {say('selected', selected.size)}
      <button type="button" className="button" onClick={onChange}>
        {say('bulkChange', selected.size)}
      </button>
      <button type="button" className="bt-link" onClick={() => setSelected(new Set())}>
        {say('selectNone')}
      </button>
    </p>
  );
}

/** As a table, or as cards where there is little room. */
function Records({ shown: { list, entity, view, setView, pages } }: { shown: ListState }) {
  const session = useSession();
  const say = useWords();
  const host = useMemo(() => formHost(), []);
  const [rem, setRem] = useState(80);
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!frame.current) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setRem(entry.contentRect.width / parseFloat(getComputedStyle(document.documentElement).fontSize));
    });
    observer.observe(frame.current);
    return () => observer.disconnect();
  }, []);
  const { records } = pages;
  const none = view.search
    ? say('noResults', view.search)
    : Object.keys(view.filters).length > 0
      ? say('noMatches')
      : say('noneYet', entity.plural.toLowerCase());
  return (
    <div ref={frame}>
      {records && records.length === 0 ? (
        <p className="empty">{none}</p>
      ) : rem < cardsBelow ? (
        <Cards entity={entity.key} records={records ?? []} host={host} />
      ) : (
        <RecordTable
          entity={entity.key}
          selected={may(session, 'write-records') ? pages.selected : undefined}
          onSelect={pages.setSelected}
          list={list!}
          columns={contentOf(list!, rem).columns ?? []}
          records={records ?? []}
          sort={view.sort || (list!.sort ?? []).join(',')}
          onSort={(sort) => setView({ ...view, sort })}
          timeZone={host.timeZone}
        />
      )}
    </div>
  );
}

/** How many there are, and the ways out and in as a file. */
function ListFoot({ shown: { entity, view, condition, pages }, onImport }: { shown: ListState; onImport: () => void }) {
  const session = useSession();
  const say = useWords();
  const query = new URLSearchParams({ listed: 'true', ...listQuery(view, condition) });
  return (
    <div className="page-foot">
      <span role="status">{pages.records && say(pages.exact ? 'count' : 'countMore', pages.total)}</span>
      <span className="bar-space" />
      <a className="button" href={`/api/records/${encodeURIComponent(entity.key)}/csv?${query}`} download>
        {say('exportCsv')}
      </a>
      {may(session, 'write-records') && (
        <button type="button" className="button" onClick={onImport}>
          {say('importCsv')}
        </button>
      )}
    </div>
  );
}

interface ListDialogProps {
  shown: ListState;
  open: 'import' | 'change';
  onClose: () => void;
}

/** Many records at once: from a table, or the same values for those that are chosen. */
function ListDialog({ shown: { entity, pages }, open, onClose }: ListDialogProps) {
  const close = (done: boolean) => {
    onClose();
    if (done) pages.load();
  };
  const chosen = (pages.records ?? []).filter((record) => pages.selected.has(record.id));
  return (
    <Suspense>
      {open === 'change' ? (
        <BulkDialog entity={entity.key} records={chosen} onClose={close} />
      ) : (
        <ImportDialog entity={entity.key} onClose={close} />
      )}
    </Suspense>
  );
}
