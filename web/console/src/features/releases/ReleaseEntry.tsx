import type { Release, ScheduledRelease } from '../../api/client.ts';
import { documentName } from '../../shell/configurator/documentNames.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';
import { may } from '../../shell/session.ts';
import { Adoption } from './Adoption.tsx';
import { ReleaseChanges } from './ReleaseChanges.tsx';
import { nextStep, useAudience } from './audience.ts';

/** What a release changed, in words; long lists as a count. */
function changed(release: Release): string {
  const { documents } = release;
  if (Number(release.changed) > 4) return say('releasesPage.many', Number(release.changed), Number(release.added));
  return (
    documents.map((document) => say(changes[document.change as 'added'] ?? 'common.changed', documentName(document))).join(', ') ||
    say('releasesPage.nothingChanged')
  );
}

const changes = { added: 'common.added', removed: 'common.removed', changed: 'common.changed' } as const;

/** A sentence, and why. */
const withReason = (text: string, reason: string | null | undefined) => (reason ? say('releasesPage.planReason', text, reason) : text);

interface ReleaseEntryProps {
  release: Release;
  releases: readonly Release[];
  /** Whether its changes are shown. */
  open: boolean;
  onOpen: (open: boolean) => void;
  onRestore: (documents?: { kind: string; key: string }[]) => void;
  onPromote: () => void;
  onCancel: () => void;
}

/** A release: what it changed, who has it, and what can be done with it. */
export function ReleaseEntry({ release, releases, open, onOpen, onRestore, onPromote, onCancel }: ReleaseEntryProps) {
  const session = useSession();
  const people = usePeople();
  return (
    <li data-current={release.current ? '' : undefined} data-open={open ? '' : undefined} data-state={release.state}>
      <b className="release-number">{release.number}</b>
      <div>
        <p className="release-note">
          {release.note || say('releasesPage.noNote')}
          {release.current && <span className="release-current">{say('releasesPage.current')}</span>}
          {release.state === 'staged' && <StagedFor release={release} />}
          {release.state === 'cancelled' && <span className="release-current">{say('releasesPage.cancelled')}</span>}
          {release.state === 'stopped' && <span className="release-current">{say('releasesPage.stopped')}</span>}
        </p>
        <p className="release-about">
          {say('releasesPage.about', moment(release.at), people.name(release.by), changed(release))}{' '}
          {(release.current || release.state === 'staged') && (
            <>{rich('releasesPage.inUse', <Adoption release={Number(release.number)} />)} </>
          )}
          {release.state === 'staged' && (
            <>
              <a href="/releases/holders">{say('holders.whoHasWhat')}</a>{' '}
            </>
          )}
          <button type="button" className="bt-link" aria-expanded={open} onClick={() => onOpen(!open)}>
            {say('releasesPage.showChanges')}
          </button>
        </p>
        {release.stopReason && <p className="release-about">{say('releasesPage.stoppedBecause', release.stopReason)}</p>}
        {release.overrideReason && <p className="release-about">{say('releasesPage.publishedDespiteErrors', release.overrideReason)}</p>}
        {open && (
          <ReleaseChanges
            release={release}
            releases={releases}
            onRestore={!release.current && may(session, 'publish') ? onRestore : undefined}
          />
        )}
      </div>
      {may(session, 'publish') &&
        (release.state === 'staged' ? (
          <div className="release-acts">
            <button type="button" className="button primary" onClick={onPromote}>
              {say('releasesPage.promoteToEveryone')}
            </button>
            <button type="button" className="button" onClick={onCancel}>
              {say('releasesPage.cancelRelease')}
            </button>
          </div>
        ) : (
          !release.current && (
            <button type="button" className="button" onClick={() => onRestore()}>
              {say('common.restore')}
            </button>
          )
        ))}
    </li>
  );
}

/** Who has it alone, and when more do. */
function StagedFor({ release }: { release: Release }) {
  const audience = useAudience();
  const step = nextStep(release.rollout);
  return (
    <span className="release-current">
      {step
        ? say(
            Number(step.share) === 100 ? 'releasesPage.onlyUntil' : 'releasesPage.onlyThen',
            audience(release.rollout),
            moment(step.at),
            Number(step.share),
          )
        : say('releasesPage.only', audience(release.rollout))}
    </span>
  );
}

/** A release that is still to be made, or lately was not. */
export function ScheduledEntry({ plan, onCancel }: { plan: ScheduledRelease; onCancel: () => void }) {
  const session = useSession();
  const people = usePeople();
  const audience = useAudience();
  return (
    <li data-state={plan.state}>
      <b className="release-number" aria-hidden>
        ◷
      </b>
      <div>
        <p className="release-note">
          {plan.note || say('releasesPage.noNote')}
          <span className="release-current">{plan.state === 'failed' ? say('layoutState.unpublished') : moment(plan.at)}</span>
        </p>
        <p className="release-about">
          {withReason(
            say(
              plan.rollout ? 'releasesPage.planTo' : 'releasesPage.plan',
              people.name(plan.by),
              plan.documents.map(documentName).join(', '),
              audience(plan.rollout),
            ),
            plan.reason,
          )}
        </p>
      </div>
      {plan.state === 'scheduled' && may(session, 'publish') && (
        <button type="button" className="button" onClick={onCancel}>
          {say('releasesPage.cancelRelease')}
        </button>
      )}
    </li>
  );
}
