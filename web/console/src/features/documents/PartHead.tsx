import { lazy, Suspense, useState } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { NoticeBox, Problem } from '../../ui/Notice.tsx';
import { SideDialog } from '../../ui/SideDialog.tsx';
import { CommentsPane, useComments } from '../comments/index.ts';
import type { DocumentState } from './useDocument.ts';

/** Fetched when it is opened. */
const DocumentHistory = lazy(() => import('./DocumentHistory.tsx').then((module) => ({ default: module.DocumentHistory })));

interface PartHeadProps {
  about: string;
  kept: Omit<DocumentState<object>, 'change' | 'value'>;
  /** What it is called, over its history and its comments; nothing where it has none yet. */
  title?: string;
  /** Whether it can be changed by who looks at it. */
  changes?: boolean;
}

/** What every part has over it: what is wrong, the way back, what was done to it, and what is said about it. */
export function PartHead({ about, kept, title, changes = true }: PartHeadProps) {
  const { problem, findings, undo } = kept;
  const [open, setOpen] = useState<'history' | 'comments'>();
  return (
    <>
      <div className="document-head">
        <p>{about}</p>
        {title !== undefined && kept.revision > 0 && (
          <DocumentTalk kept={kept} title={title} onOpen={setOpen} open={open} changes={changes} />
        )}
        <button type="button" className="button" disabled={!undo} onClick={undo}>
          {say('common.undo')}
        </button>
      </div>
      <Problem text={problem} />
      {findings.length > 0 && (
        <NoticeBox tone={findings.some((each) => each.severity === 'error') ? 'bad' : undefined}>
          <ul>
            {findings.map((each) => (
              <li key={each.pointer + each.code + each.message}>{each.message}</li>
            ))}
          </ul>
        </NoticeBox>
      )}
    </>
  );
}

interface DocumentTalkProps {
  kept: Omit<DocumentState<object>, 'change' | 'value'>;
  title: string;
  changes: boolean;
  open: 'history' | 'comments' | undefined;
  onOpen: (what: 'history' | 'comments' | undefined) => void;
}

/** The two drawers of a document: its history, and what is said about it. */
function DocumentTalk({ kept, title, changes, open, onOpen }: DocumentTalkProps) {
  const comments = useComments(kept.kind, kept.name);
  const spoken = comments.open.get('') ?? 0;
  const close = () => onOpen(undefined);
  return (
    <>
      <button type="button" className="button" onClick={() => onOpen('history')}>
        {say('documentHistory.history')}
      </button>
      <button type="button" className="button" onClick={() => onOpen('comments')}>
        {spoken > 0 ? say('documentHistory.commentsOpen', spoken) : say('documentHistory.comments')}
      </button>
      <Suspense>
        {open === 'history' && (
          <DocumentHistory kind={kept.kind} name={kept.name} title={title} revision={kept.revision} changes={changes} onClose={close} />
        )}
        {open === 'comments' && (
          <SideDialog
            title={say('documentHistory.talk', title)}
            onClose={close}
            acts={
              <button type="button" className="button" onClick={close}>
                {say('common.close')}
              </button>
            }
          >
            <CommentsPane comments={comments} whole={title} />
          </SideDialog>
        )}
      </Suspense>
    </>
  );
}
