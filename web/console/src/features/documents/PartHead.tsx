import type { DocumentState } from './useDocument.ts';
import { say } from '../../shell/configurator/texts.ts';
import { NoticeBox, Problem } from '../../ui/Notice.tsx';

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
      <div className="document-head">
        <p>{about}</p>
        <button type="button" className="button" disabled={!undo} onClick={undo}>
          {say('common.undo')}
        </button>
      </div>
      <Problem text={problem} />
      {findings.length > 0 && (
        <NoticeBox tone={findings.some((each) => each.severity === 'error') ? 'bad' : undefined}>
          <ul>
            {findings.map((each) => (
              <li key={each.pointer + each.code + each.message}>{each.message}</li>
            ))}
          </ul>
        </NoticeBox>
      )}
    </>
  );
}
