import { documentName } from '../shell/documentNames.ts';
import { CommentsPane } from '../comments/CommentsPane.tsx';
import { useComments } from '../comments/useComments.ts';
import { address } from '../shell/location.ts';

/** What is said about a draft that has no designer of its own. */
export function DocumentTalk({ kind, name }: { kind: string; name: string }) {
  const comments = useComments(kind, name);
  return (
    <section className="document-talk">
      <a href={address('releases')}>Close</a>
      <CommentsPane comments={comments} whole={`the ${documentName({ kind, key: name })}`} />
    </section>
  );
}
