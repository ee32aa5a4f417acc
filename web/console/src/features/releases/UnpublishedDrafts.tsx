import { useEffect, useMemo, useState } from 'react';
import { answer, api, type Difference } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { usePeople } from '../../shell/people.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { commentAddress } from '../../shell/commentAddress.ts';
import { Approval, useApprovals } from './Approval.tsx';
import { PublishDialog } from './PublishDialog.tsx';
import { say } from '../../shell/configurator/texts.ts';

/** Where a document is changed; nothing where that is done in files. */
const placeOf = ({ kind, key }: Difference): string | undefined =>
  kind === 'layout'
    ? address('design', key)
    : kind === 'navigation'
      ? address('application', 'menu')
      : kind === 'routing'
        ? address('application', 'routing')
        : kind === 'application'
          ? address('application', 'widths')
          : undefined;

const withName = (names: ReadonlySet<string>, name: string, on: boolean) =>
  new Set(on ? [...names, name] : [...names].filter((each) => each !== name));

const titleOf = ([first, ...rest]: { kind: string; key: string }[]) =>
  rest.length === 0 ? say('publishDialog.the', documentName(first!)) : say('unpublishedDrafts.theseDrafts', rest.length + 1);

interface UnpublishedDraftsProps {
  /** What is said of a draft, by kind/key, that some have already or that is set for a time. */
  onWay: ReadonlyMap<string, string>;
  onPublished: () => void;
  onRefused: (message: string) => void;
}

/** Everything drafts have that nobody got yet, of whatever kind: looked through, approved, and published together. */
export function UnpublishedDrafts({ onWay, onPublished, onRefused }: UnpublishedDraftsProps) {
  const session = useSession();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [publishing, setPublishing] = useState<{ kind: string; key: string; revision: number }[]>();
  const { data, problem } = useAnswer(['drafts'], () =>
    answer(api.GET('/api/releases/diff', { params: { query: { from: 'current', to: 'drafts' } } })),
  );
  // What drafts no longer hold is published by restoring; a draft is what can be published.
  const found = useMemo(() => data?.documents.filter((each) => each.draft) ?? [], [data]);
  const approvals = useApprovals(found.map((each) => `${nameOf(each)} ${each.draft!.revision}`));
  useEffect(() => {
    if (problem) onRefused(problem.message);
  }, [problem, onRefused]);
  // Of one there is nothing to choose.
  const choosing = found.length > 1 && may(session, 'publish');
  const selected = found
    .filter((each) => !choosing || chosen.has(nameOf(each)))
    .map(({ kind, key, draft }) => ({ kind, key, revision: Number(draft!.revision) }));
  return (
    <>
      {found.length > 0 && (
        <section aria-labelledby="waiting-title" className="ahead">
          <header>
            <h2 id="waiting-title" className="releases-head">
              {say('unpublishedDrafts.unpublishedDrafts')}
            </h2>
            {may(session, 'publish') && (
              <PublishActs
                selected={selected.length}
                of={found.length}
                onAll={choosing ? (on) => setChosen(new Set(on ? found.map(nameOf) : [])) : undefined}
                onPublish={() => setPublishing(selected)}
              />
            )}
          </header>
          <ul className="ahead-drafts">
            {found.map((each) => (
              <DraftEntry
                key={nameOf(each)}
                draft={each}
                onWay={onWay.get(nameOf(each))}
                chosen={choosing ? chosen.has(nameOf(each)) : undefined}
                onChoose={(on) => setChosen(withName(chosen, nameOf(each), on))}
                approvals={approvals}
                onRefused={onRefused}
              />
            ))}
          </ul>
        </section>
      )}
      {publishing && (
        <PublishDialog
          documents={publishing}
          title={titleOf(publishing)}
          errors={[]}
          onClose={() => setPublishing(undefined)}
          onPublished={onPublished}
        />
      )}
    </>
  );
}

interface PublishActsProps {
  /** How many are chosen, and of how many. */
  selected: number;
  of: number;
  /** Chooses all or none; nothing where there is nothing to choose. */
  onAll: ((on: boolean) => void) | undefined;
  onPublish: () => void;
}

/** All of them, or those that are chosen. */
function PublishActs({ selected, of, onAll, onPublish }: PublishActsProps) {
  return (
    <>
      {onAll && (
        <label>
          <input type="checkbox" checked={selected === of} onChange={(event) => onAll(event.target.checked)} />{' '}
          {say('unpublishedDrafts.all')}
        </label>
      )}
      <button type="button" className="button primary" disabled={selected === 0} onClick={onPublish}>
        {say('unpublishedDrafts.publish', Math.max(1, selected))}
      </button>
    </>
  );
}

interface DraftEntryProps {
  draft: Difference;
  /** What is said of it where some have it already, or where it is set for a time. */
  onWay: string | undefined;
  /** Whether it is chosen; nothing where there is nothing to choose. */
  chosen: boolean | undefined;
  onChoose: (chosen: boolean) => void;
  approvals: ReturnType<typeof useApprovals>;
  onRefused: (message: string) => void;
}

/** A draft that waits: what it is, who changed it and how, and what can be said about it. */
function DraftEntry({ draft, onWay, chosen, onChoose, approvals, onRefused }: DraftEntryProps) {
  const people = usePeople();
  const [open, setOpen] = useState(false);
  const place = placeOf(draft);
  const { changedBy, changedAt, revision } = draft.draft!;
  return (
    <li>
      {chosen !== undefined && (
        <input
          type="checkbox"
          aria-label={say('common.chooseThe', documentName(draft))}
          checked={chosen}
          onChange={(event) => onChoose(event.target.checked)}
        />
      )}
      <div>
        <p className="release-note">
          {place ? <a href={place}>{documentName(draft)}</a> : documentName(draft)}
          {draft.change === 'added' && <span className="release-current">{say('unpublishedDrafts.new')}</span>}
        </p>
        <p className="release-about">
          {say('unpublishedDrafts.changedBy', people.name(changedBy), moment(changedAt))} {onWay && `${onWay} `}
          {draft.summary.length > 0 && (
            <button type="button" className="bt-link" aria-expanded={open} onClick={() => setOpen(!open)}>
              {say('unpublishedDrafts.changes', draft.summary.length)}
            </button>
          )}
        </p>
        {open && (
          <ul className="ahead-words">
            {draft.summary.map((word, i) => (
              <li key={i}>{word}</li>
            ))}
          </ul>
        )}
      </div>
      <div className="release-acts">
        <a className="button" href={commentAddress(draft)}>
          {say('pane.comments')}
        </a>
        <Approval
          draft={{ kind: draft.kind, key: draft.key, revision: Number(revision) }}
          {...approvals}
          look="button"
          onRefused={onRefused}
        />
      </div>
    </li>
  );
}
