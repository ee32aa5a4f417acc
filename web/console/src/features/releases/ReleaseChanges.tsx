import { useState } from 'react';
import { answer, api, type Difference, type Release } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { say, type TextKey } from '../../shell/configurator/texts.ts';

const changes: Record<string, TextKey> = {
  added: 'common.added',
  removed: 'common.removed',
  changed: 'common.changed',
};

const none: Difference[] = [];

interface ReleaseChangesProps {
  release: Release;
  releases: readonly Release[];
  /** Gives everyone the documents that are chosen as this release has them; nothing where one may not, or everyone has it. */
  onRestore: ((documents: { kind: string; key: string }[]) => void) | undefined;
}

/** What is different between a release and any other, document by document, in words. */
export function ReleaseChanges({ release, releases, onRestore }: ReleaseChangesProps) {
  const older = releases.find((each) => each.number < release.number);
  const [against, setAgainst] = useState(older?.number);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { data } = useAnswer(
    ['releases', 'diff', against, release.number],
    against === undefined
      ? undefined
      : () => answer(api.GET('/api/releases/diff', { params: { query: { from: `${against}`, to: `${release.number}` } } })),
  );
  const found = data?.documents;
  if (!older) return <p>{say('releaseChanges.thisIsTheFirstRelease')}</p>;
  const back = found?.filter((each) => chosen.has(nameOf(each))) ?? [];
  return (
    <div className="release-changes">
      <label>
        {say('releaseChanges.comparedWithRelease')}{' '}
        <select
          className="bt-input bt-select"
          value={against}
          onChange={(event) => {
            setAgainst(Number(event.target.value));
            setChosen(new Set());
          }}
        >
          {releases
            .filter((each) => each.number !== release.number)
            .map((each) => (
              <option key={each.number} value={each.number}>
                {each.number}
                {each.note ? `, ${each.note.slice(0, 40)}` : ''}
              </option>
            ))}
        </select>
      </label>
      {found?.length === 0 && <p>{say('releaseChanges.noDifferences')}</p>}
      <dl>
        <Changed found={found ?? none} chosen={chosen} onChoose={onRestore && setChosen} />
      </dl>
      {onRestore && found && found.length > 0 && (
        <button
          type="button"
          className="button"
          disabled={back.length === 0}
          onClick={() => onRestore(back.map(({ kind, key }) => ({ kind, key })))}
        >
          {say('releaseChanges.publishesTheSelectedDocumentsAs')}
        </button>
      )}
    </div>
  );
}

/** Each document, how it differs, and whether it is to be as it was. */
function Changed({
  found,
  chosen,
  onChoose,
}: {
  found: readonly Difference[];
  chosen: ReadonlySet<string>;
  onChoose: ((names: ReadonlySet<string>) => void) | undefined;
}) {
  return found.map((each) => (
    <div key={nameOf(each)}>
      <dt>
        {onChoose && each.change !== 'removed' && (
          <input
            type="checkbox"
            aria-label={say('common.chooseThe', documentName(each))}
            checked={chosen.has(nameOf(each))}
            onChange={(event) =>
              onChoose(new Set(event.target.checked ? [...chosen, nameOf(each)] : [...chosen].filter((name) => name !== nameOf(each))))
            }
          />
        )}
        {say(changes[each.change]!, documentName(each))}
      </dt>
      {each.summary.map((word, i) => (
        <dd key={i}>{word}</dd>
      ))}
    </div>
  ));
}
