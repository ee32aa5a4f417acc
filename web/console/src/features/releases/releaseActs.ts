import { answer, api, type Release, type ScheduledRelease } from '../../api/client.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useAnswer } from '../../shell/queries.ts';
import { useCallback, useState } from 'react';

/** How long a planned release that was not made is shown, in milliseconds. */
const shownFailed = 7 * 24 * 60 * 60 * 1_000;

const none: Release[] = [];
const noPlans: ScheduledRelease[] = [];

const isShown = (plan: ScheduledRelease) =>
  plan.state === 'scheduled' || (plan.state === 'failed' && Date.now() - Date.parse(plan.at) < shownFailed);

/** How many releases are shown at first, and how many more each time. */
const page = 100;

/** The releases there were, the newest first, and those that are still to be made or lately were not. */
export function useReleases() {
  const [limit, setLimit] = useState(page);
  const read = useAnswer(['releases', limit], () => answer(api.GET('/api/releases', { params: { query: { limit } } })), { keeps: true });
  const releases = read.data ?? none;
  const plans = useAnswer(['releases', 'scheduled'], () => answer(api.GET('/api/scheduled-releases')));
  const more = useCallback(() => setLimit((so) => Math.min(500, so + page)), []);
  return {
    releases,
    problem: read.problem,
    waiting: (plans.data ?? noPlans).filter(isShown),
    staged: useStaged(releases),
    /** Shows earlier ones; nothing where all are shown, or as many as a page has. */
    more: releases.length === limit && limit < 500 ? more : undefined,
    reload: () => {
      read.reload();
      plans.reload();
    },
  };
}

/** The release that only some have, with all its documents: a list has no long ones. */
function useStaged(releases: readonly Release[]): Release | undefined {
  const staged = releases.find((release) => release.state === 'staged');
  const number = Number(staged?.number);
  const isCut = staged && Number(staged.changed) > staged.documents.length;
  const { data } = useAnswer(
    ['releases', 'one', number],
    isCut ? () => answer(api.GET('/api/releases/{number}', { params: { path: { number } } })) : undefined,
  );
  return isCut ? data : staged;
}

/** What is said of a draft, by kind/key, that some have already or that is set for a time. */
export function onTheirWay(
  staged: Release | undefined,
  waiting: readonly ScheduledRelease[],
  audience: (rollout: Release['rollout']) => string,
): ReadonlyMap<string, string> {
  return new Map<string, string>([
    ...(staged?.documents ?? []).map((each): [string, string] => [
      nameOf(each),
      say('releasesPage.gotItInRelease', audience(staged?.rollout ?? null), Number(staged?.number)),
    ]),
    ...waiting
      .filter((plan) => plan.state === 'scheduled')
      .flatMap((plan) =>
        plan.documents.map((each): [string, string] => [
          nameOf(each),
          say('releasesPage.revisionIsSetFor', each.revision, moment(plan.at)),
        ]),
      ),
  ]);
}

/** What can be done with a release; each says what it came to. */
export function releaseActs(onDone: (text: string) => void, onFailed: (error: Error) => void) {
  const act = (call: Promise<unknown>, text: string) => void call.then(() => onDone(text), onFailed);
  return {
    restore: (release: Release, documents?: { kind: string; key: string }[]) => {
      const names = documents?.map(documentName).join(', ');
      const what = names
        ? say('releasesPage.asHad', names, release.number, documents!.length)
        : say('releasesPage.whatReleaseHeld', release.number);
      if (!window.confirm(say('releasesPage.publishAsANewRelease', what))) return;
      const body = {
        note: names ? say('releasesPage.asInRelease', names, release.number) : say('releasesPage.backToRelease', release.number),
        ...(documents ? { documents } : {}),
      };
      answer(api.POST('/api/releases/{number}/restore', { params: { path: { number: release.number } }, body })).then(
        (receipt) => onDone(say('releasesPage.releaseIsPublishedItHolds', receipt.release.number, what)),
        onFailed,
      );
    },
    promote: (number: number) =>
      act(
        answer(api.POST('/api/releases/{number}/promote', { params: { path: { number } } })),
        say('releasesPage.releaseIsCurrent', number),
      ),
    widen: (number: number, share: number) =>
      act(
        answer(api.POST('/api/releases/{number}/widen', { params: { path: { number } }, body: { share } })),
        say('releasesPage.releaseIsWidened', number, share),
      ),
    cancel: (number: number) => {
      if (!window.confirm(say('releasesPage.cancelReleaseItsUsersGet', number))) return;
      act(
        answer(api.POST('/api/releases/{number}/cancel', { params: { path: { number } } })),
        say('releasesPage.releaseIsCancelledEveryoneHas', number),
      );
    },
    unplan: (plan: ScheduledRelease) =>
      act(
        answer(api.POST('/api/scheduled-releases/{id}/cancel', { params: { path: { id: plan.id } } })),
        say('releasesPage.theScheduledReleaseIsCancelled'),
      ),
  };
}
