import { useEffect, useRef, useState } from 'react';
import { asProblem, changing, Refused } from '../api/client.ts';
import { useWords } from '../shell/hooks.ts';

interface Report {
  made: number;
  changed: number;
  taken: boolean;
  problems: { line: number; field?: string | null; message: string }[];
}

async function send(entity: string, text: string, dry: boolean): Promise<Report> {
  const response = await fetch(`/api/records/${encodeURIComponent(entity)}/csv?dry=${dry}`, { method: 'POST', body: text, headers: { ...changing(), 'Content-Type': 'text/csv' } });
  const body: unknown = await response.json();
  if (!response.ok) throw new Refused(asProblem(body, response));
  return body as Report;
}

/** Takes records from a table: first what would happen, line by line, then all of it or nothing. */
export function ImportDialog({ entity, onClose }: { entity: string; onClose: (taken: boolean) => void }) {
  const say = useWords();
  const dialog = useRef<HTMLDialogElement>(null);
  const [text, setText] = useState<string>();
  const [report, setReport] = useState<Report>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  const run = (given: string, dry: boolean) => send(entity, given, dry).then((next) => {
    setProblem(undefined);
    if (next.taken) onClose(true);
    else setReport(next);
  }, (error: Error) => { setReport(undefined); setProblem(error.message); });
  const choose = async (file: File | undefined) => {
    if (!file) return;
    const given = await file.text();
    setText(given);
    await run(given, true);
  };
  return (
    <dialog ref={dialog} className="beside" aria-label={say('takeIn')} onCancel={(event) => { event.preventDefault(); onClose(false); }}>
      <header className="record-bar">
        <strong className="beside-title">{say('takeIn')}</strong>
        <span className="bar-space" />
        <button type="button" className="button" onClick={() => onClose(false)}>{say('cancel')}</button>
        <button type="button" className="button primary" disabled={!report || report.problems.length > 0} onClick={() => { if (text !== undefined) void run(text, false); }}>{say('takeAll')}</button>
      </header>
      <p>{say('takeAbout')}</p>
      <input type="file" accept=".csv,text/csv" aria-label={say('takeFile')} onChange={(event) => void choose(event.target.files?.[0])} />
      {problem && <p className="notice" data-tone="bad" role="alert">{problem}</p>}
      {report && report.problems.length === 0 && <p className="notice" data-tone="good" role="status">{say('takeRight', report.made, report.changed)}</p>}
      {report && report.problems.length > 0 && (
        <>
          <p className="notice" data-tone="bad" role="alert">{say('takeWrong', report.problems.length)}</p>
          <ul className="import-problems">{report.problems.map((each, i) => <li key={i}><b>{say('line', each.line)}</b> {each.message}</li>)}</ul>
        </>
      )}
    </dialog>
  );
}
