import { useCallback, useDeferredValue, useEffect, useMemo, useState } from 'react';
import { answer, api, type EntitySummary, type LayoutSummary } from '../../api/client.ts';
import { address } from '../../shell/location.ts';
import { useSession } from '../../shell/hooks.ts';
import { may } from '../../shell/session.ts';
import { usePeople } from '../../shell/people.ts';
import { DamagedDocuments } from './DamagedDocuments.tsx';
import { NewLayoutDialog } from './NewLayoutDialog.tsx';
import { layoutStates, searchLayouts, type LayoutSearch, type LayoutState } from './layoutSearch.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';

/** How many rows are drawn at a time. */
const most = 100;

/** How many errors and warnings there are. */
function findingsOf({ errors, warnings }: LayoutSummary): string {
  const found = [
    ...(errors > 0 ? [say('layoutsPage.errors', errors)] : []),
    ...(warnings > 0 ? [say('layoutsPage.warnings', warnings)] : []),
  ];
  return found.join(', ') || say('common.none');
}

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
        <h1>{say('layoutsPage.layouts2')}</h1>
        {entities.length > 0 && may(session, 'configure') && (
          <button type="button" className="button primary" onClick={() => setMaking(true)}>
            {say('layoutsPage.newLayout')}
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
        <div className="search-bar" role="search" aria-label={say('layoutsPage.searchLayouts')}>
          <label>
            {say('layoutsPage.search')}{' '}
            <input
              className="bt-input"
              type="search"
              placeholder={say('layoutsPage.titleKeyKindOrEntity')}
              value={search.text}
              onChange={(event) => seek({ text: event.target.value })}
            />
          </label>
          <label>
            {say('layoutsPage.state')}{' '}
            <select className="bt-input" value={search.state} onChange={(event) => seek({ state: event.target.value as LayoutState })}>
              {Object.entries(layoutStates).map(([state, name]) => (
                <option key={state} value={state}>
                  {say(name)}
                </option>
              ))}
            </select>
          </label>
          <label>
            {say('layoutsPage.sortBy')}{' '}
            <select
              className="bt-input"
              value={search.sort}
              onChange={(event) => seek({ sort: event.target.value as LayoutSearch['sort'] })}
            >
              <option value="title">{say('layoutsPage.title')}</option>
              <option value="changed">{say('layoutsPage.lastChange')}</option>
            </select>
          </label>
        </div>
      )}
      <div className="table-frame">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">{say('kind.layout')}</th>
              <th scope="col">{say('common.kind')}</th>
              <th scope="col">{say('common.entity')}</th>
              <th scope="col">{say('layoutsPage.state')}</th>
              <th scope="col">{say('layoutsPage.findings')}</th>
              <th scope="col">{say('pane.comments')}</th>
              <th scope="col">{say('layoutsPage.lastChanged')}</th>
            </tr>
          </thead>
          <tbody>
            {found.slice(0, shown).map((layout) => (
              <tr key={layout.key}>
                <td data-label={say('kind.layout')}>
                  {layout.damaged ? layout.title : <a href={address('design', layout.key)}>{layout.title}</a>}
                </td>
                <td data-label={say('common.kind')}>{sayGrammar('word', layout.kind)}</td>
                <td data-label={say('common.entity')}>{entities.find((each) => each.key === layout.entity)?.label ?? layout.entity}</td>
                <td data-label={say('layoutsPage.state')}>
                  {layout.damaged
                    ? say('layoutsPage.damaged')
                    : layout.published === null
                      ? say('common.neverPublished')
                      : layout.published === layout.revision
                        ? say('layoutsPage.published')
                        : say('layoutsPage.notPublished', layout.revision - layout.published!)}
                </td>
                <td data-label={say('layoutsPage.findings')}>{findingsOf(layout)}</td>
                <td data-label={say('pane.comments')}>
                  {layout.comments > 0 ? (
                    <a href={address('design', layout.key, 'comments')}>{say('layoutsPage.open', layout.comments)}</a>
                  ) : (
                    say('common.none')
                  )}
                </td>
                <td data-label={say('layoutsPage.lastChanged')}>
                  {say('layoutsPage.changedBy', moment(layout.changedAt), people.name(layout.changedBy))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {layouts.length > 0 && (
        <p className="table-more" role="status">
          {found.length === 0
            ? say('layoutsPage.noLayoutMatches')
            : found.length === layouts.length
              ? say('layoutsPage.layouts', found.length)
              : say('layoutsPage.ofLayouts', found.length, layouts.length)}
          {found.length > shown && `${say('layoutsPage.shown', shown)} `}
          {found.length > shown && (
            <button type="button" className="button" onClick={() => setShown(shown + most)}>
              {say('layoutsPage.showMore', Math.min(most, found.length - shown))}
            </button>
          )}
        </p>
      )}
      {making && <NewLayoutDialog entities={entities} layouts={layouts} onClose={() => setMaking(false)} />}
    </>
  );
}
