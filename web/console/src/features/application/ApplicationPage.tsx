import { Suspense, useState } from 'react';
import { answer, api, type DocumentSummary, type EntitySummary } from '../../api/client.ts';
import { PublishDialog } from '../releases/index.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { address } from '../../shell/location.ts';
import { may } from '../../shell/session.ts';
import '../../pages.css';
import './application.css';
import { MenuPart } from './MenuPart.tsx';
import { RolesPart } from './RolesPart.tsx';
import { RoutingPart } from './RoutingPart.tsx';
import { StylesPart } from './StylesPart.tsx';
import { arrived } from '../documents/index.ts';
import { WidthsPart } from './WidthsPart.tsx';
import { say } from '../../shell/configurator/texts.ts';

const parts = {
  menu: 'applicationPart.menu',
  routing: 'applicationPart.routing',
  widths: 'applicationPart.widths',
  styles: 'applicationPart.styles',
  roles: 'applicationPart.roles',
} as const;

const none: DocumentSummary[] = [];

/**
 * What belongs to no single layout: the menu, who gets which layout, where widths are cut, named styles. Kept as drafts and published like
 * layouts.
 */
export function ApplicationPage({ part, entities }: { part: string | undefined; entities: EntitySummary[] }) {
  usePageTitle(say('applicationPage.application2'));
  const session = useSession();
  const here = part && part in parts ? (part as keyof typeof parts) : 'menu';
  const [publishing, setPublishing] = useState(false);
  const { data: documents = none, reload } = useAnswer(['documents'], () => arrived().then(() => answer(api.GET('/api/documents'))));
  const waiting = documents
    .filter((each) => ['application', 'navigation', 'routing'].includes(each.kind) && each.revision !== each.published)
    .map(({ kind, key, revision }) => ({ kind, key, revision }));
  return (
    <>
      <header className="page-head">
        <h1>{say('applicationPage.application2')}</h1>
        <span className="bar-space" />
        <span className="application-state" role="status">
          {waiting.length === 0
            ? say('common.asPublished')
            : say('applicationPage.notPublished', waiting.map((each) => say(`applicationPage.${each.kind as 'routing'}`)).join(', '))}
        </span>
        {may(session, 'publish') && (
          <button
            type="button"
            className="button primary"
            disabled={waiting.length === 0}
            onClick={() => void reload().then(() => setPublishing(true))}
          >
            {say('common.publish')}
          </button>
        )}
      </header>
      <nav className="page-parts" aria-label={say('applicationPage.partsOfTheApplication')}>
        {Object.entries(parts).map(([key, name]) => (
          <a key={key} href={address('application', key)} aria-current={key === here ? 'page' : undefined}>
            {say(name)}
          </a>
        ))}
      </nav>
      {here === 'menu' && <MenuPart entities={entities} />}
      {here === 'routing' && <RoutingPart entities={entities} />}
      {here === 'widths' && <WidthsPart />}
      {here === 'styles' && <StylesPart />}
      {here === 'roles' && <RolesPart entities={entities} />}
      {publishing && (
        <Suspense>
          <PublishDialog
            documents={waiting}
            title={say('applicationPage.theApplicationSMenuRules')}
            errors={[]}
            onClose={() => setPublishing(false)}
            onPublished={() => void reload()}
          />
        </Suspense>
      )}
    </>
  );
}
