import { nameWindow } from '../shell/pageTitle.ts';
import { FormView, ErrorSummary, focusField, FormStore, make, pageOf, place, type FormHost, type Values } from '#form';
import { ApiError } from '../api/client.ts';
import { acknowledgeRelease, onServerEvent } from '../shell/events.ts';
import { navigate, guardLeaving } from '../shell/location.ts';
import { forgetRecent, rememberRecent } from '../shell/recents.ts';
import { may, onSession, session, formHost } from '../shell/session.ts';
import { words } from '../shell/words.ts';
import type { RecordParts } from './parts.ts';
import { leaveNotice, takeNotice, takePrepared, type RecordView } from './preparedRecord.ts';
import { RecordBar } from './RecordBar.ts';
import {
  renewForm,
  noteRefusal,
  requestForm,
  requestRecord,
  requestRemoval,
  requestRestore,
  requestSave,
  type RecordPlace,
} from './recordRequests.ts';
import { RecordSurroundings } from './RecordSurroundings.ts';
import {
  beginning,
  opening,
  shownIn,
  transition,
  type FieldProblem,
  type RecordEffect,
  type RecordEvent,
  type RecordState,
} from './recordStates.ts';
import { UnsavedNotice } from './UnsavedNotice.ts';
import { findUnsaved, keepUnsaved, putIn, type UnsavedEntries } from './unsavedEntries.ts';

/** One record, viewed or edited, or a new one: draws the page's state, does what its transitions ask for, and reports what came of it. */
export class RecordPage {
  readonly element = make('div', { class: 'record', on: { keydown: (event) => this.keydown(event) } });
  private state: RecordState;
  private closed = false;
  private page: string | undefined;
  private store: FormStore | undefined;
  private roles = session().person!.roles.join(' ');
  private readonly person = session().person!.id;
  private readonly stops: (() => void)[];

  private readonly bar: RecordBar;
  private readonly title = make('h1', { class: 'bt-visually-hidden' });
  private readonly frame = make('div', { class: 'record-form', tabindex: -1 });
  private readonly notSaved: UnsavedNotice;
  private drawing: { form: FormView; summary: ErrorSummary } | undefined;
  private readonly around: RecordSurroundings;
  private readonly host: FormHost = formHost({
    open: (entity, id) => this.around.openBeside(entity, id, this.host),
    create: (entity) => new Promise((done) => this.around.openBeside(entity, undefined, this.host, done)),
  });

  /** @param onLooked Told when comments, and with them mentions, were looked at. */
  constructor(
    private readonly at: RecordPlace,
    parts: RecordParts,
    onLooked: () => void,
  ) {
    const { entity, id } = at;
    this.state = beginning(id === undefined ? 'create' : 'view');
    this.notSaved = new UnsavedNotice(
      () => this.entryContext(),
      () => this.forgetEntries(),
    );
    const acts = {
      edit: () => this.dispatch({ type: 'edit' }),
      cancel: () => this.cancel(),
      save: (close: boolean) => this.save(close),
      remove: () => this.remove(),
    };
    this.bar = new RecordBar(at, acts, this.notSaved.element);
    this.around = new RecordSurroundings(at.entity, parts, {
      dispatch: (event) => this.dispatch(event),
      redraw: () => this.draw(),
      restore: () => this.restore(),
      looked: onLooked,
    });
    this.stops = [
      onServerEvent(({ type, data }) => {
        const release = shownIn(this.state)?.release;
        if (type !== 'draft' && data.release !== undefined && data.release !== release) this.dispatch({ type: 'release' });
      }),
      onSession(() => this.followRoles()),
    ];
    this.begin();
    void findUnsaved(this.person, entity, id).then((unsaved) => this.dispatch({ type: 'entries-found', unsaved }));
  }

  close(): void {
    nameWindow();
    this.closed = true;
    for (const stop of this.stops) stop();
    this.notSaved.close();
    this.unmount();
    this.around.close();
  }

  /** The page may begin with everything there. */
  private begin(): void {
    const { entity, id } = this.at;
    const first = takePrepared(entity, id);
    if (id === undefined && !may(session(), 'write-records')) {
      this.state = { ...this.state, phase: { name: 'gone' }, notice: { says: { word: 'mayNotCreate' }, tone: 'bad' } };
      this.draw();
    } else if (first) this.dispatch({ type: 'opened', ticket: this.state.ticket, view: first });
    else this.follow(opening(this.state, id === undefined ? 'create' : 'view'));
    const notice = takeNotice(entity, id);
    if (notice) this.follow([{ ...this.state, notice }, []]);
  }

  private dispatch(event: RecordEvent): void {
    if (!this.closed) this.follow(transition(this.state, event));
  }

  private follow([state, effects]: readonly [RecordState, RecordEffect[]]): void {
    this.state = state;
    for (const effect of effects) this.run(effect);
    this.draw();
  }

  private report(event: Promise<RecordEvent>): void {
    void event.then((come) => this.dispatch(come));
  }

  private run(effect: RecordEffect): void {
    const { entity, id } = this.at;
    switch (effect.do) {
      case 'open':
        return this.report(requestRecord(this.at, effect.mode, effect.ticket));
      case 'show':
        return this.mount(effect.view, effect.entries, effect.focus);
      case 'hide':
        return this.unmount();
      case 'save':
        return this.report(requestSave(this.at, this.store!, effect.shown));
      case 'replace':
        guardLeaving(undefined);
        return this.store?.replaceRecord(effect.record.values as Values, effect.record.references, effect.record.id);
      case 'rebase':
        for (const [field, name] of Object.entries(effect.theirs.references)) this.store?.remember(field, name);
        return this.store?.rebase(effect.theirs.values as Values, effect.choices);
      case 'show-problems':
        return this.showProblems(effect.problems);
      case 'to-first-problem':
        return this.toFirstProblem();
      case 'note-refusal':
        return noteRefusal(entity);
      case 'remove':
        return this.report(requestRemoval(entity, effect.record));
      case 'put-in':
        return this.store && putIn(this.store, effect.entries);
      case 'forget-entries':
        return this.forgetEntries();
      case 'forget-recent':
        return id === undefined ? undefined : forgetRecent(this.person, entity, id);
      case 'renew':
        return void this.renew(effect);
      case 'go':
        if (effect.to === 'list') return navigate('records', entity);
        leaveNotice(entity, effect.to, this.state.notice);
        return navigate('records', entity, effect.to);
    }
  }

  /** Draws what has become of the page around the form; the form draws itself. */
  private draw(): void {
    if (this.closed) return;
    const { store, drawing, state, around } = this;
    const shown = shownIn(state);
    this.bar.show(state, store?.form.layout);
    const said = around.notice(state);
    if (!store || !shown || !drawing) return place(this.element, said ? [this.bar.element, said] : []);
    this.title.textContent = shown.record?.title ?? store.form.title;
    nameWindow(this.title.textContent);
    place(this.element, [
      this.bar.element,
      ...(said ? [said] : []),
      ...around.offer(state, store),
      ...around.conflict(state, store),
      ...(store.content.top ? [] : [this.title]),
      drawing.summary.element,
      this.frame,
      ...(shown.record && shown.mode === 'view' ? [around.comments(shown.record, store)] : []),
      ...around.beside(),
    ]);
  }

  /** Puts a form that was opened on the page. */
  private mount(view: RecordView, entries: UnsavedEntries | undefined, focus: boolean): void {
    const { form, record, given, release } = view;
    const values = (record?.values ?? given?.values ?? {}) as Values;
    const names = record?.references ?? given?.names ?? {};
    const store = new FormStore(form, values, names, this.host, record ? { record: record.id } : {});
    nameGiven(store, given?.values ?? {}, this.host);
    if (entries) putIn(store, entries);
    acknowledgeRelease(release);
    this.store = store;
    if (record) rememberRecent(this.person, { entity: this.at.entity, id: record.id, title: record.title });
    if (this.drawing) {
      this.drawing.form.use(store, this.paging());
      this.drawing.summary.use(store);
    } else {
      const summary = new ErrorSummary(store, (field, item) => this.reveal(field, item));
      this.drawing = { form: new FormView(store, this.paging()), summary };
      this.frame.append(this.drawing.form.element);
    }
    this.notSaved.follow(store);
    this.draw();
    // The button that was pressed to turn is gone: the form takes the focus.
    if (focus) this.frame.focus({ preventScroll: true });
  }

  private unmount(): void {
    this.drawing?.form.element.remove();
    this.drawing?.form.dispose();
    this.drawing?.summary.dispose();
    this.drawing = undefined;
    this.notSaved.follow(undefined);
    this.store = undefined;
  }

  private paging() {
    return { page: this.page, onPage: (id: string) => this.turnTo(id) };
  }

  private turnTo(page: string): void {
    this.page = page;
    if (this.store) this.drawing?.form.use(this.store, this.paging());
  }

  private reveal(field: string, item?: string): void {
    const on = item && this.store ? pageOf(this.store.content.pages, item) : undefined;
    if (on) this.turnTo(on);
    focusField(this.element, field);
  }

  private showProblems(problems: FieldProblem[]): void {
    this.store?.showProblems(problems);
    this.toFirstProblem();
  }

  private toFirstProblem(): void {
    const first = this.store?.problems()[0];
    if (!first) return;
    this.reveal(first.field, first.id);
    requestAnimationFrame(() => uncover(this.drawing?.summary.element, this.bar.element));
  }

  private entryContext() {
    const shown = shownIn(this.state);
    const { entity, id } = this.at;
    const mode = shown?.mode ?? 'view';
    return { person: this.person, entity, id, version: shown?.record?.version ?? 0, mode, waits: this.state.unsaved !== null };
  }

  private forgetEntries(): void {
    void keepUnsaved(this.person, this.at.entity, this.at.id, undefined);
  }

  private followRoles(): void {
    const roles = session().person?.roles.join(' ') ?? '';
    if (roles === this.roles) return;
    this.roles = roles;
    this.dispatch({ type: 'release' });
  }

  /** A new release, or other rights, arrive without costing what was typed. */
  private async renew({ mode, release: before, problems }: Extract<RecordEffect, { do: 'renew' }>): Promise<void> {
    const { store } = this;
    try {
      const now = await requestForm(this.at, mode);
      if (this.closed || !store || this.store !== store) return;
      acknowledgeRelease(now[0].release);
      const notice = renewForm(store, now, before);
      this.dispatch({ type: 'renewed', release: now[0].release, notice: problems ? undefined : notice });
      if (problems) this.showProblems(problems);
    } catch (error) {
      // Who may see no records any more sees none of this one either.
      if (error instanceof ApiError && error.problem.status === 403) this.dispatch({ type: 'withdrawn', message: error.message });
    }
  }

  private save(close: boolean): void {
    const { phase } = this.state;
    if (!this.store || (phase.name !== 'open' && phase.name !== 'conflict')) return;
    this.dispatch(this.store.validate() ? { type: 'save', close } : { type: 'invalid' });
  }

  private cancel(): void {
    const asks = shownIn(this.state)?.mode === 'edit' && this.store?.dirty;
    if (!asks || window.confirm(words()('leave'))) this.dispatch({ type: 'cancel' });
  }

  private remove(): void {
    const record = shownIn(this.state)?.record;
    if (record && window.confirm(words()('removeAsk', record.title))) this.dispatch({ type: 'remove' });
  }

  private restore(): void {
    requestRestore(this.at.entity, this.at.id!).then(
      () => window.location.reload(),
      (error: Error) => this.dispatch({ type: 'failed', message: error.message }),
    );
  }

  private keydown(event: KeyboardEvent): void {
    const writing = (shownIn(this.state)?.mode ?? 'view') !== 'view';
    if (!writing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 's') return;
    event.preventDefault();
    this.save(false);
  }
}

/** What a new record begins with may point at records whose names are not here yet. */
function nameGiven(store: FormStore, values: Values, host: FormHost): void {
  for (const [field, value] of Object.entries(values)) {
    const target = store.form.fields[field]?.target;
    if (!target || typeof value !== 'number') continue;
    host.lookUp(target, '', { ids: [value] }).then(
      ([name]) => {
        if (name) store.remember(field, name);
      },
      () => undefined,
    );
  }
}

/** What stands half under a bar is scrolled out from under it; what is out of sight altogether stays there. */
function uncover(part: HTMLElement | undefined, bar: HTMLElement): void {
  if (!part) return;
  const [{ top, bottom }, edge] = [part.getBoundingClientRect(), bar.getBoundingClientRect().bottom];
  if (top < edge && bottom > edge) window.scrollBy({ top: top - edge - 8 });
}
