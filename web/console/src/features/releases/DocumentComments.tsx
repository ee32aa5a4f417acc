import { Suspense } from 'react';
import { documentName } from '../../shell/configurator/documentNames.ts';
import { CommentsPane, useComments } from '../comments/index.ts';
import { address } from '../../shell/location.ts';
import { say } from '../../shell/configurator/texts.ts';

/** What is said about a draft that has no designer of its own. */
export function DocumentComments({ kind, name }: { kind: string; name: string }) {
  const comments = useComments(kind, name);
  return (
    <section className="document-talk">
      <a href={address('releases')}>{say('common.close')}</a>
      <Suspense>
        <CommentsPane comments={comments} whole={say('publishDialog.the', documentName({ kind, key: name }))} />
      </Suspense>
    </section>
  );
}
