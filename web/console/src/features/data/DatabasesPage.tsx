import { useState } from 'react';
import { answer, api, type DatabaseInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { address, navigate } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { Problem } from '../../ui/Notice.tsx';
import { ConnectionDialog } from './ConnectionDialog.tsx';
import { DataHead } from './DataHead.tsx';

const none: DatabaseInfo[] = [];

/** The databases that forms can be put over: how each is reached, and which entities are over it. */
export function DatabasesPage() {
  usePageTitle(say('data.parts.databases'));
  const session = useSession();
  const { data: databases, problem, reload } = useAnswer(['databases'], () => answer(api.GET('/api/databases')));
  const [open, setOpen] = useState<'new' | DatabaseInfo>();
  const administers = may(session, 'administer');
  const connect = administers && (
    <button type="button" className="button primary" onClick={() => setOpen('new')}>
      {say('databases.connect')}
    </button>
  );
  const empty = databases?.length === 0;
  return (
    <>
      <DataHead here="databases">{!empty && connect}</DataHead>
      <Problem text={problem?.message} />
      {empty && (
        <div className="data-empty">
          <p>{say('databases.about')}</p>
          {connect || <p>{say('databases.askAdministrator')}</p>}
        </div>
      )}
      {!empty && (
        <ConnectionTable databases={databases ?? none} administers={administers} onChange={setOpen} onRemoved={() => void reload()} />
      )}
      {open && (
        <ConnectionDialog
          taken={(databases ?? none).map((each) => each.name)}
          changed={open === 'new' ? undefined : open}
          onClose={(name) => {
            setOpen(undefined);
            if (name) navigate('data', 'databases', name);
          }}
        />
      )}
    </>
  );
}

interface ConnectionTableProps {
  databases: readonly DatabaseInfo[];
  administers: boolean;
  onChange: (database: DatabaseInfo) => void;
  onRemoved: () => void;
}

function ConnectionTable({ databases, administers, onChange, onRemoved }: ConnectionTableProps) {
  const [refusal, setRefusal] = useState<string>();
  const remove = (name: string) => {
    if (!window.confirm(say('databases.removeAsk', name))) return;
    answer(api.DELETE('/api/databases/{name}', { params: { path: { name } } })).then(onRemoved, (error: Error) =>
      setRefusal(error.message),
    );
  };
  return (
    <>
      <Problem text={refusal} />
      <div className="table-frame">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">{say('databases.connection')}</th>
              <th scope="col">{say('databases.where')}</th>
              <th scope="col">{say('databases.entities')}</th>
              <th scope="col">{say('layoutsPage.state')}</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {databases.map((database) => {
              const { name, kind, address: where, entities, problem, isFixed } = database;
              return (
                <tr key={name}>
                  <td data-label={say('databases.connection')}>
                    <a href={address('data', 'databases', name)}>{name}</a>
                  </td>
                  <td data-label={say('databases.where')}>
                    {say(kind === 'sqlite' ? 'databases.sqlite' : 'databases.postgresql')}, <bdi className="mono-inline">{where}</bdi>
                  </td>
                  <td data-label={say('databases.entities')}>{entities.length === 0 ? say('databases.noEntities') : entities.length}</td>
                  <td data-label={say('layoutsPage.state')}>
                    {problem ? <span className="bad-text">{problem}</span> : say('databases.answers')}
                  </td>
                  <td>
                    {administers && !isFixed && (
                      <button type="button" className="bt-link" onClick={() => onChange(database)}>
                        {say('databases.change')}
                      </button>
                    )}{' '}
                    {administers && !isFixed && entities.length === 0 && (
                      <button type="button" className="bt-link" onClick={() => remove(name)}>
                        {say('databases.remove')}
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </>
  );
}
