import { useEffect, useState } from 'react';
import { asProblem, changing, type TableImportReport, ApiError, type TableInfo } from '../../api/client.ts';
import { useWords } from '../../shell/hooks.ts';
import type { Translate } from '../../shell/words.ts';
import { inUtf8 } from '../../shell/inUtf8.ts';

/** What somebody says about a table: what each column is, how records are named, how numbers and days are written. */
export interface ColumnMapping {
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

/** What a table means as far as can be told from it. */
function meaningOf({ columns: found, targets, decimalSeparator, dateOrder }: TableInfo): ColumnMapping {
  const columns = found.map((column) => column.field ?? null);
  const match = targets.find((target) => target.unique && columns.includes(target.key))?.key ?? '';
  return { columns, match, decimalSeparator, dateOrder };
}

/** Why a table was refused, with the first lines that are wrong. */
function refusalText(error: unknown, say: Translate): string {
  const parts = error instanceof ApiError ? (error.problem.problems ?? []) : [];
  const lines = parts.slice(0, 5).map((part) => `${say('line', part.pointer.split('/')[1] ?? '', 1)} ${part.message}`);
  return [(error as Error).message, ...lines].join(' ');
}

/** A table on its way to being records: what it seems to be, what is said about it, what would happen; then all of it or nothing. */
export function useTableImport(entity: string, onTaken: () => void) {
  const say = useWords();
  const [file, setFile] = useState<{ name: string; table: Blob; foreign: boolean }>();
  const [info, setInfo] = useState<TableInfo>();
  const [meaning, setMeaning] = useState<ColumnMapping>();
  const [report, setReport] = useState<TableImportReport>();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const path = `/api/records/${encodeURIComponent(entity)}/csv`;
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
      setProblem(undefined);
      setFile({ name: given.name, table, foreign });
      setInfo(next);
      setMeaning(meaningOf(next));
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
      onTaken();
    } catch (error) {
      setReport(undefined);
      setProblem(refusalText(error, say));
    } finally {
      setBusy(false);
    }
  };
  return { file, info, meaning, report, problem, busy, choose, changeMapping, importTable };
}
