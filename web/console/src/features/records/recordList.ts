import { filled, FormStore, type FormHost, type ResolvedForm } from '#form';
import { useCallback, useEffect, useRef, useState } from 'react';
import { answer, api, ApiError, type EntitySummary, type RecordInfo } from '../../api/client.ts';
import { acknowledgeRelease } from '../../shell/events.ts';
import { useServerEvents, useWords } from '../../shell/hooks.ts';
import { readPublishedForm } from '../../runtime/publishedForm.ts';
import { filterCondition, filterForm } from './filters.ts';
import { lastView, listAs, plainView, type View } from './savedViews.ts';

/** How long it is until a page of a list that did not arrive is asked for again, in milliseconds. */
const again = 2_000;

/** A day's beginning here, as conditions have moments. */
const beginningOf = (day: string) => new Date(`${day}T00:00:00`).toISOString().replace('.000', '');

/** The published list of an entity, and how it is looked at: its search, its order, its filters, kept while the window is open. */
export function useListView(entity: EntitySummary, host: FormHost) {
  const say = useWords();
  const [list, setList] = useState<ResolvedForm>();
  const [filterStore, setFilterStore] = useState<FormStore>();
  const [view, setView] = useState<View>(() => lastView(entity.key));
  const [problem, setProblem] = useState<string>();
  const filtersOf = useCallback(
    (form: ResolvedForm, taken: View) =>
      form.filters?.length ? new FormStore(filterForm(form, say), taken.filters, taken.names, host) : undefined,
    [say, host],
  );
  const fetchList = useCallback(() => {
    readPublishedForm(entity.key, 'list', 'view').then(
      (served) => {
        setList(served.form);
        acknowledgeRelease(served.release);
        setFilterStore(filtersOf(served.form, lastView(entity.key)));
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
  useEffect(() => {
    listAs(entity.key, view);
  }, [entity.key, view]);
  return {
    list,
    problem,
    filterStore,
    view,
    setView,
    /** What records must hold to be listed. */
    condition: list ? filterCondition(list, view.filters, beginningOf) : '',
    /** Looks at the list as a view has it. */
    showView: (next: View) => {
      setView({ ...plainView, ...next });
      if (list) setFilterStore(filtersOf(list, next));
    },
  };
}

/** What is asked for, as the list and its file are. */
export const listQuery = (view: View, condition: string): Record<string, string> => ({
  ...(view.search ? { q: view.search } : {}),
  ...(view.sort ? { sort: view.sort } : {}),
  ...(condition ? { filter: condition } : {}),
});

/** The records of a list as it is looked at, page by page; the next is fetched when the end of what is there comes near. */
export function useRecordPages(entity: string, view: View, condition: string) {
  const [records, setRecords] = useState<RecordInfo[]>();
  const [page, setPage] = useState<{ next: string | null; total: number; exact: boolean }>({ next: null, total: 0, exact: true });
  const [problem, setProblem] = useState<string>();
  /** What would take long, and was agreed to: the question as it was asked. */
  const [slow, setSlow] = useState<{ asked: string; agreed: boolean; why: string }>();
  const [selected, setSelected] = useState<ReadonlySet<number>>(new Set());
  const loadCount = useRef(0);
  const agreedTo = slow?.agreed ? slow.asked : undefined;
  const { search, sort } = view;
  const load = useCallback(
    (after?: string) => {
      const ask = after ? loadCount.current : ++loadCount.current;
      const asked = listQuery({ ...plainView, search, sort }, condition);
      const key = JSON.stringify(asked);
      const agreed = agreedTo === key;
      const query = { listed: true, ...asked, ...(after ? { after } : {}), ...(agreed ? { slow: true } : {}) };
      answer(api.GET('/api/records/{entity}', { params: { path: { entity }, query } })).then(
        (found) => {
          // Answers may overtake each other; only the last question counts.
          if (ask !== loadCount.current) return;
          setProblem(undefined);
          if (!agreed) setSlow(undefined);
          setRecords((before) => (after ? [...(before ?? []), ...found.records] : found.records));
          if (!after) setSelected(new Set());
          setPage({ next: found.next ?? null, total: found.total, exact: found.exact ?? true });
        },
        (error: Error) => {
          if (error instanceof ApiError && error.problem.code === 'slow') {
            if (ask === loadCount.current) setSlow({ asked: key, agreed: false, why: error.message });
            return;
          }
          setProblem(error.message);
          // The rest of the list is tried again after a while.
          if (after) setTimeout(() => setPage((before) => ({ ...before })), again);
        },
      );
    },
    [entity, search, sort, condition, agreedTo],
  );
  useEffect(() => {
    const wait = setTimeout(load, search || condition ? 150 : 0);
    return () => clearTimeout(wait);
  }, [load, search, condition]);
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
  const doubt = slow && !slow.agreed ? { why: slow.why, agree: () => setSlow({ ...slow, agreed: true }) } : undefined;
  return { records, total: page.total, exact: page.exact, problem, doubt, selected, setSelected, load, setEnd };
}
