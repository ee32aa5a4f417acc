import { useCallback, useEffect, useState } from 'react';
import { answer, api, type ScheduledRelease, type Release } from '../../api/client.ts';
import { ExportDialog, ImportDialog } from '../bundles/index.ts';
import { useServerEvents, useSession } from '../../shell/hooks.ts';
import { moment } from '../../shell/configuring/moment.ts';
import { documentName, nameOf } from '../../shell/configuring/documentNames.ts';
import { usePeople } from '../../shell/people.ts';
import { may } from '../../shell/session.ts';
import { Adoption } from './Adoption.tsx';
import { DocumentComments } from './DocumentComments.tsx';
import { ReleaseChanges } from './ReleaseChanges.tsx';
import { UnpublishedDrafts } from './UnpublishedDrafts.tsx';
import { rich, say } from '../../shell/configuring/texts.ts';

/** How long a planned release that was not made is shown, in milliseconds. */
const shownFailed = 7 * 24 * 60 * 60 * 1_000;

/** What a release changed, in words; long lists as a count. */
function changed(release: Release): string {
  const documents = release.documents.filter((document) => document.change !== 'unchanged');
  if (documents.length > 4)
    return say('releasesPage.many', documents.length, documents.filter((document) => document.change === 'added').length);
  return (
    documents.map((document) => say(changes[document.change as 'added'] ?? 'common.changed', documentName(document))).join(', ') ||
    say('releasesPage.nothingChanged')
  );
}

const changes = { added: 'common.added', removed: 'common.removed', changed: 'common.changed' } as const;

/** A sentence, and why. */
const withReason = (text: string, reason: string | null | undefined) => (reason ? say('releasesPage.planReason', text, reason) : text);

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
  const people = usePeople();
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
  const label = (roles: readonly string[]) =>
    roles.map((key) => session.application.roles.find((role) => role.key === key)?.label ?? key).join(', ');
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
              <li key={plan.id} data-state={plan.state}>
                <b className="release-number" aria-hidden>
                  ◷
                </b>
                <div>
                  <p className="release-note">
                    {plan.note || say('releasesPage.noNote')}
                    <span className="release-current">{plan.state === 'failed' ? say('layoutState.unpublished') : moment(plan.at)}</span>
                  </p>
                  <p className="release-about">
                    {withReason(
                      say(
                        plan.roles ? 'releasesPage.planTo' : 'releasesPage.plan',
                        people.name(plan.by),
                        plan.documents.map(documentName).join(', '),
                        label(plan.roles ?? []),
                      ),
                      plan.reason,
                    )}
                  </p>
                </div>
                {plan.state === 'scheduled' && may(session, 'publish') && (
                  <button type="button" className="button" onClick={() => unplan(plan)}>
                    {say('releasesPage.cancelRelease')}
                  </button>
                )}
              </li>
            ))}
          </ol>
        </section>
      )}
      <h2 className="releases-head">{say('releasesPage.published')}</h2>
      <ol className="releases">
        {releases.map((release) => (
          <li
            key={release.number}
            data-current={release.current ? '' : undefined}
            data-open={open === Number(release.number) ? '' : undefined}
            data-state={release.state}
          >
            <b className="release-number">{release.number}</b>
            <div>
              <p className="release-note">
                {release.note || say('releasesPage.noNote')}
                {release.current && <span className="release-current">{say('releasesPage.current')}</span>}
                {release.state === 'staged' && (
                  <span className="release-current">
                    {release.everyoneAt
                      ? say('releasesPage.onlyUntil', label(release.roles ?? []), moment(release.everyoneAt))
                      : say('releasesPage.only', label(release.roles ?? []))}
                  </span>
                )}
                {release.state === 'cancelled' && <span className="release-current">{say('releasesPage.cancelled')}</span>}
              </p>
              <p className="release-about">
                {say('releasesPage.about', moment(release.at), people.name(release.by), changed(release))}{' '}
                {(release.current || release.state === 'staged') && (
                  <>{rich('releasesPage.inUse', <Adoption release={Number(release.number)} />)} </>
                )}
                <button
                  type="button"
                  className="bt-link"
                  aria-expanded={open === Number(release.number)}
                  onClick={() => setOpen(open === Number(release.number) ? undefined : Number(release.number))}
                >
                  {say('releasesPage.showChanges')}
                </button>
              </p>
              {release.overrideReason && (
                <p className="release-about">{say('releasesPage.publishedDespiteErrors', release.overrideReason)}</p>
              )}
              {open === Number(release.number) && (
                <ReleaseChanges
                  release={release}
                  releases={releases}
                  onRestore={!release.current && may(session, 'publish') ? (documents) => restore(release, documents) : undefined}
                />
              )}
            </div>
            {may(session, 'publish') &&
              (release.state === 'staged' ? (
                <div className="release-acts">
                  <button type="button" className="button primary" onClick={() => promote(Number(release.number))}>
                    {say('releasesPage.promoteToEveryone')}
                  </button>
                  <button type="button" className="button" onClick={() => cancel(Number(release.number))}>
                    {say('releasesPage.cancelRelease')}
                  </button>
                </div>
              ) : (
                !release.current && (
                  <button type="button" className="button" onClick={() => restore(release)}>
                    {say('common.restore')}
                  </button>
                )
              ))}
          </li>
        ))}
      </ol>
    </>
  );
}
