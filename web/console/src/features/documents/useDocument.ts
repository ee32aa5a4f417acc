import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import { answer, api, ApiError, type DocumentFinding } from '../../api/client.ts';
import { putDocument, readDocument } from '../../api/documents.ts';
import { useAnswer } from '../../shell/queries.ts';
import { useServerEvents } from '../../shell/hooks.ts';

/** One of the application's own documents while it is changed: what it holds, and what stands against the last change. */
export interface DocumentState<T> {
  kind: string;
  /** Its key. */
  name: string;
  value: T | undefined;
  revision: number;
  problem: string | undefined;
  /** What the checks find in it, of the revision shown or one before. */
  findings: readonly DocumentFinding[];
  /** Takes a change in; it is kept by the service at once. */
  change: (next: T) => void;
  /** Back to before the last change made here; nothing where none was. */
  undo: (() => void) | undefined;
}

const noFindings: DocumentFinding[] = [];

/** What is on its way to the service. */
let underWay: Promise<unknown> = Promise.resolve();

/** Once everything changed here has arrived. */
export const arrived = (): Promise<unknown> => underWay;

/**
 * The draft of a document, read as JSON and written back whole against the revision it was read at. `none` is what it is before there is
 * one.
 */
export function useDocument<T extends object>(kind: string, key: string, none: T): DocumentState<T> {
  const [state, setState] = useState<{ value: T; revision: number }>();
  const [problem, setProblem] = useState<string>();
  const [past, setPast] = useState<T[]>([]);
  const base = useRef(none);
  const sending = useRef(Promise.resolve());
  const latest = useRef(0);
  const changes = useRef(0);
  const read = useCallback(async () => {
    const changesBefore = changes.current;
    try {
      const read = await readDocument<T>(kind, key);
      if (!read) return setState({ value: base.current, revision: 0 });
      // What was changed here meanwhile is newer than what was read.
      if (changes.current !== changesBefore) return;
      latest.current = read.revision;
      setState(read);
      // Back to before what others did would take back theirs, too.
      setPast([]);
    } catch (error) {
      setProblem((error as Error).message);
    }
  }, [kind, key]);
  // Another part of the page may have changed the same document a moment ago.
  useEffect(() => void arrived().then(read), [read]);
  const revision = state?.revision ?? 0;
  const { data: found = noFindings } = useAnswer(
    ['documents', 'findings', kind, revision],
    revision === 0 ? undefined : () => answer(api.GET('/api/findings')),
  );
  useOthersChanges(kind, latest, read);

  const send = (next: T) => {
    sending.current = sending.current.then(async () => {
      try {
        latest.current = await putDocument(kind, key, next, latest.current);
        setState((now) => now && { ...now, revision: latest.current });
        setProblem(undefined);
      } catch (error) {
        setProblem(wordsOf(error));
        // What another person did meanwhile stands; what was done here can be done over it.
        if (error instanceof ApiError && error.problem.status === 412) await read();
      }
    });
    underWay = Promise.all([underWay, sending.current]);
  };
  const change = (next: T) => {
    changes.current++;
    setState((now) => now && { ...now, value: next });
    send(next);
  };
  const before = past.at(-1);
  return {
    kind,
    name: key,
    value: state?.value,
    revision,
    problem,
    findings: found.filter((each) => each.kind === kind),
    change: (next) => {
      if (state) setPast([...past.slice(-50), state.value]);
      change(next);
    },
    undo:
      before &&
      (() => {
        setPast(past.slice(0, -1));
        change(before);
      }),
  };
}

/** What stands against a change: what was said of it as a whole, and of its parts, each once. */
function wordsOf(error: unknown): string {
  const parts = error instanceof ApiError ? (error.problem.problems ?? []) : [];
  return [...new Set([(error as Error).message, ...parts.map((each) => each.message)])].join(' ');
}

/**
 * Somebody else changed it: what is shown follows. One's own changes, here and in the part shown before, are announced too, usually before
 * their answer; those wait for it.
 */
function useOthersChanges(kind: string, latest: RefObject<number>, read: () => Promise<void>): void {
  useServerEvents(
    useCallback(
      ({ type, data }) => {
        if (type === 'draft' && data.kind === kind && (data.revision ?? 0) > latest.current)
          void arrived().then(() => ((data.revision ?? 0) > latest.current ? read() : undefined));
      },
      [kind, latest, read],
    ),
  );
}
