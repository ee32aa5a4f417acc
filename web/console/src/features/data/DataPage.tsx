import { lazy, Suspense, useState, type ReactNode } from 'react';
import { answer, api, type DocumentSummary, type EntityRelations, type EntitySummary } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { address, navigate } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { Problem } from '../../ui/Notice.tsx';
import { DataHead } from './DataHead.tsx';
import { DatabasePage } from './DatabasePage.tsx';
import { DatabasesPage } from './DatabasesPage.tsx';
import { EntityPage } from './EntityPage.tsx';
import { ListsPage } from './ListsPage.tsx';
import { PatternsPage } from './PatternsPage.tsx';
import { TablePage } from './TablePage.tsx';
import { TemplatesPage } from './TemplatesPage.tsx';
import { UnitsPage } from './UnitsPage.tsx';
import '../../pages.css';

/** Fetched with what lays it out when it is opened. */
const RelationsPage = lazy(() => import('./RelationsPage.tsx').then((module) => ({ default: module.RelationsPage })));

/** What there are records of: every entity, with its records and its form; and where another one begins. */
export function DataPage({ part, entity, entities }: { part: string | undefined; entity: string | undefined; entities: EntitySummary[] }) {
  if (part === 'relations')
    return (
      <Suspense>
        <RelationsPage />
      </Suspense>
    );
  if (part === 'lists') return <ListsPage />;
  if (part === 'patterns') return <PatternsPage />;
  if (part === 'units') return <UnitsPage />;
  if (part === 'templates') return <TemplatesPage />;
  if (part === 'databases') return entity ? <DatabasePage name={entity} /> : <DatabasesPage />;
  if (part === 'table') return <TablePage entities={entities} />;
  if (part === 'entity' && entity) return <EntityPage entity={entity} entities={entities} />;
  return <Entities entities={entities} />;
}

/** An entity as it is listed: published, or a draft that nobody has yet. */
interface EntityLine {
  key: string;
  plural: string;
  state: string;
  published?: EntitySummary;
}

const noDocuments: DocumentSummary[] = [];
const noDrafts: EntityRelations[] = [];

function linesOf(entities: EntitySummary[], documents: DocumentSummary[], drafted: readonly EntityRelations[]): EntityLine[] {
  const drafts = new Map(documents.filter((each) => each.kind === 'entity').map((each) => [each.key, each]));
  const lines = entities.map((published): EntityLine => {
    const draft = drafts.get(published.key);
    if (draft?.archived) return { key: published.key, plural: published.plural, state: say('entityArchive.archived'), published };
    const ahead = draft ? draft.revision - (draft.published ?? draft.revision) : 0;
    const state = ahead > 0 ? say('layoutsPage.notPublished', ahead) : say('layoutsPage.published');
    return { key: published.key, plural: published.plural, state, published };
  });
  const known = new Set(entities.map((each) => each.key));
  const waiting = [...drafts.keys()].filter((key) => !known.has(key));
  const stateOf = (key: string) => say(drafts.get(key)?.archived ? 'entityArchive.archived' : 'common.neverPublished');
  const nameOf = (key: string) => drafted.find((each) => each.key === key)?.plural ?? key;
  return [...lines, ...waiting.map((key) => ({ key, plural: nameOf(key), state: stateOf(key) }))];
}

function Entities({ entities }: { entities: EntitySummary[] }) {
  usePageTitle(say('data.data'));
  const session = useSession();
  const { data: documents = noDocuments } = useAnswer(['documents'], () => answer(api.GET('/api/documents')));
  const { data: drafted = noDrafts } = useAnswer(['documents', 'relations'], () => answer(api.GET('/api/relations')));
  const lines = linesOf(entities, documents, drafted);
  const bring = (
    <a className="button primary" href={address('data', 'table')}>
      {say('data.bringTable')}
    </a>
  );
  return (
    <>
      <DataHead here="entities">{lines.length > 0 && may(session, 'configure') && bring}</DataHead>
      {lines.length === 0 ? (
        <NoEntities bring={bring} />
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
                <th scope="col">{say('layoutsPage.state')}</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {lines.map(({ key, plural, state, published }) => (
                <tr key={key}>
                  <td data-label={say('common.entity')}>
                    <a href={address('data', 'entity', key)}>{plural}</a>
                  </td>
                  <td data-label={say('data.key')}>{key}</td>
                  <td data-label={say('data.fields')} data-number>
                    {published?.fields}
                  </td>
                  <td data-label={say('layoutsPage.state')}>{state}</td>
                  <td>
                    {published && (
                      <span className="acts">
                        <a href={address('records', key)}>{say('data.records')}</a>
                        {published.layout && <a href={address('design', published.layout)}>{say('data.designForm')}</a>}
                      </span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}

/** Where there is nothing yet: the ways on. */
function NoEntities({ bring }: { bring: ReactNode }) {
  const session = useSession();
  return (
    <div className="data-empty">
      <p>{say('data.empty')}</p>
      {may(session, 'configure') && (
        <span className="acts">
          {bring}
          <a className="button" href={address('data', 'databases')}>
            {say('data.attachDatabase')}
          </a>
        </span>
      )}
      {may(session, 'administer') && <OpenExample />}
    </div>
  );
}

/** A whole application to look at, where there is none. */
function OpenExample() {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const open = () => {
    setBusy(true);
    answer(api.POST('/api/example')).then(
      () => navigate('records', 'vessel'),
      (error: Error) => {
        setBusy(false);
        setProblem(error.message);
      },
    );
  };
  return (
    <>
      <p>{say('data.exampleAbout')}</p>
      <button type="button" className="button" disabled={busy} onClick={open}>
        {say(busy ? 'data.making' : 'data.openExample')}
      </button>
      <Problem text={problem} />
    </>
  );
}
