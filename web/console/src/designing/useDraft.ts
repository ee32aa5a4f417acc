import { useCallback, useEffect, useRef, useState } from 'react';
import type { ResolvedForm } from '#form';
import { answer, api, Refused, type Finding } from '../api/client.ts';
import { type Happening } from '../shell/events.ts';
import { useHappenings } from '../shell/hooks.ts';
import { people } from '../shell/people.ts';
import type { Edit, TreeNode } from './tree.ts';

export interface Draft {
  key: string;
  entity: string;
  revision: number;
  published: number | null;
  tree: TreeNode;
  findings: Finding[];
}

type Sent = { done: Edit[]; inverse: Edit[] } | undefined;

interface Step {
  label: string;
  edits: Edit[];
  /** When it was done last, in milliseconds; steps undone or done again have none. */
  at?: number;
}

/** Within this time, values typed into the same properties are one step. */
const oneTyping = 2_000;

const targets = (edits: Edit[]) => edits.map((edit) => (edit.op === 'set' ? `${edit.node} ${edit.property}` : '')).join();

export interface DraftState {
  draft: Draft | undefined;
  message: { text: string; bad: boolean } | undefined;
  undoLabel: string | undefined;
  redoLabel: string | undefined;
  apply: (edits: Edit[], label: string) => Promise<Edit[] | undefined>;
  undo: () => void;
  redo: () => void;
  say: (text: string, bad?: boolean) => void;
  refresh: () => Promise<void>;
}

/**
 * The draft being changed. Edits go to the service, which applies them and answers with the new draft and with what would undo them;
 * undoing sends that, so that others' edits in between stand.
 */
export function useDraft(key: string): DraftState {
  const [draft, setDraft] = useState<Draft>();
  // Taken from the moment it is asked for: two undos in a row are two steps, whether or not the first is answered.
  const steps = useRef<{ past: Step[]; future: Step[] }>({ past: [], future: [] });
  const [labels, setLabels] = useState<{ undo: string | undefined; redo: string | undefined }>({ undo: undefined, redo: undefined });
  const [message, setMessage] = useState<DraftState['message']>();
  const latest = useRef<Draft>(undefined);
  const queue = useRef<Promise<unknown>>(Promise.resolve());

  const show = useCallback(() => setLabels({ undo: steps.current.past.at(-1)?.label, redo: steps.current.future.at(-1)?.label }), []);
  const accept = useCallback((next: unknown) => {
    const now = next as Draft;
    if (latest.current && latest.current.revision > now.revision) return;
    latest.current = now;
    setDraft(now);
  }, []);
  const refresh = useCallback(() => answer(api.GET('/api/layouts/{key}', { params: { path: { key } } })).then(accept, (error: Error) => setMessage({ text: error.message, bad: true })), [key, accept]);
  useEffect(() => {
    void refresh();
  }, [refresh]);
  useHappenings(useCallback((happening: Happening) => {
    const elsewhere = happening.type === 'draft' && happening.data.key === key && happening.data.kind === 'layout' && (happening.data.revision ?? 0) > (latest.current?.revision ?? 0);
    // One's own changes are announced too, usually before their answer arrives; those wait for it.
    if (elsewhere || happening.type === 'look-again') void queue.current.then(async () => {
      if ((happening.data.revision ?? Infinity) <= (latest.current?.revision ?? 0)) return;
      await refresh();
      // What somebody else does is not only seen on the sheet but said, with her name.
      const [who, changes] = await Promise.all([people(), answer(api.GET('/api/layouts/{key}/changes', { params: { path: { key } } }))]);
      const last = changes.at(-1);
      if (elsewhere && last) setMessage({ text: `${who.find((person) => person.id === last.by)?.name ?? last.by}: ${last.label}`, bad: false });
    }).catch(() => undefined);
  }, [key, refresh]));

  const send = useCallback(
    (edits: Edit[], label: string): Promise<Sent> => {
      const sent = queue.current.then(async () => {
        if (!latest.current || edits.length === 0) return undefined;
        try {
          const applied = await answer(api.POST('/api/layouts/{key}/edits', { params: { path: { key } }, body: { base: latest.current.revision, edits: edits as never, label } }));
          accept(applied.draft);
          setMessage(undefined);
          return { done: applied.edits as unknown as Edit[], inverse: applied.inverse as unknown as Edit[] };
        } catch (error) {
          if (!(error instanceof Refused)) throw error;
          setMessage({ text: error.message, bad: true });
          if (error.problem.status === 409) await refresh();
          return undefined;
        }
      });
      queue.current = sent;
      return sent;
    },
    [key, accept, refresh],
  );
  const apply = useCallback(
    async (edits: Edit[], label: string) => {
      const sent = await send(edits, label);
      if (!sent) return undefined;
      const last = steps.current.past.at(-1);
      const now = Date.now();
      if (last?.at && now - last.at < oneTyping && last.label === label && edits.every((edit) => edit.op === 'set') && targets(last.edits) === targets(sent.inverse)) last.at = now;
      else steps.current.past.push({ label, edits: sent.inverse, at: now });
      steps.current.future = [];
      show();
      return sent.done;
    },
    [send, show],
  );
  const turn = async (from: 'past' | 'future', to: 'past' | 'future', word: string) => {
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
  return {
    draft,
    message,
    undoLabel: labels.undo,
    redoLabel: labels.redo,
    apply,
    undo: () => void turn('past', 'future', 'Undone'),
    redo: () => void turn('future', 'past', 'Done again'),
    say: (text, bad = false) => setMessage({ text, bad }),
    refresh,
  };
}

/** Through whose eyes the sheet is looked at. */
export interface Eyes {
  role: string;
  mode: 'create' | 'edit' | 'view';
  language: string;
  record: number | undefined;
  width: number;
  showHidden: boolean;
  /** Another width the same form is drawn at beside the sheet. */
  beside: number | undefined;
  /** How large the sheet is drawn: 1 as users see it. */
  zoom: number;
  /** Whether the order of the Tab key is shown. */
  tabOrder: boolean;
}

/** The draft resolved for those eyes, by the same code that resolves what is published; again when what it rests on was changed. */
export function usePreview(draft: Draft | undefined, eyes: Eyes, looked: number): ResolvedForm | undefined {
  const [form, setForm] = useState<ResolvedForm>();
  const { role, mode, language, showHidden } = eyes;
  const revision = draft?.revision;
  const key = draft?.key;
  useEffect(() => {
    if (key === undefined) return;
    let left = false;
    answer(api.GET('/api/layouts/{key}/preview', { params: { path: { key }, query: { ...(role ? { role } : {}), mode, language, showHidden } } })).then(
      (resolved) => {
        if (!left) setForm(resolved as unknown as ResolvedForm);
      },
      () => undefined,
    );
    return () => {
      left = true;
    };
  }, [key, revision, role, mode, language, showHidden, looked]);
  return form;
}
