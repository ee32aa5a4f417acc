import { Suspense, useState } from 'react';
import { answer, api, type DocumentSummary } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { PublishDialog } from '../releases/index.ts';
import type { DraftReference } from './ArchiveEntity.tsx';

const none: DocumentSummary[] = [];

/** The documents of a kind that not everybody has as they are here, at the revisions they have. */
export function useWaiting(kind: string): DraftReference[] {
  const { data: documents = none } = useAnswer(['documents'], () => answer(api.GET('/api/documents')));
  return documents
    .filter((each) => each.kind === kind && each.revision !== each.published)
    .map(({ key, revision }) => ({ kind, key, revision }));
}

interface PublishWaitingProps {
  waiting: readonly DraftReference[];
  /** What they are together. */
  title: string;
  onClose: () => void;
}

/** Publishes what waits, for those who may: a button, and the dialog it opens. */
export function PublishWaiting({ waiting, title, onClose }: PublishWaitingProps) {
  const session = useSession();
  const [open, setOpen] = useState(false);
  if (!may(session, 'publish')) return null;
  const close = () => {
    setOpen(false);
    onClose();
  };
  return (
    <>
      <button type="button" className="button primary" disabled={waiting.length === 0} onClick={() => setOpen(true)}>
        {say('data.publish')}
      </button>
      <Suspense>
        {open && <PublishDialog documents={waiting} errors={[]} title={title} onClose={close} onPublished={() => undefined} />}
      </Suspense>
    </>
  );
}
