import { ErrorSummary, filled, focusField, Form, FormStore, pageOf, type Mode, type RecordName, type Values } from '#form';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { answer, api, Refused, type EntitySummary, type RecordInfo } from '../api/client.ts';
import { useHappenings, type Happening } from '../shell/events.ts';
import { address, go, guardLeaving, isLeaving } from '../shell/location.ts';
import { forgetRecent, rememberRecent } from '../shell/recents.ts';
import { may, surroundings, useSession } from '../shell/session.tsx';
import { useWords } from '../shell/words.ts';
import { begun } from './begun.ts';
import { serve } from './served.ts';
import { findUnsaved, keepUnsaved, type Unsaved } from './unsaved.ts';

// A form is there before what lies beside and under it.
const Beside = lazy(() => import('./Beside.tsx').then((module) => ({ default: module.Beside })));
const Conflict = lazy(() => import('./Conflict.tsx').then((module) => ({ default: module.Conflict })));
const Talk = lazy(() => import('./Talk.tsx').then((module) => ({ default: module.Talk })));

interface Notice {
  text: string;
  tone: 'quiet' | 'bad' | 'good';
  act?: { label: string; run: () => void };
}

/** One record, viewed or edited, or a new one. */
export function RecordPage({ entity, id, onLooked }: { entity: EntitySummary; id: number | undefined; onLooked: () => void }) {
  const session = useSession();
  const say = useWords();
  const person = session.person!.id;
  const [mode, setMode] = useState<Mode>(id === undefined ? 'create' : 'view');
  const [store, setStore] = useState<FormStore>();
  const [release, setRelease] = useState(0);
  const [record, setRecord] = useState<RecordInfo>();
  const [page, setPage] = useState<string>();
  const [notice, setNotice] = useState<Notice>();
  const [busy, setBusy] = useState(false);
  const [unsaved, setUnsaved] = useState<Unsaved>();
  const [theirs, setTheirs] = useState<RecordInfo>();
  const [beside, setBeside] = useState<{ entity: string; id?: number; done?: (made: RecordName | undefined) => void }>();
  const frame = useRef<HTMLDivElement>(null);
  /** Set while the form is opened for editing in order to take up what was typed. */
  const taking = useRef(false);
  const around = useMemo(() => ({
    ...surroundings(session),
    open: (target: string, record: number) => setBeside({ entity: target, id: record }),
    create: (target: string) => new Promise<RecordName | undefined>((done) => setBeside({ entity: target, done })),
  }), [session]);

  useEffect(() => {
    let left = false;
    const reading = id === undefined ? Promise.resolve(undefined) : answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity: entity.key, id } } }));
    Promise.all([serve(entity.key, 'full', mode, id), reading, findUnsaved(person, entity.key, id)]).then(
      ([served, read, typed]) => {
        if (left) return;
        const given = id === undefined ? begun(entity.key) : undefined;
        setRecord(read);
        setRelease(served.release);
        const opened = new FormStore(served.form, (read?.values ?? given?.values ?? {}) as Values, read?.references ?? given?.names ?? {}, around, id === undefined ? {} : { record: id });
        setStore(opened);
        // What a new record begins with may point at records whose names are not here yet.
        for (const [field, value] of Object.entries(given?.values ?? {})) {
          const target = served.form.fields[field]?.target;
          if (target && typeof value === 'number') around.lookUp(target, '', { ids: [value] }).then(([name]) => { if (name) opened.remember(field, name); }, () => undefined);
        }
        if (read) rememberRecent(person, { entity: entity.key, id: read.id, title: read.title });
        if (taking.current && typed) putIn(opened, typed);
        else setUnsaved(typed);
        taking.current = false;
      },
      (error: Error) => {
        if (error instanceof Refused && error.problem.status === 404 && id !== undefined) forgetRecent(person, entity.key, id);
        if (!left) setNotice({ text: error.message, tone: 'bad' });
      },
    );
    return () => {
      left = true;
    };
  }, [entity.key, id, mode, around, person]);

  /** A new release arrives without costing what was typed. */
  const renew = useCallback(async () => {
    if (!store) return;
    const served = await serve(entity.key, 'full', mode, id);
    setRelease(served.release);
    if (JSON.stringify(served.form) === JSON.stringify(store.form)) return;
    const typed = store.dirty;
    store.replaceForm(served.form);
    setNotice({ text: say(typed ? 'formChangedTyped' : 'formChanged', served.release), tone: 'quiet' });
  }, [entity.key, id, mode, store, say]);
  useHappenings(useCallback((happening: Happening) => {
    if (happening.type !== 'draft' && happening.data.release !== undefined && happening.data.release !== release) void renew().catch(() => undefined);
  }, [release, renew]));

  const revision = useSyncExternalStore(useCallback((listener) => store?.subscribe('values', listener) ?? (() => undefined), [store]), () => store?.revision ?? 0);
  const dirty = store?.dirty ?? false;
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => { if (!isLeaving()) event.preventDefault(); };
    if (dirty) {
      guardLeaving(() => {
        const leave = window.confirm(say('leave'));
        if (leave) void keepUnsaved(person, entity.key, id, undefined);
        return leave;
      });
      window.addEventListener('beforeunload', ask);
    }
    return () => {
      guardLeaving(undefined);
      window.removeEventListener('beforeunload', ask);
    };
  }, [dirty, say, person, entity.key, id]);

  // What is typed is kept a moment later, for the case that it is never saved.
  useEffect(() => {
    if (!store || mode === 'view' || unsaved) return undefined;
    const wait = setTimeout(() => {
      const changes = store.changes();
      const names = Object.fromEntries(Object.keys(changes).flatMap((field) => { const name = store.name(field); return name ? [[field, name]] : []; }));
      void keepUnsaved(person, entity.key, id, store.dirty ? { at: Date.now(), version: record?.version ?? 0, values: changes, names } : undefined);
    }, 400);
    return () => clearTimeout(wait);
  }, [store, revision, mode, unsaved, person, entity.key, id, record?.version]);

  const takeUp = () => {
    if (!unsaved || !store) return;
    setUnsaved(undefined);
    taking.current = mode === 'view';
    if (mode === 'view') setMode('edit');
    else putIn(store, unsaved);
  };

  const reveal = (field: string, item?: string) => {
    if (item && store) setPage(pageOf(store.content.pages, item));
    if (frame.current) focusField(frame.current, field);
  };
  const toFirstProblem = () => {
    const first = store?.problems()[0];
    if (first) reveal(first.field, first.id);
  };

  const save = async (close: boolean, over = record) => {
    if (!store || busy) return;
    if (!store.validate()) {
      setNotice(undefined);
      toFirstProblem();
      return;
    }
    setBusy(true);
    try {
      const related = store.relatedSaves();
      const body = { values: id === undefined ? filled(store.allValues()) : store.changes(), form: { release, mode, kind: 'full' }, ...(related.length > 0 ? { related } : {}) };
      const saved = id === undefined
        ? await answer(api.POST('/api/records/{entity}', { params: { path: { entity: entity.key } }, body }))
        : await answer(api.PATCH('/api/records/{entity}/{id}', { params: { path: { entity: entity.key, id } }, body, headers: { 'If-Match': `"${over!.version}"` } }));
      guardLeaving(undefined);
      void keepUnsaved(person, entity.key, id, undefined);
      store.replaceRecord(saved.values as Values, saved.references, saved.id);
      setRecord(saved);
      setTheirs(undefined);
      setNotice({ text: say('saved'), tone: 'good' });
      if (close) go('records', entity.key);
      else if (id === undefined) go('records', entity.key, saved.id);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      if (error.problem.code === 'record-changed' && id !== undefined) {
        setTheirs(await answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity: entity.key, id } } })));
        setNotice(undefined);
        return;
      }
      if (error.problem.code === 'form-changed') await renew();
      store.showProblems((error.problem.problems ?? []).map((part) => ({ field: part.pointer, message: part.message })));
      setNotice({ text: error.message, tone: 'bad' });
      toFirstProblem();
    } finally {
      setBusy(false);
    }
  };

  const cancel = () => {
    if (id === undefined) go('records', entity.key);
    else if (!dirty || window.confirm(say('leave'))) {
      void keepUnsaved(person, entity.key, id, undefined);
      setNotice(undefined);
      setTheirs(undefined);
      setMode('view');
    }
  };

  const remove = async () => {
    if (!record || !window.confirm(say('removeAsk', record.title))) return;
    try {
      await answer(api.DELETE('/api/records/{entity}/{id}', { params: { path: { entity: entity.key, id: record.id } }, headers: { 'If-Match': `"${record.version}"` } }));
      forgetRecent(person, entity.key, record.id);
      setStore(undefined);
      setNotice({ text: say('removed', record.title), tone: 'good', act: { label: say('bringBack'), run: () => {
        void answer(api.POST('/api/records/{entity}/{id}/restore', { params: { path: { entity: entity.key, id: record.id } } })).then(() => window.location.reload(), (error: Error) => setNotice({ text: error.message, tone: 'bad' }));
      } } });
    } catch (error) {
      setNotice({ text: (error as Error).message, tone: 'bad' });
    }
  };

  const told = notice && (
    <p className="notice" data-tone={notice.tone} role={notice.tone === 'bad' ? 'alert' : 'status'}>
      {notice.text} {notice.act && <button type="button" className="bt-link" onClick={notice.act.run}>{notice.act.label}</button>}
      <button type="button" className="notice-close" aria-label={say('dismiss')} onClick={() => setNotice(undefined)}>×</button>
    </p>
  );
  const back = <a className="back" href={address('records', entity.key)}><span aria-hidden className="back-arrow">←</span> {say('backToList')}</a>;
  if (!store) return told ? <div className="record"><header className="record-bar">{back}</header>{told}</div> : null;
  const editing = mode !== 'view';
  return (
    <div className="record" ref={frame} onKeyDown={(event) => {
      if (editing && (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 's') {
        event.preventDefault();
        void save(false);
      }
    }}>
      <header className="record-bar">
        {back}
        <span className="bar-space" />
        {dirty && <span className="unsaved" role="status">{say('notSaved')}</span>}
        {editing ? (
          <>
            <button type="button" className="button" onClick={cancel}>{say('cancel')}</button>
            <button type="button" className="button" disabled={busy} onClick={() => void save(true)}>{say('saveClose')}</button>
            <button type="button" className="button primary" disabled={busy} onClick={() => void save(false)}>{say('save')}</button>
          </>
        ) : (
          <>
            {may(session, 'configure') && <a className="button" href={address('design', store.form.layout)}>{say('designForm')}</a>}
            {id !== undefined && <a className="button" href={address('print', entity.key, id)}>{say('print')}</a>}
            {may(session, 'write-records') && <button type="button" className="button" onClick={() => void remove()}>{say('remove')}</button>}
            {may(session, 'write-records') && <button type="button" className="button primary" onClick={() => { setNotice(undefined); setMode('edit'); }}>{say('edit')}</button>}
          </>
        )}
      </header>
      {told}
      {unsaved && may(session, 'write-records') && (
        <p className="notice" data-tone="quiet" role="status">
          {say('draftFound', new Intl.DateTimeFormat(store.form.language, { dateStyle: 'medium', timeStyle: 'short', numberingSystem: 'latn' }).format(unsaved.at))}{' '}
          <button type="button" className="bt-link" onClick={takeUp}>{say('draftTake')}</button>{' '}
          <button type="button" className="bt-link" onClick={() => { void keepUnsaved(person, entity.key, id, undefined); setUnsaved(undefined); }}>{say('draftDrop')}</button>
        </p>
      )}
      {theirs && record && (
        <Suspense><Conflict store={store} before={record} theirs={theirs} onDone={(choices) => {
          for (const [field, name] of Object.entries(theirs.references)) store.remember(field, name);
          store.rebase(theirs.values as Values, choices);
          setRecord(theirs);
          void save(false, theirs);
        }} onCancel={() => setTheirs(undefined)} /></Suspense>
      )}
      {!store.content.top && <h1 className="bt-visually-hidden">{record?.title ?? store.form.title}</h1>}
      <ErrorSummary store={store} onReveal={reveal} />
      <Form store={store} page={page} onPage={setPage} />
      {record && !editing && <Suspense><Talk entity={entity.key} record={record} form={store.form} onLooked={onLooked} /></Suspense>}
      {beside && <Suspense><Beside key={`${beside.entity}/${beside.id ?? 'new'}`} entity={beside.entity} id={beside.id} surroundings={around} onClose={(made) => { beside.done?.(made); setBeside(undefined); }} /></Suspense>}
    </div>
  );
}

/** Puts what was typed before into a form, as if it were typed now. */
function putIn(store: FormStore, unsaved: Unsaved): void {
  for (const [field, name] of Object.entries(unsaved.names)) store.remember(field, name);
  for (const [field, value] of Object.entries(unsaved.values)) store.set(field, value);
}
