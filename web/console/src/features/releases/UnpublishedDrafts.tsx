import { useCallback, useEffect, useState } from 'react';
import { answer, api, type Difference } from '../../api/client.ts';
import type { ServerEvent } from '../../shell/events.ts';
import { useAfterServerEvents, useSession } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { usePeople } from '../../shell/people.ts';
import { may } from '../../shell/session.ts';
import { commentAddress } from '../../shell/commentAddress.ts';
import { Approval, useApprovals } from './Approval.tsx';
import { PublishDialog } from './PublishDialog.tsx';
import { say } from '../../shell/configurator/texts.ts';

const ofDocuments = ({ type }: ServerEvent) => type === 'draft' || type === 'release';

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

/** Everything drafts have that nobody got yet, of whatever kind: looked through, approved, and published together. */
export function UnpublishedDrafts({
  onWay,
  onPublished,
  onRefused,
}: {
  /** What is said of a draft, by kind/key, that some have already or that is set for a time. */
  onWay: ReadonlyMap<string, string>;
  onPublished: () => void;
  onRefused: (message: string) => void;
}) {
  const session = useSession();
  const people = usePeople();
  const [found, setFound] = useState<readonly Difference[]>([]);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const [publishing, setPublishing] = useState<{ kind: string; key: string; revision: number }[]>();
  const approvals = useApprovals(found);
  // What drafts no longer hold is published by restoring; a draft is what can be published.
  const reload = useCallback(
    () =>
      void answer(api.GET('/api/releases/diff', { params: { query: { from: 'current', to: 'drafts' } } })).then(
        (compared) => setFound(compared.documents.filter((each) => each.draft)),
        (error: Error) => onRefused(error.message),
      ),
    [onRefused],
  );
  useEffect(reload, [reload]);
  useAfterServerEvents(ofDocuments, reload);
  const withName = (names: ReadonlySet<string>, name: string, on: boolean) =>
    new Set(on ? [...names, name] : [...names].filter((each) => each !== name));
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
              <>
                {choosing && (
                  <label>
                    <input
                      type="checkbox"
                      checked={selected.length === found.length}
                      onChange={(event) => setChosen(new Set(event.target.checked ? found.map(nameOf) : []))}
                    />{' '}
                    {say('unpublishedDrafts.all')}
                  </label>
                )}
                <button type="button" className="button primary" disabled={selected.length === 0} onClick={() => setPublishing(selected)}>
                  {say('unpublishedDrafts.publish', Math.max(1, selected.length))}
                </button>
              </>
            )}
          </header>
          <ul className="ahead-drafts">
            {found.map((each) => {
              const [name, place, draft] = [nameOf(each), placeOf(each), each.draft!];
              return (
                <li key={name}>
                  {choosing && (
                    <input
                      type="checkbox"
                      aria-label={say('common.chooseThe', documentName(each))}
                      checked={chosen.has(name)}
                      onChange={(event) => setChosen(withName(chosen, name, event.target.checked))}
                    />
                  )}
                  <div>
                    <p className="release-note">
                      {place ? <a href={place}>{documentName(each)}</a> : documentName(each)}
                      {each.change === 'added' && <span className="release-current">{say('unpublishedDrafts.new')}</span>}
                    </p>
                    <p className="release-about">
                      {say('unpublishedDrafts.changedBy', people.name(draft.changedBy), moment(draft.changedAt))}{' '}
                      {onWay.has(name) && `${onWay.get(name)} `}
                      {each.summary.length > 0 && (
                        <button
                          type="button"
                          className="bt-link"
                          aria-expanded={open.has(name)}
                          onClick={() => setOpen(withName(open, name, !open.has(name)))}
                        >
                          {say('unpublishedDrafts.changes', each.summary.length)}
                        </button>
                      )}
                    </p>
                    {open.has(name) && (
                      <ul className="ahead-words">
                        {each.summary.map((word, i) => (
                          <li key={i}>{word}</li>
                        ))}
                      </ul>
                    )}
                  </div>
                  <div className="release-acts">
                    <a className="button" href={commentAddress(each)}>
                      {say('pane.comments')}
                    </a>
                    <Approval
                      draft={{ kind: each.kind, key: each.key, revision: Number(draft.revision) }}
                      {...approvals}
                      look="button"
                      onRefused={onRefused}
                    />
                  </div>
                </li>
              );
            })}
          </ul>
        </section>
      )}
      {publishing && (
        <PublishDialog
          documents={publishing}
          title={
            publishing.length === 1
              ? say('publishDialog.the', documentName(publishing[0]!))
              : say('unpublishedDrafts.theseDrafts', publishing.length)
          }
          errors={[]}
          onClose={() => setPublishing(undefined)}
          onPublished={onPublished}
        />
      )}
    </>
  );
}
