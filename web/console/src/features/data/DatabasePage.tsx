import { useState } from 'react';
import { answer, api, type DatabaseTableInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { address, navigate } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { Problem } from '../../ui/Notice.tsx';
import { AttachPreview } from './AttachPreview.tsx';
import { Differences } from './Differences.tsx';
import { TableChoice } from './TableChoice.tsx';

/** The tables a chosen one refers to that are no entities and not chosen: without them a reference is only a value. */
function referredTo(tables: readonly DatabaseTableInfo[], chosen: readonly string[]): string[] {
  const free = new Set(tables.filter((each) => !each.entity).map((each) => each.path));
  const found = new Set<string>();
  const look = (paths: readonly string[]) => {
    for (const table of tables.filter((each) => paths.includes(each.path)))
      for (const target of table.references)
        if (free.has(target) && !chosen.includes(target) && !found.has(target)) {
          found.add(target);
          look([target]);
        }
  };
  look(chosen);
  return [...found];
}

/** One database: its tables, those chosen to become entities and what they would be, and what has become of those that are. */
export function DatabasePage({ name }: { name: string }) {
  usePageTitle(name);
  const path = { params: { path: { name } } };
  const {
    data: tables,
    problem,
    reload,
  } = useAnswer(['databases', name, 'tables'], () => answer(api.GET('/api/databases/{name}/tables', path)));
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const isAttached = tables?.some((each) => each.entity) ?? false;
  return (
    <>
      <header className="page-head">
        <h1>{say('databases.tablesOf', name)}</h1>
        <a className="button" href={address('data', 'databases')}>
          {say('databases.all')}
        </a>
      </header>
      <Problem text={problem?.message} />
      {isAttached && <Differences name={name} onRefreshed={() => void reload()} />}
      {!tables && !problem && <p className="empty">{say('databases.reading')}</p>}
      {tables?.length === 0 && <p className="empty">{say('databases.noTables')}</p>}
      {tables && tables.length > 0 && (
        <>
          <p className="page-about">{say('databases.aboutTables')}</p>
          <TableChoice tables={tables} chosen={chosen} onChoose={setChosen} />
          {chosen.length > 0 && (
            <Acts
              name={name}
              chosen={chosen}
              missing={referredTo(tables, chosen)}
              onChoose={setChosen}
              onAttached={() => {
                setChosen([]);
                void reload();
              }}
            />
          )}
        </>
      )}
      {chosen.length > 0 && <AttachPreview name={name} tables={chosen} />}
    </>
  );
}

interface ActsProps {
  name: string;
  chosen: readonly string[];
  /** Tables that those chosen refer to and that are not among them. */
  missing: readonly string[];
  onChoose: (paths: readonly string[]) => void;
  onAttached: () => void;
}

/** Makes entities of what is chosen, for everybody or as drafts. */
function Acts({ name, chosen, missing, onChoose, onAttached }: ActsProps) {
  const session = useSession();
  const [busy, setBusy] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const attach = async (publish: boolean) => {
    setBusy(true);
    setRefusal(undefined);
    try {
      const body = { tables: [...chosen], publish };
      const made = await answer(api.POST('/api/databases/{name}/attach', { params: { path: { name } }, body }));
      onAttached();
      if (publish && made.entities[0]) navigate('records', made.entities[0]);
    } catch (error) {
      setRefusal((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="sketch-acts attach-acts">
      <Problem text={refusal} />
      {missing.length > 0 && (
        <p>
          {say('databases.refersTo', missing.join(', '))}{' '}
          <button type="button" className="bt-link" onClick={() => onChoose([...chosen, ...missing])}>
            {say('databases.chooseThem')}
          </button>
        </p>
      )}
      {may(session, 'publish') && (
        <button type="button" className="button primary" disabled={busy} onClick={() => void attach(true)}>
          {say(busy ? 'data.making' : 'databases.attach', chosen.length)}
        </button>
      )}
      <button type="button" className="button" disabled={busy} onClick={() => void attach(false)}>
        {say('data.asDrafts')}
      </button>
      <p>{say('databases.never')}</p>
    </div>
  );
}
