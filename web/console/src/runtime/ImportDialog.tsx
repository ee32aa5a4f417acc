import { useEffect, useId, useRef, useState } from 'react';
import { asProblem, changing, type ImportReport, Refused, type TableInfo } from '../api/client.ts';
import { useWords } from '../shell/hooks.ts';
import { inUtf8, together } from './tables.ts';

/** What somebody says about her table: what each column is, how records are named, how numbers and days are written. */
interface Meaning {
  columns: (string | null)[];
  match: string;
  decimalSeparator: string;
  dateOrder: string;
}

async function send<T>(path: string, table: Blob, stop: AbortSignal): Promise<T> {
  const response = await fetch(path, { method: 'POST', body: table, headers: { ...changing(), 'Content-Type': 'text/csv' }, signal: stop });
  const body: unknown = await response.json();
  if (!response.ok) throw new Refused(asProblem(body, response));
  return body as T;
}

const asked = (meaning: Meaning, dryRun: boolean) => new URLSearchParams({
  dryRun: String(dryRun), columns: meaning.columns.map((field) => field ?? '').join(','), decimalSeparator: meaning.decimalSeparator, dateOrder: meaning.dateOrder,
  ...(meaning.match && !meaning.columns.includes('id') ? { match: meaning.match } : {}),
});

/** Takes records from a table: which column is which field, then what would happen, line by line, then all of it or nothing. */
export function ImportDialog({ entity, onClose }: { entity: string; onClose: (taken: boolean) => void }) {
  const say = useWords();
  const dialog = useRef<HTMLDialogElement>(null);
  const labels = useId();
  const [file, setFile] = useState<{ name: string; table: Blob; foreign: boolean }>();
  const [info, setInfo] = useState<TableInfo>();
  const [meaning, setMeaning] = useState<Meaning>();
  const [report, setReport] = useState<ImportReport>();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const path = `/api/records/${encodeURIComponent(entity)}/csv`;
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  // Whatever is said about the table, what would happen is worked out anew.
  useEffect(() => {
    if (!file || !meaning) return;
    const stop = new AbortController();
    send<ImportReport>(`${path}?${asked(meaning, true)}`, file.table, stop.signal).then((next) => {
      setProblem(undefined);
      setReport(next);
    }, (error: Error) => {
      if (stop.signal.aborted) return;
      setReport(undefined);
      setProblem(error.message);
    });
    return () => stop.abort();
  }, [file, meaning, path]);

  const choose = async (given: File | undefined) => {
    if (!given) return;
    setInfo(undefined);
    setMeaning(undefined);
    setReport(undefined);
    try {
      const { table, foreign } = await inUtf8(given);
      const next = await send<TableInfo>(`${path}/columns`, table, AbortSignal.timeout(60_000));
      const columns = next.columns.map((column) => column.field ?? null);
      setProblem(undefined);
      setFile({ name: given.name, table, foreign });
      setInfo(next);
      setMeaning({ columns, match: next.targets.find((target) => target.unique && columns.includes(target.key))?.key ?? '', decimalSeparator: next.decimalSeparator, dateOrder: next.dateOrder });
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const told = (change: Partial<Meaning>) => {
    setReport(undefined);
    setMeaning((before) => before && { ...before, ...change });
  };
  const take = async () => {
    if (!file || !meaning) return;
    setBusy(true);
    try {
      await send<ImportReport>(`${path}?${asked(meaning, false)}`, file.table, AbortSignal.timeout(300_000));
      onClose(true);
    } catch (error) {
      const parts = error instanceof Refused ? (error.problem.problems ?? []) : [];
      setReport(undefined);
      setProblem([(error as Error).message, ...parts.slice(0, 5).map((part) => `${say('line', part.pointer.split('/')[1] ?? '')} ${part.message}`)].join(' '));
    } finally {
      setBusy(false);
    }
  };

  const gone = (type: string[]) => !info?.targets.some((target) => type.includes(target.type) && meaning?.columns.includes(target.key));
  const unique = info?.targets.filter((target) => target.unique && meaning?.columns.includes(target.key)) ?? [];
  const missing = info?.targets.filter((target) => target.required && !meaning?.columns.includes(target.key)) ?? [];
  return (
    <dialog ref={dialog} className="beside import" aria-label={say('takeIn')} onCancel={(event) => { event.preventDefault(); onClose(false); }}>
      <header className="record-bar">
        <strong className="beside-title">{say('takeIn')}</strong>
        <span className="bar-space" />
        <button type="button" className="button" onClick={() => onClose(false)}>{say('cancel')}</button>
        <button type="button" className="button primary" disabled={busy || !report || report.problems.length > 0} onClick={() => void take()}>{say('takeAll')}</button>
      </header>
      <p>{say('takeAbout')}</p>
      <input type="file" accept=".csv,.tsv,.txt,text/csv,text/tab-separated-values" aria-label={say('takeFile')} onChange={(event) => void choose(event.target.files?.[0])} />
      {file?.foreign && meaning && <p className="notice" role="status">{say('takeForeign')}</p>}
      {info && meaning && (
        <>
          <div className="import-columns">
            <table>
              <thead><tr><th scope="col">{say('takeColumn')}</th><th scope="col">{say('takeExamples')}</th><th scope="col">{say('takeField')}</th></tr></thead>
              <tbody>
                {info.columns.map((column, i) => {
                  const field = meaning.columns[i];
                  return (
                    <tr key={i}>
                      <th scope="row" id={`${labels}${i}`}>{column.heading || say('takeNameless', i + 1)}</th>
                      <td className="import-examples">{column.examples.join(' · ')}</td>
                      <td>
                        <select aria-label={say('takeGoes', column.heading || say('takeNameless', i + 1))} value={field ?? ''} data-none={!field || undefined}
                          onChange={(event) => told({ columns: meaning.columns.map((each, at) => (at === i ? event.target.value || null : each === event.target.value ? null : each)) })}>
                          <option value="">{say('takeSkip')}</option>
                          <option value="id">{say('takeNumber')}</option>
                          {info.targets.map((target) => <option key={target.key} value={target.key}>{target.label}{target.required ? ' *' : ''}</option>)}
                        </select>
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
          <div className="import-ways">
            {!meaning.columns.includes('id') && unique.length > 0 && (
              <label>{say('takeMatch')}
                <select value={meaning.match} onChange={(event) => told({ match: event.target.value })}>
                  {unique.map((target) => <option key={target.key} value={target.key}>{say('takeMatchBy', target.label)}</option>)}
                  <option value="">{say('takeMatchNone')}</option>
                </select>
              </label>
            )}
            {!gone(['integer', 'decimal', 'money', 'rating']) && (
              <label>{say('takePoint')}
                <select value={meaning.decimalSeparator} onChange={(event) => told({ decimalSeparator: event.target.value })}>
                  <option value=".">1,234.5</option>
                  <option value=",">1.234,5</option>
                </select>
              </label>
            )}
            {!gone(['date', 'dateTime']) && (
              <label>{say('takeDays')}
                <select value={meaning.dateOrder} onChange={(event) => told({ dateOrder: event.target.value })}>
                  <option value="ymd">2026-05-31</option>
                  <option value="dmy">31-05-2026</option>
                  <option value="mdy">05/31/2026</option>
                </select>
              </label>
            )}
          </div>
          {missing.length > 0 && <p className="import-missing">{say('takeMissing', missing.map((target) => target.label).join(', '))}</p>}
        </>
      )}
      {problem && <p className="notice" data-tone="bad" role="alert">{problem}</p>}
      {report && report.problems.length === 0 && <p className="notice" data-tone="good" role="status">{say('takeRight', report.created, report.changed)}</p>}
      {report && report.problems.length > 0 && (
        <>
          <p className="notice" data-tone="bad" role="alert">{say('takeWrong', report.problems.length)}</p>
          <ul className="import-problems">{together(report.problems).map((each) => <li key={each.message + each.lines[0]}><b>{say(each.lines.length === 1 ? 'line' : 'lineMany', lines(each.lines))}</b> {each.message}</li>)}</ul>
        </>
      )}
    </dialog>
  );
}

const lines = (all: number[]) => all.slice(0, 5).join(', ') + (all.length > 5 ? ` + ${all.length - 5}` : '');
