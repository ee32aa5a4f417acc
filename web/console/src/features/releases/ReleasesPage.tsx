import { useCallback, useState } from 'react';
import { ExportDialog, ImportDialog } from '../bundles/index.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { documentName } from '../../shell/configurator/documentNames.ts';
import { may } from '../../shell/session.ts';
import { NoticeLine, type Notice } from '../../ui/Notice.tsx';
import { DocumentComments } from './DocumentComments.tsx';
import { ReleaseEntry, ScheduledEntry } from './ReleaseEntry.tsx';
import { onTheirWay, releaseActs, useReleases } from './releaseActs.ts';
import { useAudience } from './audience.ts';
import { UnpublishedDrafts } from './UnpublishedDrafts.tsx';
import { say } from '../../shell/configurator/texts.ts';
import '../../pages.css';

/** What waits to be published, and every release there was, what it changed, and the way back to it. */
export function ReleasesPage({
  about,
}: {
  /** The document whose talk is open. */
  about?: { kind: string; name: string } | undefined;
}) {
  usePageTitle(say('common.releases'));
  const session = useSession();
  const { releases, waiting, staged, more, reload, problem } = useReleases();
  const [open, setOpen] = useState<number>();
  /** The bundle that is being made or taken. */
  const [moving, setMoving] = useState<'in' | 'out'>();
  const [notice, setNotice] = useState<Notice>();
  const refused = useCallback((text: string) => setNotice({ text, bad: true }), []);
  const acts = releaseActs(
    (text) => {
      setNotice({ text, bad: false });
      reload();
    },
    (error) => refused(error.message),
  );
  const reportImport = (documents: readonly { kind: string; key: string }[], from: string) =>
    setNotice({ text: importedText(documents, from), bad: false });
  const audience = useAudience();
  return (
    <>
      <Head onExport={() => setMoving('out')} onImport={may(session, 'configure') ? () => setMoving('in') : undefined} />
      <NoticeLine notice={problem ? { text: problem.message, bad: true } : notice} />
      {about && <DocumentComments key={`${about.kind} ${about.name}`} {...about} />}
      {moving === 'out' && <ExportDialog onClose={() => setMoving(undefined)} />}
      {moving === 'in' && <ImportDialog onClose={() => setMoving(undefined)} onTaken={reportImport} />}
      <UnpublishedDrafts onWay={onTheirWay(staged, waiting, audience)} onPublished={reload} onRefused={refused} />
      {waiting.length > 0 && (
        <section aria-label={say('releasesPage.scheduled')}>
          <h2 className="releases-head">{say('releasesPage.scheduled')}</h2>
          <ol className="releases">
            {waiting.map((plan) => (
              <ScheduledEntry key={plan.id} plan={plan} onCancel={() => acts.unplan(plan)} />
            ))}
          </ol>
        </section>
      )}
      <h2 className="releases-head">{say('releasesPage.published')}</h2>
      <ol className="releases">
        {releases.map((release) => (
          <ReleaseEntry
            key={release.number}
            release={release}
            releases={releases}
            open={open === Number(release.number)}
            onOpen={(wanted) => setOpen(wanted ? Number(release.number) : undefined)}
            onRestore={(documents) => acts.restore(release, documents)}
            onPromote={() => acts.promote(Number(release.number))}
            onCancel={() => acts.cancel(Number(release.number))}
          />
        ))}
      </ol>
      {more && (
        <button type="button" className="button" onClick={more}>
          {say('releasesPage.earlier')}
        </button>
      )}
    </>
  );
}

/** What can be taken along or brought. */
function Head({ onExport, onImport }: { onExport: () => void; onImport: (() => void) | undefined }) {
  return (
    <header className="page-head">
      <h1>{say('common.releases')}</h1>
      <div className="release-acts">
        <a className="button" href="/releases/holders">
          {say('holders.whoHasWhat')}
        </a>
        <button type="button" className="button" onClick={onExport}>
          {say('releasesPage.exportABundle')}
        </button>
        {onImport && (
          <button type="button" className="button" onClick={onImport}>
            {say('releasesPage.importABundle')}
          </button>
        )}
      </div>
    </header>
  );
}

/** What was imported, by name where there are few. */
const importedText = (documents: readonly { kind: string; key: string }[], from: string) =>
  documents.length > 4
    ? say('releasesPage.importedMany', from, documents.length)
    : say('releasesPage.imported', from, documents.map(documentName).join(', '));
