import { answer, api, type Release, type ScheduledRelease } from '../../api/client.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useAnswer } from '../../shell/queries.ts';

/** How long a planned release that was not made is shown, in milliseconds. */
const shownFailed = 7 * 24 * 60 * 60 * 1_000;

const none: Release[] = [];
const noPlans: ScheduledRelease[] = [];

const isShown = (plan: ScheduledRelease) =>
  plan.state === 'scheduled' || (plan.state === 'failed' && Date.now() - Date.parse(plan.at) < shownFailed);

/** The releases there were, and those that are still to be made or lately were not. */
export function useReleases() {
  const { data: releases = none, problem, reload } = useAnswer(['releases'], () => answer(api.GET('/api/releases')));
  const plans = useAnswer(['releases', 'scheduled'], () => answer(api.GET('/api/scheduled-releases')));
  return {
    releases,
    problem,
    waiting: (plans.data ?? noPlans).filter(isShown),
    reload: () => {
      reload();
      plans.reload();
    },
  };
}

/** What is said of a draft, by kind/key, that some have already or that is set for a time. */
export function onTheirWay(
  releases: readonly Release[],
  waiting: readonly ScheduledRelease[],
  label: (roles: readonly string[]) => string,
): ReadonlyMap<string, string> {
  return new Map<string, string>([
    ...releases
      .filter((release) => release.state === 'staged')
      .flatMap((release) =>
        release.documents.map((each): [string, string] => [
          nameOf(each),
          say('releasesPage.gotItInRelease', label(release.roles ?? []), release.number),
        ]),
      ),
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
