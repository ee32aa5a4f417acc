import { useState } from 'react';
import type { EntitySummary, LayoutSummary } from '../../api/client.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { NoticeLine } from '../../ui/Notice.tsx';
import { may } from '../../shell/session.ts';
import { ArchiveNotice, useArchive } from './Archive.tsx';
import { DamagedDocuments } from './DamagedDocuments.tsx';
import { NewLayoutDialog } from './NewLayoutDialog.tsx';
import { LayoutPictures, LayoutTable } from './LayoutResults.tsx';
import { LayoutSearchBar, type View } from './LayoutSearchBar.tsx';
import { mostLayouts, useLayouts, type LayoutSearch } from './layoutSearch.ts';
import { say } from '../../shell/configurator/texts.ts';
import '../../pages.css';

/** How many rows are drawn at a time. */
const most = 100;

const none = { layouts: [] as LayoutSummary[], found: 0, all: 0 };

/** All layouts: what is published, what is not, what is wrong; and where new ones begin. */
export function LayoutsPage({ entities }: { entities: EntitySummary[] }) {
  usePageTitle(say('layoutsPage.layouts2'));
  const [making, setMaking] = useState<{ copied?: LayoutSummary }>();
  const [view, setView] = useState<View>('rows');
  const [search, setSearch] = useState<LayoutSearch>({ text: '', state: 'any', entity: '', kind: '', sort: 'changed' });
  const [shown, setShown] = useState(most);
  const archived = search.state === 'archived';
  const { data: answered, problem, reload } = useLayouts(search, shown);
  const { layouts, found, all } = answered ?? none;
  const archiving = useArchive(reload);
  const seek = (change: Partial<LayoutSearch>) => {
    setSearch({ ...search, ...change });
    setShown(most);
  };
  const session = useSession();
  const Found = view === 'rows' ? LayoutTable : LayoutPictures;
  const acts = !may(session, 'configure')
    ? undefined
    : archived
      ? { bringBack: archiving.bringBack }
      : { duplicate: (copied: LayoutSummary) => setMaking({ copied }), archive: archiving.archive };
  return (
    <>
      <header className="page-head">
        <h1>{say('layoutsPage.layouts2')}</h1>
        {entities.length > 0 && may(session, 'configure') && (
          <button type="button" className="button primary" onClick={() => setMaking({})}>
            {say('layoutsPage.newLayout')}
          </button>
        )}
      </header>
      <NoticeLine notice={problem && { text: problem.message, bad: true }} />
      <ArchiveNotice {...archiving} />
      <DamagedDocuments mayChange={may(session, 'configure')} onMended={reload} />
      {(all > 0 || archived) && <LayoutSearchBar search={search} entities={entities} view={view} onSearch={seek} onView={setView} />}
      <Found layouts={layouts} entities={entities} acts={acts} />
      {answered && (all > 0 || archived) && <Count all={all} found={found} shown={layouts.length} onMore={() => setShown(shown + most)} />}
      {making && <NewLayoutDialog entities={entities} copied={making.copied} onClose={() => setMaking(undefined)} />}
    </>
  );
}

interface CountProps {
  all: number;
  found: number;
  shown: number;
  onMore: () => void;
}

/** How many there are, found and drawn; and more of them. */
function Count({ all, found, shown, onMore }: CountProps) {
  return (
    <p className="table-more" role="status">
      {countOf(all, found)}
      {found > shown && `${say('layoutsPage.shown', shown)} `}
      {found > shown && shown < mostLayouts && (
        <button type="button" className="button" onClick={onMore}>
          {say('layoutsPage.showMore', Math.min(most, found - shown))}
        </button>
      )}
    </p>
  );
}

function countOf(all: number, found: number): string {
  if (all === 0) return say('layoutsPage.noneArchived');
  if (found === 0) return say('layoutsPage.noLayoutMatches');
  return found === all ? say('layoutsPage.layouts', found) : say('layoutsPage.ofLayouts', found, all);
}
