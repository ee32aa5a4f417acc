import { useCallback, useEffect, useState } from 'react';
import { answer, api, type Release } from '../api/client.ts';
import { useSession } from '../shell/hooks.ts';
import { may } from '../shell/session.ts';
import { ReleaseChanges } from './ReleaseChanges.tsx';

/** What a release changed, in words; long lists as a count. */
function changed(release: Release): string {
  const documents = release.documents.filter((document) => document.change !== 'unchanged');
  if (documents.length > 4) return `${documents.length} documents, ${documents.filter((document) => document.change === 'added').length} of them new`;
  return documents.map((document) => `${document.kind} ${document.key} ${document.change}`).join(', ') || 'Nothing changed';
}

/** Every release there was, what it changed, and the way back to it. */
export function ReleasesPage() {
  const session = useSession();
  const [releases, setReleases] = useState<Release[]>([]);
  const [open, setOpen] = useState<number>();
  const [notice, setNotice] = useState<{ text: string; bad: boolean }>();
  const load = useCallback(() => {
    answer(api.GET('/api/releases')).then(setReleases, (error: Error) => setNotice({ text: error.message, bad: true }));
  }, []);
  useEffect(load, [load]);
  const restore = (release: Release, only?: { kind: string; key: string }) => {
    const what = only ? `the ${only.kind} ${only.key} as release ${release.number} had it` : `what release ${release.number} held`;
    if (!window.confirm(`Make a new release of ${what}? Everyone gets it at once; drafts stay as they are.`)) return;
    answer(api.POST('/api/releases/{number}/restore', { params: { path: { number: release.number } }, body: { note: only ? `${only.kind} ${only.key} as in release ${release.number}` : `Back to release ${release.number}`, ...(only ? { documents: [only] } : {}) } })).then(
      (receipt) => {
        setNotice({ text: `Release ${receipt.release.number} is out; it holds ${what}.`, bad: false });
        load();
      },
      (error: Error) => setNotice({ text: error.message, bad: true }),
    );
  };
  return (
    <>
      <header className="page-head"><h1>Releases</h1></header>
      {notice && <p className="notice" data-tone={notice.bad ? 'bad' : 'good'} role="status">{notice.text}</p>}
      <ol className="releases">
        {releases.map((release) => (
          <li key={release.number} data-current={release.current ? '' : undefined}>
            <b className="release-number">{release.number}</b>
            <div>
              <p className="release-note">{release.note || 'No note'}{release.current && <span className="release-current">what everyone has</span>}</p>
              <p className="release-about">{new Date(release.at).toLocaleString()} by {release.by}. {changed(release)} <button type="button" className="bt-link" aria-expanded={open === Number(release.number)} onClick={() => setOpen(open === Number(release.number) ? undefined : Number(release.number))}>What is different</button></p>
              {open === Number(release.number) && <ReleaseChanges release={release} releases={releases} onRestore={!release.current && may(session, 'publish') ? (kind, key) => restore(release, { kind, key }) : undefined} />}
            </div>
            {!release.current && may(session, 'publish') && <button type="button" className="button" onClick={() => restore(release)}>Restore</button>}
          </li>
        ))}
      </ol>
    </>
  );
}
