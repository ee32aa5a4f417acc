import type { EntitySummary } from '../../api/client.ts';
import { Segments } from '../../ui/Segments.tsx';
import { Select } from '../../ui/Select.tsx';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';
import { layoutKinds, layoutStates, type LayoutSearch, type LayoutState } from './layoutSearch.ts';

/** How layouts are shown. */
export type View = 'rows' | 'pictures';

interface LayoutSearchBarProps {
  search: LayoutSearch;
  entities: EntitySummary[];
  view: View;
  onSearch: (change: Partial<LayoutSearch>) => void;
  onView: (view: View) => void;
}

/** What is sought among the layouts, and how what is found is shown. */
export function LayoutSearchBar({ search, entities, view, onSearch, onView }: LayoutSearchBarProps) {
  return (
    <div className="search-bar" role="search" aria-label={say('layoutsPage.searchLayouts')}>
      <input
        className="bt-input"
        type="search"
        aria-label={say('layoutsPage.search')}
        placeholder={say('layoutsPage.titleKeyOrEntity')}
        value={search.text}
        onChange={(event) => onSearch({ text: event.target.value })}
      />
      <Select
        label={say('common.entity')}
        value={search.entity}
        options={[{ key: '', label: say('layoutsPage.anyEntity') }, ...entities]}
        onChange={(entity) => onSearch({ entity })}
      />
      <Select
        label={say('common.kind')}
        value={search.kind}
        options={[{ key: '', label: say('layoutsPage.anyKind') }, ...layoutKinds.map((key) => ({ key, label: sayGrammar('word', key) }))]}
        onChange={(kind) => onSearch({ kind })}
      />
      <Select
        label={say('layoutsPage.state')}
        value={search.state}
        options={Object.entries(layoutStates).map(([state, name]) => ({ key: state as LayoutState, label: say(name) }))}
        onChange={(state) => onSearch({ state })}
      />
      <Select
        label={say('layoutsPage.sortBy')}
        value={search.sort}
        options={[
          { key: 'title', label: say('layoutsPage.title') },
          { key: 'changed', label: say('layoutsPage.lastChange') },
        ]}
        onChange={(sort) => onSearch({ sort })}
      />
      <Segments
        id="layouts-view"
        label={say('layoutsPage.view')}
        value={view}
        options={[
          { key: 'rows', label: say('layoutsPage.rows') },
          { key: 'pictures', label: say('layoutsPage.pictures') },
        ]}
        onChange={onView}
      />
    </div>
  );
}
