import type { Mode } from '#form';
import type { RecordInfo } from '../api/client.ts';
import type { Notice } from './notice.ts';
import type { RecordView } from './preparedRecord.ts';
import type { UnsavedEntries } from './unsavedEntries.ts';

/** What the service says is wrong with a value. */
export interface FieldProblem {
  field: string;
  message: string;
}

/** The form on the page, and what it was opened with. */
export interface OpenForm {
  mode: Mode;
  record: RecordInfo | undefined;
  release: number;
}

/** What a record's page is doing. */
export type Phase =
  | { name: 'opening'; mode: Mode; shown: OpenForm | undefined; entries: UnsavedEntries | undefined }
  | { name: 'open'; shown: OpenForm }
  | { name: 'saving'; shown: OpenForm; close: boolean }
  | { name: 'conflict'; shown: OpenForm; theirs: RecordInfo }
  | { name: 'removing'; shown: OpenForm }
  /** There is no form: it could not be opened, was deleted, or may not be seen any more. */
  | { name: 'gone' };

export interface RecordState {
  phase: Phase;
  notice: Notice | undefined;
  /** What was typed earlier and never saved; null where there is nothing, undefined until it has been looked for. */
  unsaved: UnsavedEntries | null | undefined;
  /** Counts the openings, since answers may overtake each other. */
  ticket: number;
}

export type RecordEvent =
  | { type: 'opened'; ticket: number; view: RecordView }
  | { type: 'open-failed'; ticket: number; notice: Notice; missing: boolean }
  | { type: 'edit' }
  /** Whoever typed agreed that it is thrown away. */
  | { type: 'cancel' }
  | { type: 'save'; close: boolean }
  /** The form itself found what stands against saving. */
  | { type: 'invalid' }
  | { type: 'saved'; record: RecordInfo }
  | { type: 'refused'; message: string; problems: FieldProblem[]; formMoved: boolean }
  | { type: 'changed-by-others'; theirs: RecordInfo }
  /** The fields in which the others' value is to stand. */
  | { type: 'resolve'; theirs: string[] }
  | { type: 'leave-conflict' }
  | { type: 'remove' }
  | { type: 'removed' }
  | { type: 'failed'; message: string }
  | { type: 'entries-found'; unsaved: UnsavedEntries | undefined }
  | { type: 'restore-entries' }
  | { type: 'discard-entries' }
  | { type: 'release' }
  | { type: 'renewed'; release: number; notice: Notice | undefined }
  | { type: 'withdrawn'; message: string }
  | { type: 'dismiss' };

/** What is to be done in the world outside, in this order. */
export type RecordEffect =
  | { do: 'open'; ticket: number; mode: Mode }
  | { do: 'show'; view: RecordView; entries: UnsavedEntries | undefined; focus: boolean }
  | { do: 'hide' }
  | { do: 'save'; shown: OpenForm }
  | { do: 'replace'; record: RecordInfo }
  | { do: 'rebase'; theirs: RecordInfo; choices: string[] }
  | { do: 'show-problems'; problems: FieldProblem[] }
  | { do: 'to-first-problem' }
  /** Tells the service that the form refused: a release with which that happens often is taken back. */
  | { do: 'note-refusal' }
  | { do: 'remove'; record: RecordInfo }
  | { do: 'put-in'; entries: UnsavedEntries }
  /** What is kept of what was typed goes. */
  | { do: 'forget-entries' }
  | { do: 'forget-recent' }
  /** Fetches what is published now; a refused save has problems to show on the form that comes. */
  | { do: 'renew'; mode: Mode; release: number; problems?: FieldProblem[] }
  | { do: 'go'; to: 'list' | number };

/** A state and what is to be done on the way to it. */
export type Transition = readonly [RecordState, RecordEffect[]];

/** How the page of a record begins; a new one has no number. */
export const beginning = (mode: Mode): RecordState => ({
  phase: { name: 'opening', mode, shown: undefined, entries: undefined },
  notice: undefined,
  unsaved: undefined,
  ticket: 0,
});

/** The form on the page, where there is one. */
export const shownIn = ({ phase }: RecordState): OpenForm | undefined => (phase.name === 'gone' ? undefined : phase.shown);

/** Opens the form in a mode; the one on the page stays until the other is there. */
export function opening(state: RecordState, mode: Mode, entries?: UnsavedEntries): Transition {
  const ticket = state.ticket + 1;
  return [
    { ...state, ticket, notice: undefined, phase: { name: 'opening', mode, shown: shownIn(state), entries } },
    [{ do: 'open', ticket, mode }],
  ];
}

const say = (state: RecordState, notice: Notice | undefined): RecordState => ({ ...state, notice });
const bad = (text: string): Notice => ({ says: { text }, tone: 'bad' });
const stay = (state: RecordState): Transition => [state, []];

type Handlers = { [Type in RecordEvent['type']]: (state: RecordState, event: Extract<RecordEvent, { type: Type }>) => Transition };

/** What becomes of the page by each event. An event that means nothing in a state leaves it as it is. */
const handlers: Handlers = {
  opened: (state, { ticket, view }) => {
    const { phase } = state;
    if (phase.name !== 'opening' || ticket !== state.ticket) return stay(state);
    const shown: OpenForm = { mode: phase.mode, record: view.record, release: view.release };
    return [{ ...state, phase: { name: 'open', shown } }, [{ do: 'show', view, entries: phase.entries, focus: phase.shown !== undefined }]];
  },
  'open-failed': (state, { ticket, notice, missing }) => {
    const { phase } = state;
    if (phase.name !== 'opening' || ticket !== state.ticket) return stay(state);
    const back: Phase = phase.shown && !missing ? { name: 'open', shown: phase.shown } : { name: 'gone' };
    const effects: RecordEffect[] = [];
    if (missing) effects.push({ do: 'forget-recent' });
    if (phase.shown && missing) effects.push({ do: 'hide' });
    // What was to be put into the form waits for the next attempt.
    return [{ ...state, notice, phase: back, unsaved: phase.entries ?? state.unsaved }, effects];
  },
  edit: (state) => (state.phase.name === 'open' && state.phase.shown.mode === 'view' ? opening(state, 'edit') : stay(state)),
  cancel: (state) => {
    const { phase } = state;
    if (phase.name !== 'open' && phase.name !== 'conflict') return stay(state);
    if (phase.shown.mode === 'create') return [state, [{ do: 'go', to: 'list' }]];
    if (phase.shown.mode === 'view') return stay(state);
    const [next, effects] = opening({ ...state, phase: { name: 'open', shown: phase.shown } }, 'view');
    return [next, [{ do: 'forget-entries' }, ...effects]];
  },
  save: (state, { close }) => {
    const { phase } = state;
    if ((phase.name !== 'open' && phase.name !== 'conflict') || phase.shown.mode === 'view') return stay(state);
    return [{ ...state, phase: { name: 'saving', shown: phase.shown, close } }, [{ do: 'save', shown: phase.shown }]];
  },
  invalid: (state) =>
    state.phase.name === 'open' ? [say(state, undefined), [{ do: 'to-first-problem' }, { do: 'note-refusal' }]] : stay(state),
  saved: (state, { record }) => {
    const { phase } = state;
    if (phase.name !== 'saving') return stay(state);
    const created = phase.shown.mode === 'create';
    const effects: RecordEffect[] = [{ do: 'forget-entries' }, { do: 'replace', record }];
    if (phase.close) effects.push({ do: 'go', to: 'list' });
    else if (created) effects.push({ do: 'go', to: record.id });
    const notice: Notice = { says: { word: 'saved' }, tone: 'good' };
    return [{ ...state, notice, phase: { name: 'open', shown: { ...phase.shown, record } } }, effects];
  },
  refused: (state, { message, problems, formMoved }) => {
    const { phase } = state;
    if (phase.name !== 'saving') return stay(state);
    const { shown } = phase;
    return [
      { ...state, notice: bad(message), phase: { name: 'open', shown } },
      [formMoved ? { do: 'renew', mode: shown.mode, release: shown.release, problems } : { do: 'show-problems', problems }],
    ];
  },
  'changed-by-others': (state, { theirs }) => {
    const { phase } = state;
    if (phase.name !== 'saving') return stay(state);
    return [{ ...state, notice: undefined, phase: { name: 'conflict', shown: phase.shown, theirs } }, []];
  },
  resolve: (state, { theirs: choices }) => {
    const { phase } = state;
    if (phase.name !== 'conflict') return stay(state);
    const shown = { ...phase.shown, record: phase.theirs };
    return [
      { ...state, phase: { name: 'saving', shown, close: false } },
      [
        { do: 'rebase', theirs: phase.theirs, choices },
        { do: 'save', shown },
      ],
    ];
  },
  'leave-conflict': (state) =>
    state.phase.name === 'conflict' ? [{ ...state, phase: { name: 'open', shown: state.phase.shown } }, []] : stay(state),
  remove: (state) => {
    const { phase } = state;
    if (phase.name !== 'open' || phase.shown.mode !== 'view' || !phase.shown.record) return stay(state);
    return [{ ...state, phase: { name: 'removing', shown: phase.shown } }, [{ do: 'remove', record: phase.shown.record }]];
  },
  removed: (state) => {
    const { phase } = state;
    if (phase.name !== 'removing') return stay(state);
    const says = { word: 'removed' as const, values: [phase.shown.record?.title ?? ''] };
    return [
      { ...state, notice: { says, tone: 'good', restorable: true }, phase: { name: 'gone' } },
      [{ do: 'forget-recent' }, { do: 'hide' }],
    ];
  },
  failed: (state, { message }) => {
    const { phase } = state;
    const next: Phase = phase.name === 'saving' || phase.name === 'removing' ? { name: 'open', shown: phase.shown } : phase;
    return [{ ...state, notice: { ...bad(message), restorable: state.notice?.restorable }, phase: next }, []];
  },
  'entries-found': (state, { unsaved }) => stay({ ...state, unsaved: unsaved ?? null }),
  'restore-entries': (state) => {
    const { phase, unsaved } = state;
    if (phase.name !== 'open' || !unsaved) return stay(state);
    const taken = { ...state, unsaved: null };
    return phase.shown.mode === 'view' ? opening(taken, 'edit', unsaved) : [taken, [{ do: 'put-in', entries: unsaved }]];
  },
  'discard-entries': (state) => (state.unsaved ? [{ ...state, unsaved: null }, [{ do: 'forget-entries' }]] : stay(state)),
  release: (state) => {
    const shown = shownIn(state);
    return shown ? [state, [{ do: 'renew', mode: shown.mode, release: shown.release }]] : stay(state);
  },
  renewed: (state, { release, notice }) => {
    const { phase } = state;
    if (phase.name === 'gone' || !phase.shown) return stay(state);
    const shown = { ...phase.shown, release };
    return stay({ ...state, notice: notice ?? state.notice, phase: { ...phase, shown } });
  },
  withdrawn: (state, { message }) => [
    { ...state, notice: bad(message), phase: { name: 'gone' } },
    [{ do: 'forget-entries' }, { do: 'hide' }],
  ],
  dismiss: (state) => stay(say(state, undefined)),
};

/** What becomes of the page by an event, and what is to be done. */
export function transition(state: RecordState, event: RecordEvent): Transition {
  const handle = handlers[event.type] as (state: RecordState, event: RecordEvent) => Transition;
  return handle(state, event);
}
