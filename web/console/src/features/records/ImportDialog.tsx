import type { TableImportReport } from '../../api/client.ts';
import { useWords } from '../../shell/hooks.ts';
import { NoticeLine, NoticeBox } from '../../ui/Notice.tsx';
import { SideDialog } from '../../ui/SideDialog.tsx';
import { TableColumns, TableWays } from './TableMapping.tsx';
import { together } from './tables.ts';
import { useTableImport } from './useTableImport.ts';

/** Takes records from a table: which column is which field, then what would happen, line by line, then all of it or nothing. */
export function ImportDialog({ entity, onClose }: { entity: string; onClose: (taken: boolean) => void }) {
  const say = useWords();
  const { file, info, meaning, report, problem, busy, ...acts } = useTableImport(entity, () => onClose(true));
  const missing = info?.targets.filter((target) => target.required && !meaning?.columns.includes(target.key)) ?? [];
  return (
    <SideDialog
      title={say('importCsv')}
      className="import"
      onClose={() => onClose(false)}
      acts={
        <>
          <button type="button" className="button" onClick={() => onClose(false)}>
            {say('cancel')}
          </button>
          <button
            type="button"
            className="button primary"
            disabled={busy || !report || report.problems.length > 0}
            onClick={() => void acts.importTable()}
          >
            {say('importAll')}
          </button>
        </>
      }
    >
      <p>{say('importAbout')}</p>
      <input
        type="file"
        accept=".csv,.tsv,.txt,text/csv,text/tab-separated-values"
        aria-label={say('importFile')}
        onChange={(event) => void acts.choose(event.target.files?.[0])}
      />
      {file?.foreign && meaning && <NoticeBox>{say('importEncoding')}</NoticeBox>}
      {info && meaning && (
        <>
          <TableColumns info={info} meaning={meaning} onChange={acts.changeMapping} />
          <TableWays info={info} meaning={meaning} onChange={acts.changeMapping} />
          {missing.length > 0 && <p className="import-missing">{say('importMissing', missing.map((target) => target.label).join(', '))}</p>}
        </>
      )}
      <NoticeLine notice={problem === undefined ? undefined : { text: problem, bad: true }} />
      {report && <Outcome report={report} />}
    </SideDialog>
  );
}

/** What importing would come to. */
function Outcome({ report }: { report: TableImportReport }) {
  const say = useWords();
  if (report.problems.length === 0) return <NoticeLine notice={{ text: say('importValid', report.created, report.changed), bad: false }} />;
  return (
    <>
      <NoticeLine notice={{ text: say('importInvalid', report.problems.length), bad: true }} />
      <ul className="import-problems">
        {together(report.problems).map((each) => (
          <li key={each.message + each.lines[0]}>
            <b>{say('line', lines(each.lines), each.lines.length)}</b> {each.message}
          </li>
        ))}
      </ul>
    </>
  );
}

const lines = (all: number[]) => all.slice(0, 5).join(', ') + (all.length > 5 ? ` + ${all.length - 5}` : '');
