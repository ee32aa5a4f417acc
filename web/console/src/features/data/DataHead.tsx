import type { ReactNode } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { address } from '../../shell/location.ts';

const parts = { entities: undefined, lists: 'lists', patterns: 'patterns' } as const;

/** What the place of data has over it: its parts, and what can be done in the one that is open. */
export function DataHead({ here, children }: { here: keyof typeof parts; children?: ReactNode }) {
  return (
    <>
      <header className="page-head">
        <h1>{say('data.data')}</h1>
        {children}
      </header>
      <nav className="page-parts" aria-label={say('data.parts')}>
        {(Object.keys(parts) as (keyof typeof parts)[]).map((each) => (
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
