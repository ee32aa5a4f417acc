import type { DocumentState } from './useDocument.ts';
import { say } from '../../shell/configurator/texts.ts';

/** What every part has over it: what is wrong, and the way back. */
export function PartHead({
  about,
  kept: { problem, findings, undo },
}: {
  about: string;
  kept: Pick<DocumentState<object>, 'problem' | 'findings' | 'undo'>;
}) {
  return (
    <>
      <div className="application-head">
        <p>{about}</p>
        <button type="button" className="button" disabled={!undo} onClick={undo}>
          {say('common.undo')}
        </button>
      </div>
      {problem && (
        <p className="notice" data-tone="bad" role="alert">
          {problem}
        </p>
      )}
      {findings.length > 0 && (
        <ul className="notice" data-tone={findings.some((each) => each.severity === 'error') ? 'bad' : undefined} role="status">
          {findings.map((each) => (
            <li key={each.pointer + each.code + each.message}>{each.message}</li>
          ))}
        </ul>
      )}
    </>
  );
}
