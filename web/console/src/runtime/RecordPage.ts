import {
  FormView,
  ErrorSummary,
  focusField,
  FormStore,
  make,
  pageOf,
  place,
  type Mode,
  type RecordName,
  type FormHost,
  type Values,
} from '#form';
import { answer, api, ApiError, type RecordInfo } from '../api/client.ts';
import { acknowledgeRelease, onServerEvent } from '../shell/events.ts';
import { island, type Island } from '../shell/island.ts';
import { address, navigate, guardLeaving } from '../shell/location.ts';
import { forgetRecent, rememberRecent } from '../shell/recents.ts';
import { may, onSession, session, formHost } from '../shell/session.ts';
import { words } from '../shell/words.ts';
import type { SideSheetProps } from './SideSheet.tsx';
import type { ConflictProps } from './Conflict.tsx';
import { UnsavedNotice } from './UnsavedNotice.ts';
import { open, takePrepared, type RecordView } from './preparedRecord.ts';
import { readPublishedForm } from './publishedForm.ts';
import type { RecordCommentsProps } from './RecordComments.tsx';
import { findUnsaved, keepUnsaved, putIn, type UnsavedEntries } from './unsavedEntries.ts';

interface Notice {
  text: string;
  tone: 'quiet' | 'bad' | 'good';
  act?: { label: string; run: () => void };
}

const button = (run: () => void, main = false) =>
  make('button', { type: 'button', class: main ? 'button primary' : 'button', on: { click: run } });

/** One record, viewed or edited, or a new one. */
export class RecordPage {
  readonly element = make('div', { class: 'record', on: { keydown: (event) => this.keydown(event) } });
  private readonly person = session().person!.id;
  private mode: Mode;
  private page: string | undefined;
  private store: FormStore | undefined;
  private record: RecordInfo | undefined;
  private release = 0;
  private busy = false;
  private closed = false;
  /** Counts the openings, since answers may overtake each other. */
  private asked = 0;
  /** What was typed and never saved; undefined until it has been looked for. */
  private unsaved: UnsavedEntries | null | undefined;
  /** What is to be put into the form once it is open for editing. */
  private taking: UnsavedEntries | undefined;
  /** Set while reading turns to editing or back. */
  private turning = false;
  private roles = session().person!.roles.join(' ');
  private readonly stops: (() => void)[];

  private readonly header = make('header', { class: 'record-bar' });
  private readonly title = make('h1', { class: 'bt-visually-hidden' });
  private readonly frame = make('div', { class: 'record-form', tabindex: -1 });
  private readonly notSaved: UnsavedNotice;
  private readonly cancelling = button(() => this.cancel());
  private readonly savingAndClosing = button(() => void this.save(true));
  private readonly saving = button(() => void this.save(false), true);
  private readonly removing = button(() => void this.remove());
  private readonly editing = button(() => this.turn('edit'), true);
  private told: HTMLElement | undefined;
  private found: HTMLElement | undefined;
  private drawing: FormView | undefined;
  private summary: ErrorSummary | undefined;
  private talk: { of: string; part: Island<RecordCommentsProps> } | undefined;
  private conflict: Island<ConflictProps> | undefined;
  private beside: Island<SideSheetProps> | undefined;
  private readonly around: FormHost = formHost({
    open: (entity, id) => this.openBeside(entity, id),
    create: (entity) => new Promise((done) => this.openBeside(entity, undefined, done)),
  });

  constructor(
    private readonly entity: string,
    private readonly id: number | undefined,
    private readonly onLooked: () => void,
  ) {
    this.mode = id === undefined ? 'create' : 'view';
    this.notSaved = new UnsavedNotice(
      () => ({ person: this.person, entity, id, version: this.record?.version ?? 0, mode: this.mode, waits: this.unsaved !== null }),
      () => this.forget(),
    );
    this.stops = [
      onServerEvent(({ type, data }) => {
        if (type !== 'draft' && data.release !== undefined && data.release !== this.release) void this.renew();
      }),
      onSession(() => {
        const roles = session().person?.roles.join(' ') ?? '';
        if (roles !== this.roles) void this.renew();
        this.roles = roles;
      }),
    ];
    // The page may begin with everything there.
    const first = takePrepared(entity, id);
    if (id === undefined && !may(session(), 'write-records')) this.say({ text: words()('mayNotCreate'), tone: 'bad' });
    else if (first) this.take(first);
    else this.open();
    void findUnsaved(this.person, entity, id).then((found) => {
      this.unsaved = found ?? null;
      this.draw();
    });
  }

  close(): void {
    this.closed = true;
    for (const stop of this.stops) stop();
    this.notSaved.close();
    this.undraw();
    for (const part of [this.talk?.part, this.conflict, this.beside]) part?.close();
  }

  /** Draws what has become of the page around the form; the form draws itself. */
  private draw(): void {
    if (this.closed) return;
    const say = words();
    const { store, record } = this;
    const back = make(
      'a',
      { class: 'back', href: address('records', this.entity) },
      make('span', { 'aria-hidden': 'true', class: 'back-arrow' }, '←'),
      ` ${say('backToList')}`,
    );
    if (!store) {
      place(this.header, [back]);
      place(this.element, this.told ? [this.header, this.told] : []);
      return;
    }
    const editing = this.mode !== 'view';
    const writes = may(session(), 'write-records');
    for (const [each, word] of [
      [this.cancelling, 'cancel'],
      [this.savingAndClosing, 'saveClose'],
      [this.saving, 'save'],
      [this.removing, 'remove'],
      [this.editing, 'edit'],
    ] as const)
      if (each.textContent !== say(word)) each.textContent = say(word);
    this.saving.disabled = this.savingAndClosing.disabled = this.busy;
    place(this.header, [
      back,
      make('span', { class: 'bar-space' }),
      this.notSaved.element,
      ...(editing
        ? [this.cancelling, this.savingAndClosing, this.saving]
        : [
            ...(may(session(), 'configure')
              ? [
                  make(
                    'a',
                    { class: 'button', href: address('design', store.form.layout, ...(this.id === undefined ? [] : ['record', this.id])) },
                    say('designForm'),
                  ),
                ]
              : []),
            ...(this.id === undefined ? [] : [make('a', { class: 'button', href: address('print', this.entity, this.id) }, say('print'))]),
            ...(writes ? [this.removing, this.editing] : []),
          ]),
    ]);
    this.title.textContent = record?.title ?? store.form.title;
    if (!this.unsaved) this.found = undefined;
    else if (!this.found && writes) this.found = this.offer(this.unsaved);
    place(this.element, [
      this.header,
      ...(this.told ? [this.told] : []),
      ...(this.found ? [this.found] : []),
      ...(this.conflict ? [this.conflict.element] : []),
      ...(store.content.top ? [] : [this.title]),
      this.summary!.element,
      this.frame,
      ...(record && !editing ? [this.commentAddress(record)] : []),
      ...(this.beside ? [this.beside.element] : []),
    ]);
  }

  /** What people say about the record, under it; it follows what becomes of the record. */
  private commentAddress(record: RecordInfo): HTMLElement {
    const of = `${record.id} ${record.version}`;
    const props = { entity: this.entity, record, form: this.store!.form, onLooked: this.onLooked };
    if (!this.talk) this.talk = { of, part: island(() => import('./RecordComments.tsx').then((module) => module.RecordComments), props) };
    else if (this.talk.of !== of) this.talk.part.show(props);
    this.talk.of = of;
    return this.talk.part.element;
  }

  private offer(unsaved: UnsavedEntries): HTMLElement {
    const say = words();
    const at = new Intl.DateTimeFormat(this.store!.form.language, {
      dateStyle: 'medium',
      timeStyle: 'short',
      numberingSystem: 'latn',
    }).format(unsaved.at);
    const act = (word: 'draftRestore' | 'draftDiscard', run: () => void) =>
      make('button', { type: 'button', class: 'bt-link', on: { click: run } }, say(word));
    return make(
      'p',
      { class: 'notice', 'data-tone': 'quiet', role: 'status' },
      `${say('draftFound', at)} `,
      act('draftRestore', () => this.takeUp(unsaved)),
      ' ',
      act('draftDiscard', () => {
        this.forget();
        this.unsaved = null;
        this.draw();
      }),
    );
  }

  private say(notice: Notice | undefined): void {
    this.told =
      notice &&
      make(
        'p',
        { class: 'notice', 'data-tone': notice.tone, role: notice.tone === 'bad' ? 'alert' : 'status' },
        `${notice.text} `,
        notice.act && make('button', { type: 'button', class: 'bt-link', on: { click: notice.act.run } }, notice.act.label),
        make(
          'button',
          { type: 'button', class: 'notice-close', 'aria-label': words()('dismiss'), on: { click: () => this.say(undefined) } },
          '×',
        ),
      );
    this.draw();
  }

  private open(): void {
    const ask = ++this.asked;
    open(this.entity, this.id, this.mode).then(
      (opened) => {
        if (ask === this.asked && !this.closed) this.take(opened);
      },
      (error: Error) => {
        const gone = error instanceof ApiError && error.problem.status === 404;
        if (gone && this.id !== undefined) forgetRecent(this.person, this.entity, this.id);
        if (ask === this.asked)
          this.say({ text: gone ? words()('nothingAt', address('records', this.entity, this.id ?? 'new')) : error.message, tone: 'bad' });
      },
    );
  }

  /** Draws what was opened. */
  private take(opened: RecordView): void {
    const { form, record, given, release } = opened;
    const store = new FormStore(
      form,
      (record?.values ?? given?.values ?? {}) as Values,
      record?.references ?? given?.names ?? {},
      this.around,
      record ? { record: record.id } : {},
    );
    // What a new record begins with may point at records whose names are not here yet.
    for (const [field, value] of Object.entries(given?.values ?? {})) {
      const target = form.fields[field]?.target;
      if (target && typeof value === 'number')
        this.around.lookUp(target, '', { ids: [value] }).then(
          ([name]) => {
            if (name) store.remember(field, name);
          },
          () => undefined,
        );
    }
    if (this.taking) putIn(store, this.taking);
    this.taking = undefined;
    this.release = release;
    acknowledgeRelease(release);
    this.record = record;
    this.store = store;
    if (record) rememberRecent(this.person, { entity: this.entity, id: record.id, title: record.title });
    const paging = { page: this.page, onPage: (id: string) => this.turnTo(id) };
    if (this.drawing) {
      this.drawing.use(store, paging);
      this.summary!.use(store);
    } else {
      this.drawing = new FormView(store, paging);
      this.summary = new ErrorSummary(store, (field, item) => this.reveal(field, item));
      this.frame.append(this.drawing.element);
    }
    this.notSaved.follow(store);
    this.draw();
    // The button that was pressed to turn is gone: the form takes the focus.
    if (this.turning) this.frame.focus({ preventScroll: true });
    this.turning = false;
  }

  private undraw(): void {
    this.drawing?.element.remove();
    this.drawing?.dispose();
    this.summary?.dispose();
    this.drawing = this.summary = undefined;
    this.notSaved.follow(undefined);
    this.store = undefined;
  }

  private turnTo(page: string): void {
    this.page = page;
    if (this.store) this.drawing?.use(this.store, { page, onPage: (id) => this.turnTo(id) });
  }

  private forget(): void {
    void keepUnsaved(this.person, this.entity, this.id, undefined);
  }

  /** A new release, or other rights, arrive without costing what was typed. */
  private async renew(): Promise<void> {
    const { store, entity, mode, id } = this;
    const say = words();
    if (!store) return;
    try {
      const [served, known] = await Promise.all([
        readPublishedForm(entity, 'full', mode, id),
        answer(api.GET('/api/entities/{key}', { params: { path: { key: entity } } })),
      ]);
      if (this.closed || this.store !== store) return;
      const before = this.release;
      this.release = served.release;
      acknowledgeRelease(served.release);
      const typed = store.dirty;
      const barred = store.heed(
        new Set(known.fields.map((field) => field.key)),
        new Set(known.fields.filter((field) => field.writable).map((field) => field.key)),
      );
      if (JSON.stringify(served.form) === JSON.stringify(store.form)) return this.draw();
      store.replaceForm(served.form);
      const labels = known.fields
        .filter((field) => barred.includes(field.key))
        .map((field) => field.label)
        .join(', ');
      this.say({
        text: labels
          ? say('formBarred', labels)
          : say(served.release === before ? 'formRights' : typed ? 'formChangedTyped' : 'formChanged', served.release),
        tone: labels ? 'bad' : 'quiet',
      });
    } catch (error) {
      // Who may see no records any more sees none of this one either.
      if (!(error instanceof ApiError) || error.problem.status !== 403) return;
      this.forget();
      this.undraw();
      this.say({ text: error.message, tone: 'bad' });
    }
  }

  /** From reading to editing or back. */
  private turn(to: Mode): void {
    this.turning = true;
    this.mode = to;
    this.say(undefined);
    this.open();
  }

  private takeUp(unsaved: UnsavedEntries): void {
    if (!this.store) return;
    this.unsaved = null;
    if (this.mode === 'view') {
      this.taking = unsaved;
      this.turn('edit');
    } else {
      putIn(this.store, unsaved);
      this.draw();
    }
  }

  private reveal(field: string, item?: string): void {
    const on = item && this.store ? pageOf(this.store.content.pages, item) : undefined;
    if (on) this.turnTo(on);
    focusField(this.element, field);
  }

  private toFirstProblem(): void {
    const first = this.store?.problems()[0];
    if (first) this.reveal(first.field, first.id);
  }

  private async save(close: boolean, over = this.record): Promise<void> {
    const { store, entity, id } = this;
    const say = words();
    if (!store || this.busy) return;
    if (!store.validate()) {
      this.say(undefined);
      return this.toFirstProblem();
    }
    this.setBusy(true);
    try {
      const related = store.relatedSaves();
      const body = {
        values: store.toSave(),
        form: { release: this.release, mode: this.mode, kind: 'full' },
        ...(related.length > 0 ? { related } : {}),
      };
      const saved =
        id === undefined
          ? await answer(api.POST('/api/records/{entity}', { params: { path: { entity } }, body }))
          : await answer(
              api.PATCH('/api/records/{entity}/{id}', {
                params: { path: { entity, id } },
                body,
                headers: { 'If-Match': `"${over!.version}"` },
              }),
            );
      guardLeaving(undefined);
      this.forget();
      this.record = saved;
      store.replaceRecord(saved.values as Values, saved.references, saved.id);
      this.settle();
      this.say({ text: say('saved'), tone: 'good' });
      if (close) navigate('records', entity);
      else if (id === undefined) navigate('records', entity, saved.id);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.problem.code === 'record-changed' && id !== undefined) {
        this.resolve(await answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } })));
        return;
      }
      if (error.problem.code === 'form-changed') await this.renew();
      store.showProblems((error.problem.problems ?? []).map((part) => ({ field: part.pointer, message: part.message })));
      this.say({ text: error.message, tone: 'bad' });
      this.toFirstProblem();
    } finally {
      this.setBusy(false);
    }
  }

  private setBusy(busy: boolean): void {
    this.busy = busy;
    this.saving.disabled = this.savingAndClosing.disabled = busy;
  }

  /** Somebody else saved meanwhile: both are shown, and a choice made for each field. */
  private resolve(theirs: RecordInfo): void {
    const { store, record } = this;
    if (!store || !record) return;
    this.settle();
    const props = {
      store,
      before: record,
      theirs,
      onDone: (choices: string[]) => {
        for (const [field, name] of Object.entries(theirs.references)) store.remember(field, name);
        store.rebase(theirs.values as Values, choices);
        this.record = theirs;
        void this.save(false, theirs);
      },
      onCancel: () => {
        this.settle();
        this.draw();
      },
    };
    this.conflict = island<ConflictProps>(() => import('./Conflict.tsx').then((module) => module.Conflict), props);
    this.say(undefined);
  }

  /** The conflict is over. */
  private settle(): void {
    this.conflict?.close();
    this.conflict = undefined;
  }

  private cancel(): void {
    if (this.id === undefined) navigate('records', this.entity);
    else if (!this.store?.dirty || window.confirm(words()('leave'))) {
      this.forget();
      this.settle();
      this.turn('view');
    }
  }

  private async remove(): Promise<void> {
    const { record, entity } = this;
    const say = words();
    if (!record || !window.confirm(say('removeAsk', record.title))) return;
    const path = { entity, id: record.id };
    try {
      await answer(api.DELETE('/api/records/{entity}/{id}', { params: { path }, headers: { 'If-Match': `"${record.version}"` } }));
      forgetRecent(this.person, entity, record.id);
      this.undraw();
      this.say({
        text: say('removed', record.title),
        tone: 'good',
        act: {
          label: say('bringBack'),
          run: () => {
            void answer(api.POST('/api/records/{entity}/{id}/restore', { params: { path } })).then(
              () => window.location.reload(),
              (error: Error) => this.say({ text: error.message, tone: 'bad' }),
            );
          },
        },
      });
    } catch (error) {
      this.say({ text: (error as Error).message, tone: 'bad' });
    }
  }

  private openBeside(entity: string, id: number | undefined, done?: (made: RecordName | undefined) => void): void {
    this.beside?.close();
    this.beside = island<SideSheetProps>(() => import('./SideSheet.tsx').then((module) => module.SideSheet), {
      entity,
      id,
      host: this.around,
      onClose: (made: RecordName | undefined) => {
        this.beside?.close();
        this.beside = undefined;
        this.draw();
        done?.(made);
      },
    });
    this.draw();
  }

  private keydown(event: KeyboardEvent): void {
    if (this.mode === 'view' || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 's') return;
    event.preventDefault();
    void this.save(false);
  }
}
