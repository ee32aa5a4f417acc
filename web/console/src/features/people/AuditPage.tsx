import { useCallback, useEffect, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { address } from '../../shell/location.ts';
import { usePeople } from '../../shell/people.ts';
import { say, type TextKey } from '../../shell/configurator/texts.ts';

/** What an entry says beside its act: each part by its name. */
function describeDetail(detail: unknown): string {
  return Object.entries((detail ?? {}) as Record<string, unknown>)
    .map(([name, value]) => {
      const text = Array.isArray(value)
        ? value.length > 6
          ? say('auditPage.andMore', value.slice(0, 6).join(', '), value.length - 6)
          : value.join(', ')
        : String(value);
      return text === '' ? '' : `${name}: ${text}`;
    })
    .filter(Boolean)
    .join('; ');
}

/** An entry as it is listed, of whichever of the two logs. */
interface Row {
  key: string;
  at: string;
  by: string;
  act: string;
  subject: string;
  href?: string;
  more: string;
}

interface Page {
  rows: Row[];
  next: string | null;
}

const acts: Record<string, TextKey> = {
  create: 'recordAct.create',
  change: 'recordAct.change',
  delete: 'recordAct.delete',
  restore: 'recordAct.restore',
};

const ofRecords = (query: Record<string, string | number>): Promise<Page> =>
  answer(api.GET('/api/audit/record-entries', { params: { query } })).then((page) => ({
    next: page.next ?? null,
    rows: page.entries.map((each) => ({
      key: `${each.entity} ${each.record} ${each.version}`,
      at: each.at,
      by: each.by,
      act: acts[each.action] ? say(acts[each.action]!) : each.action,
      subject: `${each.entity}/${each.record}`,
      href: address('records', each.entity, `${each.record}`),
      more: `version ${each.version}`,
    })),
  }));

const ofTheRest = (query: Record<string, string | number>): Promise<Page> =>
  answer(api.GET('/api/audit/entries', { params: { query } })).then((page) => ({
    next: page.next ?? null,
    rows: page.entries.map((each) => ({
      key: `${each.number}`,
      at: each.at,
      by: each.by,
      act: each.action,
      subject: each.subject,
      more: describeDetail(each.detail),
    })),
  }));

/** Everything that was done here, by whom and when: to search and to take away. Nobody can change it. */
export function AuditPage() {
  const people = usePeople();
  const [search, setSearch] = useState({ by: '', q: '', from: '' });
  const [records, setRecords] = useState(false);
  const [rows, setRows] = useState<Row[]>([]);
  const [next, setNext] = useState<string | null>(null);
  const [notice, setNotice] = useState<{ text: string; bad: boolean }>();
  const query = useCallback(
    () => ({
      ...(search.by ? { by: search.by } : {}),
      ...(search.q && !records ? { q: search.q } : {}),
      ...(search.from ? { from: new Date(search.from).toISOString() } : {}),
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
      (proof) =>
        setNotice(
          proof.intact
            ? {
                text: say('auditPage.intact', proof.entries, proof.hash.slice(0, 16)),
                bad: false,
              }
            : {
                text: say('auditPage.entryIsMissingOrWas', proof.firstBroken ?? 0),
                bad: true,
              },
        ),
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
      {notice && (
        <p className="notice" data-tone={notice.bad ? 'bad' : 'good'} role="status">
          {notice.text}
        </p>
      )}
      <div className="search-bar" role="search">
        <label>
          {say('auditPage.logOf')}{' '}
          <select className="bt-input" value={records ? 'records' : ''} onChange={(event) => setRecords(event.target.value === 'records')}>
            <option value="">{say('auditPage.formsReleasesAndPeople')}</option>
            <option value="records">{say('auditPage.records')}</option>
          </select>
        </label>
        <label>
          {say('auditPage.who')}{' '}
          <select className="bt-input" value={search.by} onChange={(event) => setSearch({ ...search, by: event.target.value })}>
            <option value="">{say('auditPage.anyone')}</option>
            {people.all.map((person) => (
              <option key={person.id} value={person.id}>
                {person.name}
              </option>
            ))}
          </select>
        </label>
        {!records && (
          <label>
            {say('auditPage.containing')}{' '}
            <input
              className="bt-input"
              type="search"
              value={search.q}
              onChange={(event) => setSearch({ ...search, q: event.target.value })}
            />
          </label>
        )}
        <label>
          {say('auditPage.since')}{' '}
          <input
            className="bt-input"
            type="date"
            value={search.from}
            onChange={(event) => setSearch({ ...search, from: event.target.value })}
          />
        </label>
      </div>
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
                <td data-label={say('auditPage.who')}>{people.name(entry.by)}</td>
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
