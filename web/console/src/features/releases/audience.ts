import type { Rollout } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';

/** Whom a release reaches first: what is said of it, and what is chosen. */
export interface FirstAudience {
  readonly roles?: readonly string[] | null;
  readonly people?: readonly string[] | null;
  readonly share?: number;
}

/** Whom a release reaches first, in words: roles, people, a share of all. */
export function useAudience(): (rollout: FirstAudience | null | undefined) => string {
  const { roles } = useSession().application;
  const people = usePeople();
  return (rollout) =>
    [
      ...(rollout?.roles ?? []).map((key) => roles.find((role) => role.key === key)?.label ?? key),
      ...(rollout?.people ?? []).map(people.name),
      ...(rollout?.share ? [say('rollout.share', Number(rollout.share))] : []),
    ].join(', ');
}

/** The next step of a rollout that is still to come. */
export const nextStep = (rollout: Rollout | null | undefined) => rollout?.steps?.find((step) => Number(step.share) > Number(rollout.share));
