import { useCallback, useMemo, useRef, useState } from 'react';
import { apply as applied, applyOver, type Edit, type TreeNode } from '#layout';
import { answer, api, type EditResult, type LayoutView } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { may, session } from '../../shell/session.ts';
import { useParentLayout } from './derivedLayout.ts';
import { useQueue, useSending } from './draftSender.ts';
import { changeLabel, type Draft, type DraftMessage, type DraftState, type SentChange } from './draftState.ts';
import { queueStore, type UndoStep } from './offlineQueue.ts';
import { useOthersEdits } from './othersEdits.ts';
import { useUndoSteps } from './undoSteps.ts';

/**
 * The draft being changed. What is done shows at once, and goes to the service, which decides, and answers with what it came to and with
 * what would undo it;
 * undoing sends that, so that others' edits in between stand. While the service is out of reach changes wait, here and in the browser, and
 * follow in their order.
 */
export function useDraft(key: string): DraftState {
  const [kept] = useState(() => queueStore(session().person!.id, key));
  const [message, setMessage] = useState<DraftMessage>();
  const { labels, put, take, remember } = useUndoSteps(kept);
  const { draft, latest, settle, refresh, check } = useLatestDraft(key, setMessage);
  const queue = useQueue(key);
  const { last } = queue;
  useOthersEdits(key, latest, last, refresh, setMessage);
  const { ahead, send } = useSending(
    { key, kept, latest, settle, refresh, onMessage: setMessage },
    queue,
    useCallback((step: UndoStep) => put('past', step), [put]),
  );
  const mayChange = useCallback(() => {
    const allowed = may(session(), 'configure');
    if (!allowed) setMessage({ text: say('useDraft.youCanViewCommentOn'), bad: true });
    return allowed;
  }, []);
  const apply = useCallback(
    async (edits: Edit[], label: string, width?: string, goesOn?: boolean) => {
      if (edits.length === 0 || !mayChange()) return undefined;
      const sent = await send(edits, changeLabel(label), width);
      const typed = edits.every((edit) => edit.op === 'set');
      if (sent) remember(label, sent.inverse, typed, goesOn);
      return sent?.done;
    },
    [send, remember, mayChange],
  );
  const perform = usePerforming(queue, settle, remember, mayChange);
  const replay = async (from: 'past' | 'future', to: 'past' | 'future', word: string) => {
    // What was just done and is not answered yet is what is undone.
    await last.current.catch(() => undefined);
    await Promise.resolve();
    // What turns out to be impossible is said (by send) and gone from the list, not silently skipped.
    const step = mayChange() ? take(from) : undefined;
    if (!step) return;
    const sent = await send(step.edits, changeLabel(`${word}: ${step.label}`));
    if (!sent) return;
    put(to, { label: step.label, edits: sent.inverse });
    setMessage({ text: `${word}: ${step.label}`, bad: false });
  };
  const tree = draft?.tree;
  const under = useParentLayout(tree);
  const seen = useSeen(tree, under?.tree, ahead);
  return {
    draft: draft && seen ? { ...draft, tree: seen } : draft,
    under,
    ahead,
    message,
    undoLabel: labels.undo,
    redoLabel: labels.redo,
    apply,
    perform,
    undo: () => void replay('past', 'future', say('useDraft.undone')),
    redo: () => void replay('future', 'past', say('useDraft.doneAgain')),
    announce: (text, bad = false) => setMessage({ text, bad }),
    refresh,
    check,
  };
}

/** The draft as the service has it: never an older one than is known. */
function useLatestDraft(key: string, onMessage: (message: DraftMessage) => void) {
  const [draft, setDraft] = useState<Draft>();
  const latest = useRef<Draft>(undefined);
  const accept = useCallback((next: unknown) => {
    const now = next as Draft;
    if (latest.current && latest.current.revision > now.revision) return;
    latest.current = now;
    setDraft(now);
  }, []);
  const refresh = useCallback(
    () =>
      answer(api.GET('/api/layouts/{key}', { params: { path: { key } } })).then(accept, (error: Error) =>
        onMessage({ text: error.message, bad: true }),
      ),
    [key, accept, onMessage],
  );
  /** What a change came to follows from the draft before it, unless somebody else was in between. */
  const settle = useCallback(
    async ({ revision, edits }: EditResult) => {
      const before = latest.current;
      const tree = before && revision === before.revision + 1 ? applied(before.tree, edits as unknown as Edit[]).tree : undefined;
      if (tree) accept({ ...before, revision, tree });
      else await refresh();
    },
    [accept, refresh],
  );
  const check = useCallback(({ revision, findings }: LayoutView) => {
    if (latest.current?.revision !== revision) return;
    latest.current = { ...latest.current, findings };
    setDraft(latest.current);
  }, []);
  return { draft, latest, settle, refresh, check };
}

/** Has the service make a change itself, in its turn. */
function usePerforming(
  { last, line }: ReturnType<typeof useQueue>,
  settle: (result: EditResult) => Promise<void>,
  remember: ReturnType<typeof useUndoSteps>['remember'],
  mayChange: () => boolean,
) {
  return useCallback(
    async (call: () => Promise<EditResult>, label: string) => {
      if (!mayChange()) return undefined;
      const performed = last.current
        .catch(() => undefined)
        .then(call)
        .then(async (result) => {
          await settle(result);
          return result;
        });
      line(performed);
      const result = await performed;
      remember(label, result.inverse as unknown as Edit[], false);
      return result;
    },
    [settle, last, line, mayChange, remember],
  );
}

/** What is not answered yet stands already, so that the next thing is done to what one sees. */
function useSeen(tree: TreeNode | undefined, under: TreeNode | undefined, ahead: readonly SentChange[]) {
  return useMemo(
    () =>
      tree &&
      ahead
        .filter((each) => each.revision === undefined)
        .reduce((so, { edits, width }) => applyOver(so, edits, { width, under: under }).tree ?? so, tree),
    [tree, under, ahead],
  );
}
