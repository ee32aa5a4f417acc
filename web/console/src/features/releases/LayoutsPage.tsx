import { useDeferredValue, useMemo, useState } from 'react';
import { answer, api, type EntitySummary, type LayoutSummary } from '../../api/client.ts';
import { address } from '../../shell/location.ts';
import { useSession } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { NoticeLine } from '../../ui/Notice.tsx';
import { Select } from '../../ui/Select.tsx';
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

const none: LayoutSummary[] = [];

/** All layouts: what is published, what is not, what is wrong; and where new ones begin. */
export function LayoutsPage({ entities }: { entities: EntitySummary[] }) {
  const { data: layouts = none, problem, reload } = useAnswer(['layouts'], () => answer(api.GET('/api/layouts')));
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
      <NoticeLine notice={problem && { text: problem.message, bad: true }} />
      <DamagedDocuments mayChange={may(session, 'configure')} onMended={reload} />
      {layouts.length > 0 && <LayoutSearchBar search={search} onSearch={seek} />}
      <LayoutTable layouts={found.slice(0, shown)} entities={entities} />
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

function LayoutSearchBar({ search, onSearch }: { search: LayoutSearch; onSearch: (change: Partial<LayoutSearch>) => void }) {
  return (
    <div className="search-bar" role="search" aria-label={say('layoutsPage.searchLayouts')}>
      <label>
        {say('layoutsPage.search')}{' '}
        <input
          className="bt-input"
          type="search"
          placeholder={say('layoutsPage.titleKeyKindOrEntity')}
          value={search.text}
          onChange={(event) => onSearch({ text: event.target.value })}
        />
      </label>
      <label>
        {say('layoutsPage.state')}{' '}
        <Select
          value={search.state}
          options={Object.entries(layoutStates).map(([state, name]) => ({ key: state as LayoutState, label: say(name) }))}
          onChange={(state) => onSearch({ state })}
        />
      </label>
      <label>
        {say('layoutsPage.sortBy')}{' '}
        <Select
          value={search.sort}
          options={[
            { key: 'title', label: say('layoutsPage.title') },
            { key: 'changed', label: say('layoutsPage.lastChange') },
          ]}
          onChange={(sort) => onSearch({ sort })}
        />
      </label>
    </div>
  );
}

/** How far a layout is published. */
function stateOf({ damaged, published, revision }: LayoutSummary): string {
  if (damaged) return say('layoutsPage.damaged');
  if (published === null || published === undefined) return say('common.neverPublished');
  return published === revision ? say('layoutsPage.published') : say('layoutsPage.notPublished', revision - published);
}

function LayoutTable({ layouts, entities }: { layouts: LayoutSummary[]; entities: EntitySummary[] }) {
  const people = usePeople();
  return (
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
          {layouts.map((layout) => (
            <tr key={layout.key}>
              <td data-label={say('kind.layout')}>
                {layout.damaged ? layout.title : <a href={address('design', layout.key)}>{layout.title}</a>}
              </td>
              <td data-label={say('common.kind')}>{sayGrammar('word', layout.kind)}</td>
              <td data-label={say('common.entity')}>{entities.find((each) => each.key === layout.entity)?.label ?? layout.entity}</td>
              <td data-label={say('layoutsPage.state')}>{stateOf(layout)}</td>
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
  );
}
