import { useSession } from '../../shell/hooks.ts';

/** Roles by what they are called, one after another. */
export function useRoleNames(): (roles: readonly string[]) => string {
  const { roles: known } = useSession().application;
  return (keys) => keys.map((key) => known.find((role) => role.key === key)?.label ?? key).join(', ');
}
