import { useEffect, useId, useRef, useState } from 'react';
import { asProblem, changing, type TableImportReport, ApiError, type TableInfo } from '../../api/client.ts';
import { useWords } from '../../shell/hooks.ts';
import { inUtf8, together } from './tables.ts';

/** What somebody says about her table: what each column is, how records are named, how numbers and days are written. */
interface ColumnMapping {
  columns: (string | null)[];
  match: string;
  decimalSeparator: string;
  dateOrder: string;
}

async function send<T>(path: string, table: Blob, stop: AbortSignal): Promise<T> {
  const response = await fetch(path, { method: 'POST', body: table, headers: { ...changing(), 'Content-Type': 'text/csv' }, signal: stop });
  const body: unknown = await response.json();
  if (!response.ok) throw new ApiError(asProblem(body, response));
  return body as T;
}

const importQuery = (meaning: ColumnMapping, dryRun: boolean) =>
  new URLSearchParams({
    dryRun: String(dryRun),
    columns: meaning.columns.map((field) => field ?? '').join(','),
    decimalSeparator: meaning.decimalSeparator,
    dateOrder: meaning.dateOrder,
    ...(meaning.match && !meaning.columns.includes('id') ? { match: meaning.match } : {}),
  });

/** Takes records from a table: which column is which field, then what would happen, line by line, then all of it or nothing. */
export function ImportDialog({ entity, onClose }: { entity: string; onClose: (taken: boolean) => void }) {
  const say = useWords();
  const dialog = useRef<HTMLDialogElement>(null);
  const labels = useId();
  const [file, setFile] = useState<{ name: string; table: Blob; foreign: boolean }>();
  const [info, setInfo] = useState<TableInfo>();
  const [meaning, setMeaning] = useState<ColumnMapping>();
  const [report, setReport] = useState<TableImportReport>();
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
    send<TableImportReport>(`${path}?${importQuery(meaning, true)}`, file.table, stop.signal).then(
      (next) => {
        setProblem(undefined);
        setReport(next);
      },
      (error: Error) => {
        if (stop.signal.aborted) return;
        setReport(undefined);
        setProblem(error.message);
      },
    );
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
      setMeaning({
        columns,
        match: next.targets.find((target) => target.unique && columns.includes(target.key))?.key ?? '',
        decimalSeparator: next.decimalSeparator,
        dateOrder: next.dateOrder,
      });
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const changeMapping = (change: Partial<ColumnMapping>) => {
    setReport(undefined);
    setMeaning((before) => before && { ...before, ...change });
  };
  const importTable = async () => {
    if (!file || !meaning) return;
    setBusy(true);
    try {
      await send<TableImportReport>(`${path}?${importQuery(meaning, false)}`, file.table, AbortSignal.timeout(300_000));
      onClose(true);
    } catch (error) {
      const parts = error instanceof ApiError ? (error.problem.problems ?? []) : [];
      setReport(undefined);
      setProblem(
        [
          (error as Error).message,
          ...parts.slice(0, 5).map((part) => `${say('line', part.pointer.split('/')[1] ?? '', 1)} ${part.message}`),
        ].join(' '),
      );
    } finally {
      setBusy(false);
    }
  };

  const isMissing = (type: string[]) =>
    !info?.targets.some((target) => type.includes(target.type) && meaning?.columns.includes(target.key));
  const unique = info?.targets.filter((target) => target.unique && meaning?.columns.includes(target.key)) ?? [];
  const missing = info?.targets.filter((target) => target.required && !meaning?.columns.includes(target.key)) ?? [];
  return (
    <dialog
      ref={dialog}
      className="beside import"
      aria-label={say('importCsv')}
      onCancel={(event) => {
        event.preventDefault();
        onClose(false);
      }}
    >
      <header className="record-bar">
        <strong className="beside-title">{say('importCsv')}</strong>
        <span className="bar-space" />
        <button type="button" className="button" onClick={() => onClose(false)}>
          {say('cancel')}
        </button>
        <button
          type="button"
          className="button primary"
          disabled={busy || !report || report.problems.length > 0}
          onClick={() => void importTable()}
        >
          {say('importAll')}
        </button>
      </header>
      <p>{say('importAbout')}</p>
      <input
        type="file"
        accept=".csv,.tsv,.txt,text/csv,text/tab-separated-values"
        aria-label={say('importFile')}
        onChange={(event) => void choose(event.target.files?.[0])}
      />
      {file?.foreign && meaning && (
        <p className="notice" role="status">
          {say('importEncoding')}
        </p>
      )}
      {info && meaning && (
        <>
          <div className="import-columns">
            <table>
              <thead>
                <tr>
                  <th scope="col">{say('importColumn')}</th>
                  <th scope="col">{say('importExamples')}</th>
                  <th scope="col">{say('importField')}</th>
                </tr>
              </thead>
              <tbody>
                {info.columns.map((column, i) => {
                  const field = meaning.columns[i];
                  return (
                    <tr key={i}>
                      <th scope="row" id={`${labels}${i}`}>
                        {column.heading || say('importNameless', i + 1)}
                      </th>
                      <td className="import-examples">{column.examples.join(' · ')}</td>
                      <td>
                        <select
                          aria-label={say('importFieldFor', column.heading || say('importNameless', i + 1))}
                          value={field ?? ''}
                          data-none={!field || undefined}
                          onChange={(event) =>
                            changeMapping({
                              columns: meaning.columns.map((each, at) =>
                                at === i ? event.target.value || null : each === event.target.value ? null : each,
                              ),
                            })
                          }
                        >
                          <option value="">{say('importSkip')}</option>
                          <option value="id">{say('importRecordNumber')}</option>
                          {info.targets.map((target) => (
                            <option key={target.key} value={target.key}>
                              {target.label}
                              {target.required ? ' *' : ''}
                            </option>
                          ))}
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
              <label>
                {say('importMatch')}
                <select value={meaning.match} onChange={(event) => changeMapping({ match: event.target.value })}>
                  {unique.map((target) => (
                    <option key={target.key} value={target.key}>
                      {say('importMatchBy', target.label)}
                    </option>
                  ))}
                  <option value="">{say('importMatchNone')}</option>
                </select>
              </label>
            )}
            {!isMissing(['integer', 'decimal', 'money', 'rating']) && (
              <label>
                {say('importDecimalSeparator')}
                <select value={meaning.decimalSeparator} onChange={(event) => changeMapping({ decimalSeparator: event.target.value })}>
                  <option value=".">1,234.5</option>
                  <option value=",">1.234,5</option>
                </select>
              </label>
            )}
            {!isMissing(['date', 'dateTime']) && (
              <label>
                {say('importDateOrder')}
                <select value={meaning.dateOrder} onChange={(event) => changeMapping({ dateOrder: event.target.value })}>
                  <option value="ymd">2026-05-31</option>
                  <option value="dmy">31-05-2026</option>
                  <option value="mdy">05/31/2026</option>
                </select>
              </label>
            )}
          </div>
          {missing.length > 0 && <p className="import-missing">{say('importMissing', missing.map((target) => target.label).join(', '))}</p>}
        </>
      )}
      {problem && (
        <p className="notice" data-tone="bad" role="alert">
          {problem}
        </p>
      )}
      {report && report.problems.length === 0 && (
        <p className="notice" data-tone="good" role="status">
          {say('importValid', report.created, report.changed)}
        </p>
      )}
      {report && report.problems.length > 0 && (
        <>
          <p className="notice" data-tone="bad" role="alert">
            {say('importInvalid', report.problems.length)}
          </p>
          <ul className="import-problems">
            {together(report.problems).map((each) => (
              <li key={each.message + each.lines[0]}>
                <b>{say('line', lines(each.lines), each.lines.length)}</b> {each.message}
              </li>
            ))}
          </ul>
        </>
      )}
    </dialog>
  );
}

const lines = (all: number[]) => all.slice(0, 5).join(', ') + (all.length > 5 ? ` + ${all.length - 5}` : '');
