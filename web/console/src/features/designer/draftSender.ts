import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import type { Edit } from '#layout';
import { answer, api, ApiError, type EditResult } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import type { Draft, DraftMessage, SentChange } from './draftState.ts';
import { newName, type QueueStore, type UndoStep } from './offlineQueue.ts';

/** What a change came to; nothing where it was refused, or waits. */
export type SendOutcome = { done: Edit[]; inverse: Edit[] } | undefined;

/** How long it is until the service is tried again, in milliseconds. */
const patience = 1_500;

/** What is on its way for each layout, whether or not the layout is still looked at. */
const sending = new Map<string, Promise<unknown>>();

/** One thing after another: what is asked of the service waits for what was asked before. */
export function useQueue(key: string) {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const line = useCallback(
    (next: Promise<unknown>) => {
      last.current = next;
      sending.set(key, next);
    },
    [key],
  );
  return { last, line };
}

/** What sending is done with: the draft as it is known, and what becomes of answers. */
interface SendingHost {
  key: string;
  kept: QueueStore;
  latest: RefObject<Draft | undefined>;
  settle: (result: EditResult) => Promise<void>;
  refresh: () => Promise<void>;
  onMessage: (message: DraftMessage | undefined) => void;
}

/**
 * Changes on their way. While the service is out of reach they wait, here and in the browser, and follow in their order; none that came
 * later overtakes one that stays behind.
 * @param onLeft a change that had waited in the browser was taken, with what undoes it
 */
export function useSending(host: SendingHost, queue: ReturnType<typeof useQueue>, onLeft: (step: UndoStep) => void) {
  const { key, kept, latest, refresh, onMessage } = host;
  const { last, line } = queue;
  const { ahead, waits, wait } = useWaiting(kept);
  const onAnswered = useCallback(() => wait([...waits()]), [waits, wait]);
  const closed = useRef(false);
  const stopped = useRef(false);

  const post = usePosting(host, onAnswered);

  /** Sends one change, again and again while nobody answers and somebody looks; else it waits until the layout is opened again. */
  const insist = useCallback(
    async (entry: SentChange): Promise<SendOutcome> => {
      while (latest.current && !stopped.current) {
        try {
          return await post(entry, latest.current);
        } catch (error) {
          if (!(error instanceof ApiError)) throw error;
          if (error.problem.status !== 0 && error.problem.status !== 503) {
            wait(waits().filter((each) => each !== entry));
            onMessage({ text: error.message, bad: true });
            if (error.problem.status === 409) await refresh();
            return undefined;
          }
          stopped.current = closed.current;
          if (stopped.current) return undefined;
          onMessage({ text: say('useDraft.unreachable', unanswered(waits()).length), bad: true });
          await new Promise((next) => setTimeout(next, patience));
        }
      }
      return undefined;
    },
    [latest, post, refresh, waits, wait, onMessage],
  );

  const send = useCallback(
    (edits: Edit[], label: string, width?: string): Promise<SendOutcome> => {
      const entry: SentChange = { name: newName(), edits, label, ...(width ? { width } : {}) };
      const known = latest.current?.revision ?? 0;
      // Of what was answered before only the last may not have been resolved yet.
      wait([...waits().filter((each) => each.revision === undefined || each.revision >= known), entry]);
      const sent = last.current.catch(() => undefined).then(() => insist(entry));
      line(sent);
      return sent;
    },
    [insist, waits, wait, last, line, latest],
  );

  const sendLeft = useCallback(async () => {
    const left = kept.waiting().map((each): SentChange => ({ ...each }));
    if (left.length > 0) wait([...waits(), ...left]);
    for (const each of left) {
      const sent = await insist(each);
      if (sent) onLeft({ label: each.label, edits: sent.inverse });
    }
  }, [kept, waits, wait, insist, onLeft]);

  useEffect(() => {
    closed.current = false;
    stopped.current = false;
    // What was on its way when the page was left arrives first, then goes what waited.
    line(
      (sending.get(key) ?? Promise.resolve())
        .catch(() => undefined)
        .then(refresh)
        .then(sendLeft),
    );
    return () => {
      closed.current = true;
    };
  }, [key, refresh, line, sendLeft]);
  return { ahead, send };
}

const unanswered = (changes: readonly SentChange[]) => changes.filter((each) => each.revision === undefined);

/** The changes that wait, here and in the browser. */
function useWaiting(kept: QueueStore) {
  const [ahead, setAhead] = useState<readonly SentChange[]>([]);
  const waiting = useRef<readonly SentChange[]>([]);
  /** Takes up a change that waits, or lets one go that the service has answered. */
  const wait = useCallback(
    (next: readonly SentChange[]) => {
      waiting.current = next;
      kept.keepWaiting(unanswered(next).map(({ name, edits, width, label }) => ({ name, edits, ...(width ? { width } : {}), label })));
      setAhead(next);
    },
    [kept],
  );
  const waits = useCallback(() => waiting.current, []);
  return { ahead, waits, wait };
}

/** Sends one change once. Throws where it is refused or nobody answers. */
function usePosting({ key, settle, onMessage }: SendingHost, onAnswered: () => void) {
  return useCallback(
    async (entry: SentChange, base: Draft): Promise<SendOutcome> => {
      const { edits, width = null, label, name } = entry;
      const body = { base: base.revision, edits: edits as never, width, label, name };
      const applied = await answer(api.POST('/api/layouts/{key}/edits', { params: { path: { key } }, body }));
      entry.revision = applied.revision;
      await settle(applied);
      onAnswered();
      onMessage(undefined);
      return { done: applied.edits as unknown as Edit[], inverse: applied.inverse as unknown as Edit[] };
    },
    [key, settle, onAnswered, onMessage],
  );
}
