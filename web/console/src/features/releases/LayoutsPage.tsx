import { useCallback, useDeferredValue, useEffect, useMemo, useState } from 'react';
import { answer, api, type EntitySummary, type LayoutSummary } from '../../api/client.ts';
import { address } from '../../shell/location.ts';
import { useSession } from '../../shell/hooks.ts';
import { may } from '../../shell/session.ts';
import { usePeople } from '../../shell/people.ts';
import { DamagedDocuments } from './DamagedDocuments.tsx';
import { NewLayoutDialog } from './NewLayoutDialog.tsx';
import { layoutStates, searchLayouts, type LayoutSearch, type LayoutState } from './layoutSearch.ts';
import { moment } from '../../shell/moment.ts';

/** How many rows are drawn at a time. */
const most = 100;

/** So many of something; nothing where there is none. */
const counted = (count: number, what: string) => (count === 0 ? '' : `${count} ${what}${count === 1 ? '' : 's'}`);

/** All layouts: what is published, what is not, what is wrong; and where new ones begin. */
export function LayoutsPage({ entities }: { entities: EntitySummary[] }) {
  const [layouts, setLayouts] = useState<LayoutSummary[]>([]);
  const [problem, setProblem] = useState<string>();
  const load = useCallback(() => void answer(api.GET('/api/layouts')).then(setLayouts, (error: Error) => setProblem(error.message)), []);
  useEffect(load, [load]);
  const [making, setMaking] = useState(false);
  const [search, setSearch] = useState<LayoutSearch>({ text: '', state: 'any', sort: 'title' });
  const [shown, setShown] = useState(most);
  const seek = (change: Partial<LayoutSearch>) => {
    setSearch({ ...search, ...change });
    setShown(most);
  };
  const sought = useDeferredValue(search);
  const found = useMemo(
    () => searchLayouts(layouts, sought, (key) => entities.find((each) => each.key === key)?.label ?? key),
    [layouts, sought, entities],
  );
  const people = usePeople();
  const session = useSession();
  return (
    <>
      <header className="page-head">
        <h1>Layouts</h1>
        {entities.length > 0 && may(session, 'configure') && (
          <button type="button" className="button primary" onClick={() => setMaking(true)}>
            New layout…
          </button>
        )}
      </header>
      {problem && (
        <p className="notice" data-tone="bad" role="alert">
          {problem}
        </p>
      )}
      <DamagedDocuments mayChange={may(session, 'configure')} onMended={load} />
      {layouts.length > 0 && (
        <div className="search-bar" role="search" aria-label="Search layouts">
          <label>
            Search{' '}
            <input
              className="bt-input"
              type="search"
              placeholder="title, key, kind or entity"
              value={search.text}
              onChange={(event) => seek({ text: event.target.value })}
            />
          </label>
          <label>
            State{' '}
            <select className="bt-input" value={search.state} onChange={(event) => seek({ state: event.target.value as LayoutState })}>
              {Object.entries(layoutStates).map(([state, name]) => (
                <option key={state} value={state}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          <label>
            Sort by{' '}
            <select
              className="bt-input"
              value={search.sort}
              onChange={(event) => seek({ sort: event.target.value as LayoutSearch['sort'] })}
            >
              <option value="title">title</option>
              <option value="changed">last change</option>
            </select>
          </label>
        </div>
      )}
      <div className="table-frame">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">Layout</th>
              <th scope="col">Kind</th>
              <th scope="col">Entity</th>
              <th scope="col">State</th>
              <th scope="col">Findings</th>
              <th scope="col">Comments</th>
              <th scope="col">Last changed</th>
            </tr>
          </thead>
          <tbody>
            {found.slice(0, shown).map((layout) => (
              <tr key={layout.key}>
                <td data-label="Layout">{layout.damaged ? layout.title : <a href={address('design', layout.key)}>{layout.title}</a>}</td>
                <td data-label="Kind">{layout.kind}</td>
                <td data-label="Entity">{entities.find((each) => each.key === layout.entity)?.label ?? layout.entity}</td>
                <td data-label="State">
                  {layout.damaged
                    ? 'damaged'
                    : layout.published === null
                      ? 'never published'
                      : layout.published === layout.revision
                        ? 'published'
                        : `${layout.revision - layout.published!} not published`}
                </td>
                <td data-label="Findings">
                  {[counted(Number(layout.errors), 'error'), counted(Number(layout.warnings), 'warning')].filter(Boolean).join(', ') ||
                    'none'}
                </td>
                <td data-label="Comments">
                  {layout.comments > 0 ? <a href={address('design', layout.key, 'comments')}>{layout.comments} open</a> : 'none'}
                </td>
                <td data-label="Last changed">
                  {moment(layout.changedAt)} by {people.name(layout.changedBy)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {layouts.length > 0 && (
        <p className="table-more" role="status">
          {found.length === 0
            ? 'No layout matches.'
            : found.length === layouts.length
              ? counted(found.length, 'layout')
              : `${found.length} of ${layouts.length} layouts`}
          {found.length > shown && `, ${shown} shown `}
          {found.length > shown && (
            <button type="button" className="button" onClick={() => setShown(shown + most)}>
              Show {Math.min(most, found.length - shown)} more
            </button>
          )}
        </p>
      )}
      {making && <NewLayoutDialog entities={entities} layouts={layouts} onClose={() => setMaking(false)} />}
    </>
  );
}
