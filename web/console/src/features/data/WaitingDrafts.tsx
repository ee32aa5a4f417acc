import { Suspense, useState } from 'react';
import { answer, api, type DocumentSummary } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { PublishDialog } from '../releases/index.ts';
import type { DraftReference } from './ArchiveEntity.tsx';

const none: DocumentSummary[] = [];

const read = () => answer(api.GET('/api/documents'));

/** The documents of a kind that not everybody has as they are here, at the revisions they have. */
export function useWaiting(kind: string): DraftReference[] {
  const { data: documents = none } = useAnswer(['documents'], read);
  return waitingIn(documents, [kind]);
}

const waitingIn = (documents: readonly DocumentSummary[], kinds: readonly string[]): DraftReference[] =>
  documents
    .filter((each) => kinds.includes(each.kind) && each.revision !== each.published)
    .map(({ kind, key, revision }) => ({ kind, key, revision }));

interface PublishWaitingProps {
  waiting: readonly DraftReference[];
  /** What they are together. */
  title: string;
  onClose: () => void;
}

/** Publishes what waits, for those who may: a button, and the dialog it opens. */
export function PublishWaiting({ waiting, title, onClose }: PublishWaitingProps) {
  const session = useSession();
  const [documents, setDocuments] = useState<readonly DraftReference[]>();
  if (!may(session, 'publish')) return null;
  const close = () => {
    setDocuments(undefined);
    onClose();
  };
  // What was saved a moment ago goes out as well: the list on the page may not have heard of it yet.
  const open = async () =>
    setDocuments(
      waitingIn(
        await read(),
        waiting.map((each) => each.kind),
      ),
    );
  return (
    <>
      <button
        type="button"
        className="button primary"
        disabled={waiting.length === 0}
        onClick={() => void open().catch(() => setDocuments(waiting))}
      >
        {say('data.publish')}
      </button>
      <Suspense>
        {documents && <PublishDialog documents={documents} errors={[]} title={title} onClose={close} onPublished={() => undefined} />}
      </Suspense>
    </>
  );
}
