import type { EntitySummary } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { may } from '../../shell/session.ts';
import { TablePage } from './TablePage.tsx';

/** What there are records of: every entity, with its records and its form; and where another one begins. */
export function DataPage({ part, entities }: { part: string | undefined; entities: EntitySummary[] }) {
  return part === 'table' ? <TablePage entities={entities} /> : <Entities entities={entities} />;
}

function Entities({ entities }: { entities: EntitySummary[] }) {
  usePageTitle(say('data.data'));
  const session = useSession();
  const bring = (
    <a className="button primary" href={address('data', 'table')}>
      {say('data.bringTable')}
    </a>
  );
  return (
    <>
      <header className="page-head">
        <h1>{say('data.data')}</h1>
        {entities.length > 0 && may(session, 'configure') && bring}
      </header>
      {entities.length === 0 ? (
        <div className="data-empty">
          <p>{say('data.empty')}</p>
          {may(session, 'configure') && bring}
        </div>
      ) : (
        <div className="table-frame">
          <table className="table">
            <thead>
              <tr>
                <th scope="col">{say('common.entity')}</th>
                <th scope="col">{say('data.key')}</th>
                <th scope="col" data-number>
                  {say('data.fields')}
                </th>
                <td />
              </tr>
            </thead>
            <tbody>
              {entities.map((entity) => (
                <tr key={entity.key}>
                  <td data-label={say('common.entity')}>
                    <a href={address('records', entity.key)}>{entity.plural}</a>
                  </td>
                  <td data-label={say('data.key')}>{entity.key}</td>
                  <td data-label={say('data.fields')} data-number>
                    {entity.fields}
                  </td>
                  <td>{entity.layout && <a href={address('design', entity.layout)}>{say('data.designForm')}</a>}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
