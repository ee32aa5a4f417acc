import { useEffect, useRef, useState } from 'react';
import { answer, api, Refused, type Receipt } from '../api/client.ts';
import { address } from '../shell/location.ts';

interface PublishDialogProps {
  /** What goes out, each at the revision that was looked at. */
  documents: readonly Published[];
  title: string;
  /** What stands against it. */
  errors: readonly { node: string; code: string; message: string }[];
  /** The entity a layout is for: it goes out with it where it was changed. */
  about: string;
  onClose: () => void;
  onPublished: () => void;
}

interface Published {
  kind: string;
  key: string;
  revision: number;
}

const kinds: Record<string, string> = { 'choice-list': 'the choices', entity: 'the entity', layout: 'the layout', pattern: 'the pattern', application: 'the' };

const nameOf = ({ kind, key }: { kind: string; key: string }) => `${kind}/${key}`;

/** Publishing: what goes out and what goes with it, a note, then the receipt. */
export function PublishDialog({ documents, title, errors, about, onClose, onPublished }: PublishDialogProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [note, setNote] = useState('');
  const [receipt, setReceipt] = useState<Receipt>();
  const [problem, setProblem] = useState<Refused['problem']>();
  const [busy, setBusy] = useState(false);
  const [along, setAlong] = useState<(Published & { forKind: string; forKey: string })[]>([]);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const names = documents.map((each) => `${each.kind}/${each.key}`).join(' ');
  useEffect(() => dialog.current?.showModal(), []);
  useEffect(() => {
    // What it rests on goes out with it, as far as it was changed too.
    answer(api.GET('/api/releases/along', { params: { query: { document: names.split(' ') } } })).then((found) => setAlong([...found]), () => undefined);
  }, [names]);
  const publish = async () => {
    setBusy(true);
    try {
      setReceipt(await answer(api.POST('/api/releases', { body: { documents: [...along.filter((each) => !left.has(nameOf(each))).map(({ kind, key, revision }) => ({ kind, key, revision })), ...documents], note } })));
      onPublished();
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      setProblem(error.problem);
    } finally {
      setBusy(false);
    }
  };
  return (
    <dialog ref={dialog} className="dialog" aria-labelledby="publish-title" onClose={onClose}>
      {receipt ? (
        <div className="receipt">
          <h2 id="publish-title">Release {receipt.release.number} is out</h2>
          <dl>
            <dt>Changed</dt>
            <dd>{receipt.release.documents.filter((document) => document.change !== 'unchanged').map((document) => `${document.kind} ${document.key}`).join(', ') || 'nothing: it is as it was'}</dd>
            {about && <><dt>Reached at</dt><dd><a href={address('records', about)}>the records of {about}</a></dd></>}
            <dt>Told at once</dt>
            <dd>{receipt.openClients === 1 ? '1 open browser' : `${receipt.openClients} open browsers`}</dd>
            {receipt.release.note && <><dt>Note</dt><dd>{receipt.release.note}</dd></>}
          </dl>
          <p>If it was wrong, an earlier release can be restored under <a href={address('releases')}>Releases</a>.</p>
          <div className="dialog-acts"><button type="button" className="button primary" autoFocus onClick={() => dialog.current?.close()}>Done</button></div>
        </div>
      ) : (
        <form method="dialog" onSubmit={(event) => { event.preventDefault(); void publish(); }}>
          <h2 id="publish-title">Publish {title}</h2>
          <p>{documents.length === 1 ? `Revision ${documents[0]!.revision} becomes` : 'They become'} what everyone gets, at once. Forms that are open follow; nothing typed in them is lost.</p>
          {along.length > 0 && (
            <fieldset className="publish-along">
              <legend>Changed too, and needed by what goes out</legend>
              {along.map((each) => (
                <label key={nameOf(each)}>
                  <input type="checkbox" checked={!left.has(nameOf(each))} onChange={(event) => setLeft(new Set(event.target.checked ? [...left].filter((name) => name !== nameOf(each)) : [...left, nameOf(each)]))} />
                  {' '}{kinds[each.kind] ?? each.kind} {each.key} <small>for {kinds[each.forKind] ?? each.forKind} {each.forKey}</small>
                </label>
              ))}
            </fieldset>
          )}
          {errors.length > 0 && <div className="dialog-problem" role="alert"><b>{errors.length === 1 ? 'An error stands' : `${errors.length} errors stand`} against publishing:</b><ul>{errors.map((finding) => <li key={finding.node + finding.code}>{finding.message}</li>)}</ul></div>}
          {problem && <div className="dialog-problem" role="alert">{problem.detail}{problem.problems && problem.problems.length > 1 && <ul>{problem.problems.map((part) => <li key={part.pointer + part.message}>{part.message}</li>)}</ul>}</div>}
          <label htmlFor="publish-note">Note for your colleagues</label>
          <textarea id="publish-note" className="tool-input" rows={3} value={note} onChange={(event) => setNote(event.target.value)} />
          <div className="dialog-acts">
            <button type="button" className="button" onClick={() => dialog.current?.close()}>Not yet</button>
            <button type="submit" className="button primary" disabled={busy || errors.length > 0}>Publish</button>
          </div>
        </form>
      )}
    </dialog>
  );
}
