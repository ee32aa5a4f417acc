import { useEffect, useRef, useState } from 'react';
import { ApiError, type Problem, type ImportReport } from '../../api/client.ts';
import { moment } from '../../shell/configuring/moment.ts';
import { documentName, isSingle, nameOf } from '../../shell/documentNames.ts';
import { importBundle, type NamedFile, type BundleImport } from './bundle.ts';
import { rich, say, type TextKey } from '../../shell/configuring/texts.ts';

/** What would come of a document, said beside its name. */
const comes: Record<string, TextKey> = {
  made: 'bundleChange.made',
  changed: 'bundleChange.changed',
  merged: 'bundleChange.merged',
  unchanged: 'bundleChange.unchanged',
  conflict: 'bundleChange.conflict',
};

/** For how long somebody is still choosing, in milliseconds. */
const choosing = 300;

/** A bundle is looked at, chosen from and taken into the drafts; everything that would come of it is said before. */
export function ImportDialog({
  onClose,
  onTaken,
}: {
  onClose: () => void;
  onTaken: (documents: readonly NamedFile[], from: string) => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [file, setFile] = useState<File>();
  /** What would come of what was asked, and of which documents. */
  const [answered, setAnswered] = useState<{ report: ImportReport; of: readonly NamedFile[]; signature: string }>();
  const [refusal, setRefusal] = useState<{ problem: Problem; signature: string }>();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [keys, setKeys] = useState<ReadonlyMap<string, string>>(new Map());
  const [merge, setMerge] = useState(true);
  const [take, setTake] = useState<BundleImport['conflictResolution']>();
  const [busy, setBusy] = useState(false);
  /** Whether documents of which nothing would come are shown, too. */
  const [whole, setWhole] = useState(false);
  useEffect(() => dialog.current?.showModal(), []);
  const report = answered?.report;
  const all = report?.bundle?.documents ?? [];
  const selected = all.filter((each) => !left.has(nameOf(each)));
  const refused = (error: unknown) => {
    if (!(error instanceof ApiError)) throw error;
    setRefusal({ problem: error.problem, signature });
  };
  const taking: BundleImport = {
    only: selected.length === all.length ? [] : selected,
    keys: new Map([...keys].filter(([, key]) => key !== '')),
    merge,
    conflictResolution: take,
  };
  // Whatever is chosen, what would come of it is asked for anew; the last answer counts.
  const none = report !== undefined && selected.length === 0;
  const signatureOf = (documents: readonly NamedFile[]) => JSON.stringify([documents.map(nameOf), [...keys], merge, take]);
  const signature = signatureOf(selected);
  const known = answered?.signature === signature;
  const problem = refusal?.signature === signature ? refusal.problem : undefined;
  useEffect(() => {
    if (!file || none || known) return undefined;
    let over = false;
    const soon = setTimeout(
      () => {
        importBundle(file, taking, true).then(
          (found) => {
            if (over) return;
            // At first everything is asked for, whatever that is.
            const of = report ? selected : found.bundle!.documents;
            setAnswered({ report: found, of, signature: signatureOf(of) });
          },
          (error: unknown) => {
            if (!over) refused(error);
          },
        );
      },
      report ? choosing : 0,
    );
    return () => {
      over = true;
      clearTimeout(soon);
    };
    // What is asked is told by what was chosen, not by what was answered.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [file, none, signature]);
  const open = (chosen: File | undefined) => {
    setAnswered(undefined);
    setRefusal(undefined);
    setLeft(new Set());
    setKeys(new Map());
    setTake(undefined);
    setWhole(false);
    setFile(chosen);
  };
  const importSelected = async () => {
    if (!file) return;
    setBusy(true);
    try {
      const done = await importBundle(file, taking, false);
      onTaken(
        done.documents.filter((each) => each.change !== 'unchanged'),
        done.bundle?.from ?? '',
      );
      dialog.current?.close();
    } catch (error) {
      refused(error);
    } finally {
      setBusy(false);
    }
  };
  // Answers come in the order of the manifest.
  const outcome = new Map(answered?.of.map((each, i) => [nameOf(each), answered.report.documents[i]!]));
  const changes = selected.map((each) => outcome.get(nameOf(each))?.change);
  const count = changes.filter((each) => each !== 'unchanged').length;
  const stuck = changes.includes('conflict');
  const same = all.filter((each) => outcome.get(nameOf(each))?.change === 'unchanged');
  const from = report?.bundle;
  return (
    <dialog ref={dialog} className="dialog bundle" aria-labelledby="import-title" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void importSelected();
        }}
      >
        <h2 id="import-title">{say('importDialog.importABundle')}</h2>
        <p>{say('importDialog.itsDocumentsBecomeDraftsAll')}</p>
        <input
          className="bt-input"
          type="file"
          accept=".zip,application/zip"
          aria-label={say('importDialog.theArchive')}
          autoFocus
          onChange={(event) => open(event.target.files?.[0])}
        />
        {from && (
          <>
            <p className="bundle-from">
              {from.release == null
                ? rich('importDialog.fromDrafts', <b>{from.from}</b>, moment(from.at))
                : rich('importDialog.fromRelease', <b>{from.from}</b>, from.release, moment(from.at))}
            </p>
            <ul className="bundle-list" data-whole={whole ? '' : undefined}>
              <li className="bundle-head" aria-hidden>
                <span>{say('importDialog.document')}</span>
                <span>{say('importDialog.result')}</span>
                <span>{say('importDialog.keyHere')}</span>
              </li>
              {all.map((each) => {
                const [name, comesOf] = [nameOf(each), outcome.get(nameOf(each))];
                const words = [
                  ...(comesOf?.conflicts ?? []),
                  ...(comesOf?.base ? [comesOf.base] : []),
                  ...(comesOf?.summary ?? []),
                  ...(comesOf?.impact ?? []).map((place) => say('importDialog.noticedBy', place)),
                ];
                return (
                  <li key={name} data-change={comesOf?.change}>
                    <label>
                      <input
                        type="checkbox"
                        checked={!left.has(name)}
                        onChange={(event) =>
                          setLeft(new Set(event.target.checked ? [...left].filter((one) => one !== name) : [...left, name]))
                        }
                      />{' '}
                      {documentName(each)}
                    </label>
                    <span className="bundle-change">
                      {left.has(name) ? say('importDialog.notTaken') : comesOf ? say(comes[comesOf.change]!) : ''}
                    </span>
                    {!isSingle(each.kind) && !left.has(name) && (
                      <input
                        className="bt-input"
                        aria-label={say('importDialog.keyHereOfThe', documentName(each))}
                        title={say('importDialog.newKey')}
                        placeholder={each.key}
                        autoComplete="off"
                        spellCheck={false}
                        value={keys.get(name) ?? ''}
                        onChange={(event) => setKeys(new Map([...keys, [name, event.target.value.trim()]]))}
                      />
                    )}
                    {words.length > 0 && (
                      <details>
                        <summary>{comesOf?.change === 'conflict' ? say('importDialog.conflicts') : say('importDialog.changes')}</summary>
                        <ul>
                          {words.map((word, i) => (
                            <li key={i}>{word}</li>
                          ))}
                        </ul>
                      </details>
                    )}
                  </li>
                );
              })}
              {same.length > 0 && (
                <li className="bundle-same">
                  <button type="button" className="bt-link" aria-expanded={whole} onClick={() => setWhole(!whole)}>
                    {say(whole ? 'importDialog.hideSame' : 'importDialog.showSame', same.length)}
                  </button>
                </li>
              )}
            </ul>
            <div className="publish-how">
              <label>
                <input type="checkbox" checked={merge} onChange={(event) => setMerge(event.target.checked)} />{' '}
                {say('importDialog.mergeWithChangesMadeHere')}
              </label>
              {merge && (stuck || take) && (
                <label>
                  {say('importDialog.onConflictUse')}{' '}
                  <select
                    className="bt-input"
                    value={take ?? ''}
                    onChange={(event) => setTake((event.target.value || undefined) as BundleImport['conflictResolution'])}
                  >
                    <option value="">{say('importDialog.stop')}</option>
                    <option value="mine">{say('importDialog.theBundle')}</option>
                    <option value="theirs">{say('importDialog.theDraft')}</option>
                  </select>
                </label>
              )}
            </div>
            {report.findings.length > 0 && (
              <div className="dialog-problem" data-tone={report.findings.some((each) => each.severity === 'error') ? undefined : 'mild'}>
                {say('importDialog.newFindings')}
                <ul>
                  {report.findings.map((each, i) => (
                    <li key={i}>
                      <b>{each.severity}</b>, {documentName(each)}: {each.message}
                    </li>
                  ))}
                </ul>
              </div>
            )}
          </>
        )}
        {problem && (
          <div className="dialog-problem" role="alert">
            {problem.detail ?? problem.title}
            {problem.problems && problem.problems.length > 1 && (
              <ul>
                {problem.problems.map((part) => (
                  <li key={part.pointer + part.message}>
                    {part.pointer} {part.message}
                  </li>
                ))}
              </ul>
            )}
          </div>
        )}
        <div className="dialog-acts">
          <button type="button" className="button" onClick={() => dialog.current?.close()}>
            {say('common.cancel')}
          </button>
          <button type="submit" className="button primary" disabled={busy || !known || problem !== undefined || stuck || count === 0}>
            {known && count === 0 ? say('importDialog.nothingDiffers') : say('importDialog.takeMany', Math.max(1, count))}
          </button>
        </div>
      </form>
    </dialog>
  );
}
