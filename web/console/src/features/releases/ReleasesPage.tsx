import { useCallback, useEffect, useState } from 'react';
import { answer, api, type ScheduledRelease, type Release } from '../../api/client.ts';
import { ExportDialog, ImportDialog } from '../bundles/index.ts';
import { useServerEvents, useSession } from '../../shell/hooks.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { may } from '../../shell/session.ts';
import { DocumentComments } from './DocumentComments.tsx';
import { ReleaseEntry, ScheduledEntry } from './ReleaseEntry.tsx';
import { useRoleNames } from './roleNames.ts';
import { UnpublishedDrafts } from './UnpublishedDrafts.tsx';
import { say } from '../../shell/configurator/texts.ts';

/** How long a planned release that was not made is shown, in milliseconds. */
const shownFailed = 7 * 24 * 60 * 60 * 1_000;

/** What waits to be published, and every release there was, what it changed, and the way back to it. */
export function ReleasesPage({
  about,
}: {
  /** The document whose talk is open. */
  about?: { kind: string; name: string } | undefined;
}) {
  const session = useSession();
  const [releases, setReleases] = useState<Release[]>([]);
  /** Those that are still to be made, and those that lately were not. */
  const [waiting, setWaiting] = useState<ScheduledRelease[]>([]);
  const [open, setOpen] = useState<number>();
  /** The bundle that is being made or taken. */
  const [moving, setMoving] = useState<'in' | 'out'>();
  const [notice, setNotice] = useState<{ text: string; bad: boolean }>();
  const load = useCallback(() => {
    answer(api.GET('/api/releases')).then(setReleases, (error: Error) => setNotice({ text: error.message, bad: true }));
    answer(api.GET('/api/scheduled-releases')).then(
      (found) =>
        setWaiting(
          found.filter((plan) => plan.state === 'scheduled' || (plan.state === 'failed' && Date.now() - Date.parse(plan.at) < shownFailed)),
        ),
      () => undefined,
    );
  }, []);
  useEffect(load, [load]);
  useServerEvents(
    useCallback(
      ({ type }) => {
        if (type === 'release' || type === 'scheduled-release') load();
      },
      [load],
    ),
  );
  const restore = (release: Release, documents?: { kind: string; key: string }[]) => {
    const names = documents?.map(documentName).join(', ');
    const what = names
      ? say('releasesPage.asHad', names, release.number, documents!.length)
      : say('releasesPage.whatReleaseHeld', release.number);
    if (!window.confirm(say('releasesPage.publishAsANewRelease', what))) return;
    answer(
      api.POST('/api/releases/{number}/restore', {
        params: { path: { number: release.number } },
        body: {
          note: names ? say('releasesPage.asInRelease', names, release.number) : say('releasesPage.backToRelease', release.number),
          ...(documents ? { documents } : {}),
        },
      }),
    ).then(
      (receipt) => {
        setNotice({ text: say('releasesPage.releaseIsPublishedItHolds', receipt.release.number, what), bad: false });
        load();
      },
      (error: Error) => setNotice({ text: error.message, bad: true }),
    );
  };
  const done = (text: string) => () => {
    setNotice({ text, bad: false });
    load();
  };
  const refused = useCallback((text: string) => setNotice({ text, bad: true }), []);
  const reportImport = (documents: readonly { kind: string; key: string }[], from: string) =>
    setNotice({
      text:
        documents.length > 4
          ? say('releasesPage.importedMany', from, documents.length)
          : say('releasesPage.imported', from, documents.map(documentName).join(', ')),
      bad: false,
    });
  const failed = (error: Error) => refused(error.message);
  const label = useRoleNames();
  const promote = (number: number) =>
    void answer(api.POST('/api/releases/{number}/promote', { params: { path: { number } } })).then(
      done(say('releasesPage.releaseIsCurrent', number)),
      failed,
    );
  const cancel = (number: number) => {
    if (window.confirm(say('releasesPage.cancelReleaseItsUsersGet', number)))
      void answer(api.POST('/api/releases/{number}/cancel', { params: { path: { number } } })).then(
        done(say('releasesPage.releaseIsCancelledEveryoneHas', number)),
        failed,
      );
  };
  const unplan = (plan: ScheduledRelease) =>
    void answer(api.POST('/api/scheduled-releases/{id}/cancel', { params: { path: { id: plan.id } } })).then(
      done(say('releasesPage.theScheduledReleaseIsCancelled')),
      failed,
    );
  const onWay = new Map<string, string>([
    ...releases
      .filter((release) => release.state === 'staged')
      .flatMap((release) =>
        release.documents
          .filter((each) => each.change !== 'unchanged')
          .map((each): [string, string] => [nameOf(each), say('releasesPage.gotItInRelease', label(release.roles ?? []), release.number)]),
      ),
    ...waiting
      .filter((plan) => plan.state === 'scheduled')
      .flatMap((plan) =>
        plan.documents.map((each): [string, string] => [
          nameOf(each),
          say('releasesPage.revisionIsSetFor', each.revision, moment(plan.at)),
        ]),
      ),
  ]);
  return (
    <>
      <header className="page-head">
        <h1>{say('common.releases')}</h1>
        <div className="release-acts">
          <button type="button" className="button" onClick={() => setMoving('out')}>
            {say('releasesPage.exportABundle')}
          </button>
          {may(session, 'configure') && (
            <button type="button" className="button" onClick={() => setMoving('in')}>
              {say('releasesPage.importABundle')}
            </button>
          )}
        </div>
      </header>
      {notice && (
        <p className="notice" data-tone={notice.bad ? 'bad' : 'good'} role="status">
          {notice.text}
        </p>
      )}
      {about && <DocumentComments key={`${about.kind} ${about.name}`} {...about} />}
      {moving === 'out' && <ExportDialog onClose={() => setMoving(undefined)} />}
      {moving === 'in' && <ImportDialog onClose={() => setMoving(undefined)} onTaken={reportImport} />}
      <UnpublishedDrafts onWay={onWay} onPublished={load} onRefused={refused} />
      {waiting.length > 0 && (
        <section aria-label={say('releasesPage.scheduled')}>
          <h2 className="releases-head">{say('releasesPage.scheduled')}</h2>
          <ol className="releases">
            {waiting.map((plan) => (
              <ScheduledEntry key={plan.id} plan={plan} onCancel={() => unplan(plan)} />
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
            onRestore={(documents) => restore(release, documents)}
            onPromote={() => promote(Number(release.number))}
            onCancel={() => cancel(Number(release.number))}
          />
        ))}
      </ol>
    </>
  );
}
