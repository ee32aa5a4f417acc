import type { ReactNode } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { may } from '../../shell/session.ts';

const parts = {
  entities: undefined,
  relations: 'relations',
  lists: 'lists',
  patterns: 'patterns',
  units: 'units',
  templates: 'templates',
  databases: 'databases',
} as const;

/** What the place of data has over it: its parts, and what can be done in the one that is open. */
export function DataHead({ here, children }: { here: keyof typeof parts; children?: ReactNode }) {
  const session = useSession();
  // Connections are for those who lay out; everybody else has the entities.
  const shown = (Object.keys(parts) as (keyof typeof parts)[]).filter((each) => each !== 'databases' || may(session, 'configure'));
  return (
    <>
      <header className="page-head">
        <h1>{say('data.data')}</h1>
        {children}
      </header>
      <nav className="page-parts" aria-label={say('data.parts')}>
        {shown.map((each) => (
          <a
            key={each}
            href={parts[each] ? address('data', parts[each]) : address('data')}
            aria-current={each === here ? 'page' : undefined}
          >
            {say(`data.parts.${each}`)}
          </a>
        ))}
      </nav>
    </>
  );
}
