import { answer, api, type Approvals } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { say } from '../../shell/configurator/texts.ts';

/** Who approved what, as it is of these drafts. */
export function useApprovals(revision: unknown): { approvals: Approvals | undefined; onSaid: () => void } {
  const { data, reload } = useAnswer(['approvals', revision], () => answer(api.GET('/api/approvals')));
  return { approvals: data, onSaid: reload };
}

interface ApproveProps {
  draft: { kind: string; key: string; revision: number };
  approvals: Approvals | undefined;
  onSaid: () => void;
  /** How its button looks. */
  look?: 'tool' | 'button';
  onRefused: (message: string) => void;
}

/** A second person's word that a draft is fit to be published as it is; shown where it is asked for, and to those who can give it. */
export function Approval({ draft: { kind, key, revision }, approvals, onSaid, look = 'tool', onRefused }: ApproveProps) {
  const session = useSession();
  const people = usePeople();
  const given = approvals?.given.filter((each) => each.kind === kind && each.key === key && Number(each.revision) === revision) ?? [];
  const mine = given.some((each) => each.by === session.person!.id);
  // Nobody approves what she changed herself.
  const mayApprove = may(session, 'review') && !approvals?.own.some((each) => each.kind === kind && each.key === key);
  if (!approvals || (!approvals.required && given.length === 0 && !mayApprove)) return null;
  const approve = (approved: boolean) =>
    void answer(api.POST('/api/approvals', { body: { kind, key, revision, approved } })).then(onSaid, (error: Error) =>
      onRefused(error.message),
    );
  return (
    <>
      {(given.length > 0 || approvals.required) && (
        <span className="approved" data-given={given.length > 0 ? '' : undefined}>
          {given.length > 0
            ? say('approval.approvedBy', given.map((each) => people.name(each.by)).join(', '))
            : say('approval.notApprovedYet')}
        </span>
      )}
      {mayApprove && (
        <button type="button" className={look} aria-pressed={mine} onClick={() => approve(!mine)}>
          {mine ? say('approval.takeApprovalBack') : say('approval.approve')}
        </button>
      )}
    </>
  );
}
