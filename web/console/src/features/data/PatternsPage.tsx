import { useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { UseList } from '../documents/index.ts';
import { DataHead } from './DataHead.tsx';
import { PatternDialog } from './PatternDialog.tsx';
import { PublishWaiting, useWaiting } from './WaitingDrafts.tsx';

const noPatterns: { key: string; label: string; pattern: string; passes: readonly string[]; fails: readonly string[] }[] = [];

/** The patterns fields share: what a text must look like, with samples that show it. */
export function PatternsPage() {
  usePageTitle(say('data.parts.patterns'));
  const session = useSession();
  const { data: patterns = noPatterns, reload } = useAnswer(['documents', 'patterns'], () => answer(api.GET('/api/patterns')));
  const waiting = useWaiting('pattern');
  const [open, setOpen] = useState<string>();
  const configures = may(session, 'configure');
  const close = () => {
    setOpen(undefined);
    void reload();
  };
  return (
    <>
      <DataHead here="patterns">
        {configures && (
          <button type="button" className="button" onClick={() => setOpen('')}>
            {say('data.newPattern')}
          </button>
        )}
        <PublishWaiting waiting={waiting} title={say('data.parts.patterns')} onClose={close} />
      </DataHead>
      {patterns.length === 0 ? (
        <p className="empty">{say('data.noPatterns')}</p>
      ) : (
        <PatternTable patterns={patterns} waiting={waiting.map((each) => each.key)} onOpen={configures ? setOpen : undefined} />
      )}
      {open !== undefined && <PatternDialog pattern={open || undefined} taken={patterns.map((each) => each.key)} onClose={close} />}
    </>
  );
}

interface PatternTableProps {
  patterns: typeof noPatterns;
  /** The keys of those not everybody has as they are here. */
  waiting: readonly string[];
  onOpen: ((key: string) => void) | undefined;
}

function PatternTable({ patterns, waiting, onOpen }: PatternTableProps) {
  return (
    <div className="table-frame">
      <table className="table">
        <thead>
          <tr>
            <th scope="col">{say('data.pattern')}</th>
            <th scope="col">{say('data.mustLookLike')}</th>
            <th scope="col">{say('data.samples')}</th>
            <th scope="col">{say('data.whereUsed')}</th>
            <th scope="col">{say('layoutsPage.state')}</th>
          </tr>
        </thead>
        <tbody>
          {patterns.map(({ key, label, pattern, passes, fails }) => (
            <tr key={key}>
              <td data-label={say('data.pattern')}>
                {onOpen ? (
                  <button type="button" className="bt-link" onClick={() => onOpen(key)}>
                    {label}
                  </button>
                ) : (
                  label
                )}
              </td>
              <td data-label={say('data.mustLookLike')}>
                <code>{pattern}</code>
              </td>
              <td data-label={say('data.samples')}>
                {[...passes.slice(0, 3), ...fails.slice(0, 2).map((each) => `✗ ${each}`)].join(', ')}
              </td>
              <td data-label={say('data.whereUsed')}>
                <UseList subject="pattern" name={key} />
              </td>
              <td data-label={say('layoutsPage.state')}>
                {waiting.includes(key) ? say('data.changedSince') : say('layoutsPage.published')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
