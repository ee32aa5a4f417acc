import { FormStore, type ResolvedForm, type Values } from '#form';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { isList } from '#layout';
import { answer, api, ApiError, type EntityInfo, type LayoutView, type RecordInfo, type RecordName } from '../../api/client.ts';
import { useAfterServerEvents } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { formHost } from '../../shell/session.ts';
import { applyOptimistically } from './optimisticForm.ts';
import { sampleOf } from './samples.ts';
import type { LayoutLength, PreviewSource } from './previewSource.ts';
import { shared } from './structuralSharing.ts';
import type { DraftState, PendingChange } from './draftState.ts';

/** Through whose context the sheet is looked at. */
export interface PreviewContext {
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

export interface PreviewForm {
  context: PreviewContext;
  setContext: (change: PreviewContext | ((before: PreviewContext) => PreviewContext)) => void;
  /** What the layout shows: its entity, of a piece its slots. */
  entity: EntityInfo | undefined;
  labels: Map<string, string>;
  /** The records one can look at. */
  names: RecordName[];
  /** The one that is looked at; nothing while a new one is made. */
  record: RecordInfo | undefined;
  /** Its values, or those of a sample. */
  values: Values;
  form: ResolvedForm | undefined;
  /** How long it is at each width, the widest first. */
  lengths: readonly LayoutLength[];
  store: FormStore | undefined;
  /** Reads the entity again, after a field or a choice was added. */
  readEntity: () => void;
  /** How often what the draft rests on was changed. */
  reloads: number;
  /** Resolves the form again, after something it rests on was changed. */
  reload: () => void;
}

/**
 * What is looked at while designing, and through whose context: the draft's entity, a record of it, and the form resolved for them, with
 * what is just being typed into a property.
 * @param from The record to begin with; without one, or where it is gone, the first.
 */
export function usePreviewForm(
  preview: PreviewSource,
  { draft, ahead, check }: Pick<DraftState, 'draft' | 'ahead' | 'check'>,
  typing: PendingChange | undefined,
  language: string,
  trying: boolean,
  from: number | undefined,
): PreviewForm {
  const [chosen, setContext] = useState<PreviewContext>({
    role: '',
    mode: 'edit',
    language,
    record: from,
    width: Math.min(960, Math.max(320, window.innerWidth - 630)),
    showHidden: true,
    beside: undefined,
    zoom: 1,
    tabOrder: false,
  });
  // What is only read is looked at so.
  const onlyRead = ['list', 'card', 'print'].includes(String(draft?.tree.properties['kind']));
  const context = useMemo<PreviewContext>(() => (onlyRead ? { ...chosen, mode: 'view' } : chosen), [chosen, onlyRead]);
  const [reloads, setReloads] = useState(0);
  const showHidden = context.showHidden && !trying;
  const resolved = useResolved(preview, draft?.revision, { ...context, showHidden }, reloads, check);

  const key = draft?.key;
  const of = draft?.entity;
  const { data: entity, reload: askEntity } = useAnswer(
    ['entities', 'of', key],
    key === undefined ? undefined : () => answer(api.GET('/api/layouts/{key}/entity', { params: { path: { key } } })),
  );
  const readEntity = useCallback(() => void askEntity(), [askEntity]);
  // What this draft rests on may change too, by somebody else or in another tab: its entity, a layout it extends, a piece, a list of
  // choices.
  const reload = useCallback(() => {
    preview.forget();
    setReloads((count) => count + 1);
  }, [preview]);
  useAfterServerEvents(
    useCallback(({ type, data }) => type === 'resync' || (type === 'draft' && !(data.kind === 'layout' && data.key === key)), [key]),
    useCallback(() => {
      readEntity();
      reload();
    }, [readEntity, reload]),
  );

  const { names, record } = useRecordShown(of, context.record, setContext);

  const body = draft ? ((isList(draft.tree) ? draft.tree : draft.tree.children.find((child) => child.kind === 'body'))?.id ?? '') : '';
  const form = useMemo(() => {
    if (!resolved) return undefined;
    const known = { fields: entity?.fields ?? [], language: context.language, body };
    const coming: PendingChange[] = ahead.filter((each) => each.revision === undefined || each.revision > resolved.revision);
    return (typing ? [...coming, typing] : coming).reduce(
      (so, each) => applyOptimistically(so, each.edits, known, each.width),
      resolved.form,
    );
  }, [resolved, ahead, typing, entity, context.language, body]);

  const { showing, values } = useValuesShown(context, record, entity);
  const store = useStore(form, values, showing?.references, { role: context.role, showHidden, trying });
  const labels = useMemo(() => new Map(entity?.fields.map((field) => [field.key, field.label])), [entity]);
  const lengths = resolved?.lengths ?? noLengths;
  return { context, setContext, entity, labels, names, record: showing, values, form, lengths, store, readEntity, reloads, reload };
}

/** The record that is looked at, and those one can look at; the first where none is asked for or it is gone. */
function useRecordShown(
  entity: string | undefined,
  id: number | undefined,
  setContext: (change: (before: PreviewContext) => PreviewContext) => void,
) {
  const { data: found } = useAnswer(['records', entity, 'lookup'], entity ? () => answer(lookUp(entity)) : undefined);
  const { data: record, problem } = useAnswer(
    ['records', entity, id],
    entity && id !== undefined && id >= 0
      ? () => answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } }))
      : undefined,
    { keeps: true },
  );
  useEffect(() => {
    // Nothing was asked for, or what was is gone, or was never there.
    if (found && (id === undefined || problem))
      setContext((before) => (before.record === id ? { ...before, record: found.find((each) => each.id !== id)?.id ?? -1 } : before));
  }, [found, id, problem, setContext]);
  const names = useMemo(
    () =>
      !record || found?.some((each) => each.id === record.id) ? (found ?? []) : [{ id: record.id, title: record.title }, ...(found ?? [])],
    [found, record],
  );
  return { names, record };
}

const noLengths: readonly LayoutLength[] = [];

/** How long it is until the service is asked again, in milliseconds. */
const patience = 1_500;

/** What a draft looks like at a revision. */
interface ResolvedDraft {
  form: ResolvedForm;
  revision: number;
  lengths: readonly LayoutLength[];
}

/**
 * The draft resolved for that context, by the same code that resolves what is published; again when what it rests on was changed. Asked for
 * one at a time: what changes meanwhile is asked for once, at the end.
 * @param onSeen what the checks find is known by then, too
 */
function useResolved(
  preview: PreviewSource,
  revision: number | undefined,
  context: PreviewContext,
  reloads: number,
  onSeen: (view: LayoutView) => void,
): ResolvedDraft | undefined {
  const [resolved, setResolved] = useState<ResolvedDraft>();
  const asking = useRef<Promise<unknown>>(Promise.resolve());
  const { role, mode, language, showHidden } = context;
  useEffect(() => {
    if (revision === undefined) return;
    let left = false;
    asking.current = asking.current.then(async () => {
      // What was not answered is asked for again, for as long as it is this that is looked at.
      while (!left) {
        try {
          const view = await preview.view(revision, { role: role || null, mode, language, showHidden });
          onSeen(view);
          const form = view.form as ResolvedForm;
          if (!left) setResolved((before) => ({ form: shared(before?.form, form), revision, lengths: view.lengths }));
          return;
        } catch (error) {
          if (!(error instanceof ApiError) || ![0, 429, 503].includes(error.problem.status)) return;
          await new Promise((next) => setTimeout(next, patience));
        }
      }
    });
    return () => {
      left = true;
    };
  }, [preview, revision, role, mode, language, showHidden, reloads, onSeen]);
  return resolved;
}

const noReferences: RecordInfo['references'] = {};

/** The records one can look at, the one changed last first. */
const lookUp = (entity: string) => api.GET('/api/records/{entity}/lookup', { params: { path: { entity }, query: { limit: 50 } } });

/** The record that is shown, and its values, or those of a sample. */
function useValuesShown(context: PreviewContext, record: RecordInfo | undefined, entity: EntityInfo | undefined) {
  const sample = useMemo(
    () => (context.record !== undefined && context.record < 0 && entity ? sampleOf(entity.fields, context.record) : undefined),
    [context.record, entity],
  );
  const showing = context.mode === 'create' || sample ? undefined : record;
  const values = useMemo<Values>(
    () => (sample && context.mode !== 'create' ? sample : ((showing?.values ?? {}) as Values)),
    [sample, showing, context.mode],
  );
  return { showing, values };
}

/** The form being filled in; what is typed while it is tried outlives the form's being resolved anew. */
function useStore(
  form: ResolvedForm | undefined,
  values: Values,
  references: RecordInfo['references'] = noReferences,
  { role, showHidden, trying }: { role: string; showHidden: boolean; trying: boolean },
) {
  const [shown] = useState<{ store?: FormStore; values?: Values }>({});
  const store: FormStore | undefined = useMemo(() => {
    if (!form) return undefined;
    // What users can open beside a form is drawn here too, and does nothing.
    const asSeen = formHost({
      open: () => undefined,
      create: () => Promise.resolve(undefined),
      ...(role ? { roles: [role] } : {}),
    });
    const next = new FormStore(form, values, references, asSeen, { showHidden });
    // The form may be resolved anew while somebody tries it: what she typed stays. It goes with the trial.
    if (trying && shown.store && shown.values === values) next.goOnFrom(shown.store);
    Object.assign(shown, { store: next, values });
    return next;
  }, [form, values, references, role, showHidden, trying, shown]);
  return store;
}
