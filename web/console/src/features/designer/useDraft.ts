import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { applyOver, type Edit, type TreeNode } from '#layout';
import { answer, api, ApiError, type EditResult, type Finding, type PreviewRequest } from '../../api/client.ts';
import { type ServerEvent } from '../../shell/events.ts';
import { useServerEvents } from '../../shell/hooks.ts';
import { people } from '../../shell/people.ts';
import { may, session } from '../../shell/session.ts';
import { useParentLayout, type ParentLayout } from './derivedLayout.ts';
import type { PreviewSource } from './previewSource.ts';
import { queueStore, newName, type UndoStep, type QueuedChange } from './offlineQueue.ts';
import { say } from '../../shell/configurator/texts.ts';

export interface Draft {
  key: string;
  entity: string;
  revision: number;
  published: number | null;
  tree: TreeNode;
  findings: Finding[];
}

type SendOutcome = { done: Edit[]; inverse: Edit[] } | undefined;

/** Within this time, values typed into the same properties are one step. */
const oneTyping = 2_000;

const targets = (edits: Edit[]) => edits.map((edit) => (edit.op === 'set' ? `${edit.node} ${edit.property}` : '')).join();

/** A change of what is looked at. */
export type PendingChange = Pick<QueuedChange, 'edits' | 'width'>;

/** Edits that were sent; the revision they came to, once the service has answered. */
export interface SentChange extends QueuedChange {
  revision?: number;
}

/** How long it is until the service is tried again, in milliseconds. */
const patience = 1_500;

/** What is on its way for each layout, whether or not the layout is still looked at. */
const sending = new Map<string, Promise<unknown>>();

export interface DraftState {
  draft: Draft | undefined;
  /** What the draft extends; nothing for a layout of its own. */
  under: ParentLayout | undefined;
  /** What was sent last: the sheet shows it before the service has said what it came to. */
  ahead: readonly SentChange[];
  message: { text: string; bad: boolean } | undefined;
  undoLabel: string | undefined;
  redoLabel: string | undefined;
  /**
   * Changes what is seen, at a width or at the base; with the edits of the draft itself that this came to, or nothing where it was refused.
   */
  apply: (edits: Edit[], label: string, width?: string) => Promise<Edit[] | undefined>;
  /** A change that the service works out itself, after all that waits; undone like any other. Throws where it is refused. */
  perform: (call: (preview: PreviewRequest | null) => Promise<EditResult>, label: string) => Promise<EditResult | undefined>;
  undo: () => void;
  redo: () => void;
  announce: (text: string, bad?: boolean) => void;
  refresh: () => Promise<void>;
}

/**
 * The draft being changed. What is done shows at once, and goes to the service, which decides, and answers with the new draft and with what
 * would undo it;
 * undoing sends that, so that others' edits in between stand. While the service is out of reach changes wait, here and in the browser, and
 * follow in their order.
 */
export function useDraft(key: string, preview: PreviewSource): DraftState {
  const [draft, setDraft] = useState<Draft>();
  // Taken from the moment it is asked for: two undos in a row are two steps, whether or not the first is answered.
  const [kept] = useState(() => queueStore(session().person!.id, key));
  const steps = useRef(kept.steps());
  const [labels, setLabels] = useState<{ undo: string | undefined; redo: string | undefined }>({ undo: undefined, redo: undefined });
  const [message, setMessage] = useState<DraftState['message']>();
  const [ahead, setAhead] = useState<readonly SentChange[]>([]);
  const latest = useRef<Draft>(undefined);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const line = useCallback(
    (next: Promise<unknown>) => {
      queue.current = next;
      sending.set(key, next);
    },
    [key],
  );

  const closed = useRef(false);
  // Whether one of the changes stays behind: none that came later overtakes it.
  const stopped = useRef(false);

  const show = useCallback(() => {
    kept.keepSteps(steps.current);
    setLabels({ undo: steps.current.past.at(-1)?.label, redo: steps.current.future.at(-1)?.label });
  }, [kept]);
  const accept = useCallback((next: unknown) => {
    const now = next as Draft;
    if (latest.current && latest.current.revision > now.revision) return;
    latest.current = now;
    setDraft(now);
  }, []);
  const refresh = useCallback(
    () =>
      answer(api.GET('/api/layouts/{key}', { params: { path: { key } } })).then(accept, (error: Error) =>
        setMessage({ text: error.message, bad: true }),
      ),
    [key, accept],
  );
  useServerEvents(
    useCallback(
      (event: ServerEvent) => {
        const elsewhere =
          event.type === 'draft' &&
          event.data.key === key &&
          event.data.kind === 'layout' &&
          (event.data.revision ?? 0) > (latest.current?.revision ?? 0);
        // A release may have been made of it, or have brought back what it was.
        if (event.type === 'release') void queue.current.then(refresh).catch(() => undefined);
        // One's own changes are announced too, usually before their answer arrives; those wait for it.
        if (elsewhere || event.type === 'resync')
          void queue.current
            .then(async () => {
              if ((event.data.revision ?? Infinity) <= (latest.current?.revision ?? 0)) return;
              await refresh();
              // What somebody else does is not only seen on the sheet but said, with her name.
              const [who, changes] = await Promise.all([
                people(),
                answer(api.GET('/api/layouts/{key}/changes', { params: { path: { key } } })),
              ]);
              const last = changes.at(-1);
              if (elsewhere && last)
                setMessage({ text: `${who.find((person) => person.id === last.by)?.name ?? last.by}: ${last.label}`, bad: false });
            })
            .catch(() => undefined);
      },
      [key, refresh],
    ),
  );

  const waiting = useRef<readonly SentChange[]>([]);
  /** Takes up a change that waits, or lets one go that the service has answered. */
  const wait = useCallback(
    (next: readonly SentChange[]) => {
      waiting.current = next;
      kept.keepWaiting(
        next
          .filter((each) => each.revision === undefined)
          .map(({ name, edits, width, label }) => ({ name, edits, ...(width ? { width } : {}), label })),
      );
      setAhead(next);
    },
    [kept],
  );

  /**
   * Sends one change, again and again while nobody answers and somebody looks; else it waits in the browser until the layout is opened
   * again.
   */
  const post = useCallback(
    async (entry: SentChange): Promise<SendOutcome> => {
      while (latest.current && !stopped.current) {
        try {
          const request = preview.request;
          const body = {
            base: latest.current.revision,
            edits: entry.edits as never,
            width: entry.width ?? null,
            label: entry.label,
            name: entry.name,
            preview: request,
          };
          const applied = await answer(api.POST('/api/layouts/{key}/edits', { params: { path: { key } }, body }));
          preview.keep(applied.revision, request, applied.preview);
          accept(applied.draft);
          entry.revision = latest.current.revision;
          wait([...waiting.current]);
          setMessage(undefined);
          return { done: applied.edits as unknown as Edit[], inverse: applied.inverse as unknown as Edit[] };
        } catch (error) {
          if (!(error instanceof ApiError)) throw error;
          if (error.problem.status === 0 || error.problem.status === 503) {
            if (closed.current) {
              stopped.current = true;
              return undefined;
            }
            const unsent = waiting.current.filter((each) => each.revision === undefined).length;
            setMessage({
              text: say('useDraft.unreachable', unsent),
              bad: true,
            });
            await new Promise((next) => setTimeout(next, patience));
            continue;
          }
          wait(waiting.current.filter((each) => each !== entry));
          setMessage({ text: error.message, bad: true });
          if (error.problem.status === 409) await refresh();
          return undefined;
        }
      }
      return undefined;
    },
    [key, preview, accept, refresh, wait],
  );

  const mayChange = useCallback(() => {
    const allowed = may(session(), 'configure');
    if (!allowed) setMessage({ text: say('useDraft.youCanViewCommentOn'), bad: true });
    return allowed;
  }, []);
  const send = useCallback(
    (edits: Edit[], label: string, width?: string): Promise<SendOutcome> => {
      if (edits.length === 0 || !mayChange()) return Promise.resolve(undefined);
      const entry: SentChange = { name: newName(), edits, label, ...(width ? { width } : {}) };
      const known = latest.current?.revision ?? 0;
      // Of what was answered before only the last may not have been resolved yet.
      wait([...waiting.current.filter((each) => each.revision === undefined || each.revision >= known), entry]);
      const sent = queue.current.catch(() => undefined).then(() => post(entry));
      line(sent);
      return sent;
    },
    [post, wait, line, mayChange],
  );

  useEffect(() => {
    closed.current = false;
    stopped.current = false;
    // What was on its way when the page was left arrives first, then goes what waited.
    line(
      (sending.get(key) ?? Promise.resolve())
        .catch(() => undefined)
        .then(refresh)
        .then(async () => {
          const left = kept.waiting().map((each): SentChange => ({ ...each }));
          if (left.length > 0) wait([...waiting.current, ...left]);
          for (const each of left) {
            const sent = await post(each);
            if (sent) steps.current.past.push({ label: each.label, edits: sent.inverse });
          }
          show();
        }),
    );
    return () => {
      closed.current = true;
    };
  }, [key, refresh, kept, wait, post, show, line]);
  /** Remembers how a change is undone; values typed one after another into the same properties are one step. */
  const remember = useCallback(
    (label: string, inverse: Edit[], typed: boolean) => {
      const last: UndoStep | undefined = steps.current.past.at(-1);
      const now = Date.now();
      if (typed && last?.at && now - last.at < oneTyping && last.label === label && targets(last.edits) === targets(inverse)) last.at = now;
      else steps.current.past.push({ label, edits: inverse, at: now });
      steps.current.future = [];
      show();
    },
    [show],
  );
  const apply = useCallback(
    async (edits: Edit[], label: string, width?: string) => {
      const sent = await send(edits, label, width);
      if (sent)
        remember(
          label,
          sent.inverse,
          edits.every((edit) => edit.op === 'set'),
        );
      return sent?.done;
    },
    [send, remember],
  );
  const perform = useCallback(
    async (call: (request: PreviewRequest | null) => Promise<EditResult>, label: string) => {
      if (!mayChange()) return undefined;
      const request = preview.request;
      const performed = queue.current
        .catch(() => undefined)
        .then(() => call(request))
        .then((result) => {
          preview.keep(result.revision, request, result.preview);
          accept(result.draft);
          return result;
        });
      line(performed);
      const result = await performed;
      remember(label, result.inverse as unknown as Edit[], false);
      return result;
    },
    [preview, accept, line, mayChange, remember],
  );
  const replay = async (from: 'past' | 'future', to: 'past' | 'future', word: string) => {
    // What was just done and is not answered yet is what is undone.
    await queue.current.catch(() => undefined);
    await Promise.resolve();
    // What turns out to be impossible is said (by send) and gone from the list, not silently skipped.
    const last = steps.current[from].pop();
    if (!last) return;
    show();
    const sent = await send(last.edits, `${word}: ${last.label}`);
    if (!sent) return;
    steps.current[to].push({ label: last.label, edits: sent.inverse });
    show();
    setMessage({ text: `${word}: ${last.label}`, bad: false });
  };
  const tree = draft?.tree;
  const under = useParentLayout(tree);
  // What is not answered yet stands already, so that the next thing is done to what one sees.
  const seen = useMemo(
    () =>
      tree &&
      ahead
        .filter((each) => each.revision === undefined)
        .reduce((so, { edits, width }) => applyOver(so, edits, { width, under: under?.tree }).tree ?? so, tree),
    [tree, under, ahead],
  );
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
  };
}
