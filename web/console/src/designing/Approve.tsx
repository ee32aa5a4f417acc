import { useCallback, useEffect, useState } from 'react';
import { answer, api, type Approvals } from '../api/client.ts';
import { useHappenings, useSession } from '../shell/hooks.ts';
import { usePeople } from '../shell/people.ts';
import { may } from '../shell/session.ts';

/** A second person's word that the draft is fit to be published as it is; shown where it is asked for, and to those who can give it. */
export function Approve({ layout, revision, onRefused }: { layout: string; revision: number; onRefused: (message: string) => void }) {
  const session = useSession();
  const people = usePeople();
  const [approvals, setApprovals] = useState<Approvals>();
  const look = useCallback(() => void answer(api.GET('/api/releases/approvals')).then(setApprovals, () => undefined), []);
  useEffect(look, [look, revision]);
  useHappenings(useCallback(({ type }) => { if (type === 'approval') look(); }, [look]));
  const given = approvals?.given.filter((each) => each.kind === 'layout' && each.key === layout && Number(each.revision) === revision) ?? [];
  const mine = given.some((each) => each.by === session.person!.id);
  if (!approvals || (!approvals.required && given.length === 0 && !may(session, 'review'))) return null;
  const say = (approved: boolean) => void answer(api.POST('/api/releases/approvals', { body: { kind: 'layout', key: layout, revision, approved } })).then(look, (error: Error) => onRefused(error.message));
  return (
    <>
      {(given.length > 0 || approvals.required) && <span className="approved" data-given={given.length > 0 ? '' : undefined}>{given.length > 0 ? `approved by ${given.map((each) => people.name(each.by)).join(', ')}` : 'not approved yet'}</span>}
      {may(session, 'review') && <button type="button" className="tool" aria-pressed={mine} onClick={() => say(!mine)}>{mine ? 'Take approval back' : 'Approve'}</button>}
    </>
  );
}
