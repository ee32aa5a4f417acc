import { useCallback, useEffect, useState } from 'react';
import { answer, api, type ScheduledRelease, type Release } from '../../api/client.ts';
import { ExportDialog, ImportDialog } from '../bundles/index.ts';
import { useServerEvents, useSession } from '../../shell/hooks.ts';
import { moment } from '../../shell/moment.ts';
import { documentName, nameOf } from '../../shell/documentNames.ts';
import { usePeople } from '../../shell/people.ts';
import { may } from '../../shell/session.ts';
import { Adoption } from './Adoption.tsx';
import { DocumentComments } from './DocumentComments.tsx';
import { ReleaseChanges } from './ReleaseChanges.tsx';
import { UnpublishedDrafts } from './UnpublishedDrafts.tsx';

/** How long a planned release that was not made is shown, in milliseconds. */
const shownFailed = 7 * 24 * 60 * 60 * 1_000;

/** What a release changed, in words; long lists as a count. */
function changed(release: Release): string {
  const documents = release.documents.filter((document) => document.change !== 'unchanged');
  if (documents.length > 4)
    return `${documents.length} documents, ${documents.filter((document) => document.change === 'added').length} of them new`;
  return documents.map((document) => `${documentName(document)} ${document.change}`).join(', ') || 'Nothing changed';
}

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
      ? `${names} as release ${release.number} had ${documents!.length === 1 ? 'it' : 'them'}`
      : `what release ${release.number} held`;
    if (!window.confirm(`Publish ${what} as a new release? Everyone gets it at once; drafts stay as they are.`)) return;
    answer(
      api.POST('/api/releases/{number}/restore', {
        params: { path: { number: release.number } },
        body: {
          note: names ? `${names} as in release ${release.number}` : `Back to release ${release.number}`,
          ...(documents ? { documents } : {}),
        },
      }),
    ).then(
      (receipt) => {
        setNotice({ text: `Release ${receipt.release.number} is published; it holds ${what}.`, bad: false });
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
      text: `Imported from ${from} into drafts: ${documents.length > 4 ? `${documents.length} documents` : documents.map(documentName).join(', ')}.`,
      bad: false,
    });
  const failed = (error: Error) => refused(error.message);
  const label = (roles: readonly string[]) =>
    roles.map((key) => session.application.roles.find((role) => role.key === key)?.label ?? key).join(', ');
  const promote = (number: number) =>
    void answer(api.POST('/api/releases/{number}/promote', { params: { path: { number } } })).then(
      done(`Release ${number} is current.`),
      failed,
    );
  const cancel = (number: number) => {
    if (window.confirm(`Cancel release ${number}? Its users get what everyone else has.`))
      void answer(api.POST('/api/releases/{number}/cancel', { params: { path: { number } } })).then(
        done(`Release ${number} is cancelled; everyone has the same again.`),
        failed,
      );
  };
  const unplan = (plan: ScheduledRelease) =>
    void answer(api.POST('/api/scheduled-releases/{id}/cancel', { params: { path: { id: plan.id } } })).then(
      done('The scheduled release is cancelled. The drafts are unchanged.'),
      failed,
    );
  const onWay = new Map<string, string>([
    ...releases
      .filter((release) => release.state === 'staged')
      .flatMap((release) =>
        release.documents
          .filter((each) => each.change !== 'unchanged')
          .map((each): [string, string] => [nameOf(each), `${label(release.roles ?? [])} got it in release ${release.number}.`]),
      ),
    ...waiting
      .filter((plan) => plan.state === 'scheduled')
      .flatMap((plan) =>
        plan.documents.map((each): [string, string] => [nameOf(each), `Revision ${each.revision} is set for ${moment(plan.at)}.`]),
      ),
  ]);
  return (
    <>
      <header className="page-head">
        <h1>Releases</h1>
        <div className="release-acts">
          <button type="button" className="button" onClick={() => setMoving('out')}>
            Export a bundle…
          </button>
          {may(session, 'configure') && (
            <button type="button" className="button" onClick={() => setMoving('in')}>
              Import a bundle…
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
        <section aria-label="Scheduled">
          <h2 className="releases-head">Scheduled</h2>
          <ol className="releases">
            {waiting.map((plan) => (
              <li key={plan.id} data-state={plan.state}>
                <b className="release-number" aria-hidden>
                  ◷
                </b>
                <div>
                  <p className="release-note">
                    {plan.note || 'No note'}
                    <span className="release-current">{plan.state === 'failed' ? 'not published' : moment(plan.at)}</span>
                  </p>
                  <p className="release-about">
                    by {people.name(plan.by)}
                    {plan.roles ? `, to ${label(plan.roles)} first` : ''}: {plan.documents.map(documentName).join(', ')}
                    {plan.reason ? `. ${plan.reason}` : ''}
                  </p>
                </div>
                {plan.state === 'scheduled' && may(session, 'publish') && (
                  <button type="button" className="button" onClick={() => unplan(plan)}>
                    Cancel release
                  </button>
                )}
              </li>
            ))}
          </ol>
        </section>
      )}
      <h2 className="releases-head">Published</h2>
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
                {release.note || 'No note'}
                {release.current && <span className="release-current">current</span>}
                {release.state === 'staged' && (
                  <span className="release-current">
                    {label(release.roles ?? [])} only{release.everyoneAt ? `, everyone ${moment(release.everyoneAt)}` : ''}
                  </span>
                )}
                {release.state === 'cancelled' && <span className="release-current">cancelled</span>}
              </p>
              <p className="release-about">
                {moment(release.at)} by {people.name(release.by)}. {changed(release)}.{' '}
                {(release.current || release.state === 'staged') && (
                  <>
                    In use by <Adoption release={Number(release.number)} />.{' '}
                  </>
                )}
                <button
                  type="button"
                  className="bt-link"
                  aria-expanded={open === Number(release.number)}
                  onClick={() => setOpen(open === Number(release.number) ? undefined : Number(release.number))}
                >
                  Show changes
                </button>
              </p>
              {release.overrideReason && <p className="release-about">Published despite errors: {release.overrideReason}</p>}
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
                    Promote to everyone
                  </button>
                  <button type="button" className="button" onClick={() => cancel(Number(release.number))}>
                    Cancel release
                  </button>
                </div>
              ) : (
                !release.current && (
                  <button type="button" className="button" onClick={() => restore(release)}>
                    Restore
                  </button>
                )
              ))}
          </li>
        ))}
      </ol>
    </>
  );
}
