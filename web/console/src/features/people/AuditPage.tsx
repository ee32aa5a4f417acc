import { usePageTitle } from '../../shell/hooks.ts';
import { useCallback, useEffect, useState } from 'react';
import { fromLocal } from '#form';
import { answer, api, type Person } from '../../api/client.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { formHost } from '../../shell/session.ts';
import { usePeople } from '../../shell/people.ts';
import { say } from '../../shell/configurator/texts.ts';
import { NoticeLine, type Notice } from '../../ui/Notice.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { Select } from '../../ui/Select.tsx';
import { ofRecords, ofTheRest, type AuditRow } from './auditEntries.ts';
import '../../pages.css';

/** Everything that was done here, by whom and when: to search and to take away. Nobody can change it. */
export function AuditPage() {
  usePageTitle(say('auditPage.auditLog'));
  const people = usePeople();
  const [search, setSearch] = useState({ by: '', q: '', from: '' });
  const [records, setRecords] = useState(false);
  const [rows, setRows] = useState<AuditRow[]>([]);
  const [next, setNext] = useState<string | null>(null);
  const [notice, setNotice] = useState<Notice>();
  const query = useCallback(
    () => ({
      ...(search.by ? { by: search.by } : {}),
      ...(search.q && !records ? { q: search.q } : {}),
      ...(search.from ? { from: fromLocal(`${search.from}T00:00`, formHost().timeZone) } : {}),
    }),
    [search, records],
  );
  const load = useCallback(
    (after?: string) =>
      (records ? ofRecords : ofTheRest)({ ...query(), limit: 50, ...(after ? { after } : {}) }).then(
        (page) => {
          setRows((before) => (after ? [...before, ...page.rows] : page.rows));
          setNext(page.next);
        },
        (error: Error) => setNotice({ text: error.message, bad: true }),
      ),
    [query, records],
  );
  useEffect(() => {
    const soon = setTimeout(() => void load(), 200);
    return () => clearTimeout(soon);
  }, [load]);
  const prove = () =>
    answer(api.GET('/api/audit/proof')).then(
      (proof) => setNotice(verdictOf(proof)),
      (error: Error) => setNotice({ text: error.message, bad: true }),
    );
  return (
    <>
      <header className="page-head">
        <h1>{say('auditPage.auditLog')}</h1>
        {!records && (
          <button type="button" className="button" onClick={() => void prove()}>
            {say('auditPage.verifyLog')}
          </button>
        )}
        <a className="button" href={`/api/audit/${records ? 'record-entries' : 'entries'}/export?${new URLSearchParams(query())}`}>
          {say('auditPage.exportCsv')}
        </a>
      </header>
      <NoticeLine notice={notice} />
      <AuditSearch search={search} records={records} people={people.all} onSearch={setSearch} onRecords={setRecords} />
      <AuditTable rows={rows} nameOf={people.name} />
      {rows.length === 0 && <p className="empty">{say('auditPage.noEntriesMatch')}</p>}
      {next && (
        <p>
          <button type="button" className="button" onClick={() => void load(next)}>
            {say('auditPage.loadEarlierEntries')}
          </button>
        </p>
      )}
    </>
  );
}

interface AuditSearchProps {
  search: { by: string; q: string; from: string };
  /** Whether it is the log of what was done to records. */
  records: boolean;
  people: readonly Person[];
  onSearch: (search: AuditSearchProps['search']) => void;
  onRecords: (records: boolean) => void;
}

function AuditSearch({ search, records, people, onSearch, onRecords }: AuditSearchProps) {
  return (
    <div className="search-bar" role="search">
      <label>
        {say('auditPage.logOf')}{' '}
        <Select
          value={records ? 'records' : ''}
          options={[
            { key: '', label: say('auditPage.formsReleasesAndPeople') },
            { key: 'records', label: say('auditPage.records') },
          ]}
          onChange={(log) => onRecords(log === 'records')}
        />
      </label>
      <label>
        {say('auditPage.who')}{' '}
        <Select
          value={search.by}
          options={[{ key: '', label: say('auditPage.anyone') }, ...people.map(({ id, name }) => ({ key: id, label: name }))]}
          onChange={(by) => onSearch({ ...search, by })}
        />
      </label>
      {!records && (
        <label>
          {say('auditPage.containing')}{' '}
          <input className="bt-input" type="search" value={search.q} onChange={(event) => onSearch({ ...search, q: event.target.value })} />
        </label>
      )}
      <label>
        {say('auditPage.since')}{' '}
        <DateField kind="date" label={say('auditPage.since')} value={search.from} onChange={(from) => onSearch({ ...search, from })} />
      </label>
    </div>
  );
}

function AuditTable({ rows, nameOf }: { rows: readonly AuditRow[]; nameOf: (person: string) => string }) {
  return (
    <div className="table-frame">
      <table className="table audit">
        <thead>
          <tr>
            <th scope="col">{say('auditPage.when')}</th>
            <th scope="col">{say('auditPage.who')}</th>
            <th scope="col">{say('auditPage.what')}</th>
            <th scope="col">{say('auditPage.onWhat')}</th>
            <th scope="col">{say('auditPage.more')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((entry) => (
            <tr key={entry.key}>
              <td data-label={say('auditPage.when')}>
                <time dateTime={entry.at}>{moment(entry.at, 'medium')}</time>
              </td>
              <td data-label={say('auditPage.who')}>{nameOf(entry.by)}</td>
              <td data-label={say('auditPage.what')}>{entry.act}</td>
              <td data-label={say('auditPage.onWhat')}>{entry.href ? <a href={entry.href}>{entry.subject}</a> : entry.subject}</td>
              <td data-label={say('auditPage.more')} className="audit-more">
                {entry.more}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What the log's own proof says. */
const verdictOf = (proof: { intact: boolean; entries: number; hash: string; firstBroken?: number | null }): Notice => ({
  text: proof.intact
    ? say('auditPage.intact', proof.entries, proof.hash.slice(0, 16))
    : say('auditPage.entryIsMissingOrWas', proof.firstBroken ?? 0),
  bad: !proof.intact,
});
