import { answer, api } from '../../api/client.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { useApprovals } from './Approval.tsx';

/** What waits for one among the drafts: those one changed and nobody has yet, and those one may say yes to. */
export function WaitingDrafts() {
  const session = useSession();
  const { approvals } = useApprovals('home');
  const { data: documents = [] } = useAnswer(['documents'], () => answer(api.GET('/api/documents')));
  const own = approvals?.own ?? [];
  const mine = new Set(own.map(nameOf));
  const given = new Set(approvals?.given.map(nameOf));
  const others = may(session, 'review')
    ? documents.filter((each) => each.revision !== each.published && !mine.has(nameOf(each)) && !given.has(nameOf(each)))
    : [];
  if (own.length === 0 && others.length === 0) return null;
  return (
    <section className="home-group">
      <h2>{say('waiting.waits')}</h2>
      <ul className="home-list">
        {own.map((draft) => (
          <li key={nameOf(draft)}>
            <a href={draft.kind === 'layout' ? address('design', draft.key) : address('releases', draft.kind, draft.key)}>
              {documentName(draft)}
            </a>
            <small>{say('waiting.ownDraft')}</small>
          </li>
        ))}
        {others.length > 0 && (
          <li>
            <a href={address('releases')}>{say('waiting.othersDrafts', others.length)}</a>
            <small>{say('waiting.toApprove')}</small>
          </li>
        )}
      </ul>
    </section>
  );
}
