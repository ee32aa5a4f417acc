import { ErrorSummary, focusField, Form, FormStore, pageOf, type Mode, type RecordName, type Values } from '#form';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { answer, api, Refused, type RecordInfo } from '../api/client.ts';
import { useHappenings, type Happening } from '../shell/events.ts';
import { address, go, guardLeaving } from '../shell/location.ts';
import { forgetRecent, rememberRecent } from '../shell/recents.ts';
import { may, surroundings, useSession } from '../shell/session.tsx';
import { useWords } from '../shell/words.ts';
import { NotSaved } from './NotSaved.tsx';
import { open, takePrepared, type Opened } from './opening.ts';
import { serve } from './served.ts';
import { findUnsaved, keepUnsaved, putIn, type Unsaved } from './unsaved.ts';

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
export function RecordPage({ entity, id, onLooked }: { entity: string; id: number | undefined; onLooked: () => void }) {
  const session = useSession();
  const say = useWords();
  const person = session.person!.id;
  const [mode, setMode] = useState<Mode>(id === undefined ? 'create' : 'view');
  const [page, setPage] = useState<string>();
  const [notice, setNotice] = useState<Notice>();
  const [busy, setBusy] = useState(false);
  /** What was typed and never saved; undefined until it has been looked for. */
  const [unsaved, setUnsaved] = useState<Unsaved | null>();
  const [theirs, setTheirs] = useState<RecordInfo>();
  const [beside, setBeside] = useState<{ entity: string; id?: number; done?: (made: RecordName | undefined) => void }>();
  const frame = useRef<HTMLDivElement>(null);
  const formFrame = useRef<HTMLDivElement>(null);
  /** Set while reading turns to editing or back. */
  const turning = useRef(false);
  /** What is to be put into the form once it is open for editing. */
  const taking = useRef<Unsaved>(undefined);
  const around = useMemo(() => surroundings({
    open: (target: string, record: number) => setBeside({ entity: target, id: record }),
    create: (target: string) => new Promise<RecordName | undefined>((done) => setBeside({ entity: target, done })),
  }), []);

  const storeOf = useCallback(({ form, record: read, given }: Opened) => {
    const opened = new FormStore(form, (read?.values ?? given?.values ?? {}) as Values, read?.references ?? given?.names ?? {}, around, read ? { record: read.id } : {});
    // What a new record begins with may point at records whose names are not here yet.
    for (const [field, value] of Object.entries(given?.values ?? {})) {
      const target = form.fields[field]?.target;
      if (target && typeof value === 'number') around.lookUp(target, '', { ids: [value] }).then(([name]) => { if (name) opened.remember(field, name); }, () => undefined);
    }
    return opened;
  }, [around]);
  const [first] = useState(() => takePrepared(entity, id));
  const [store, setStore] = useState<FormStore | undefined>(() => first && storeOf(first));
  const [release, setRelease] = useState(first?.release ?? 0);
  const [record, setRecord] = useState(first?.record);
  const drawn = useRef(first ? mode : undefined);

  useEffect(() => {
    let left = false;
    // The page may have begun with everything there.
    const opening = first && drawn.current === mode ? Promise.resolve(first) : open(entity, id, mode);
    opening.then(
      (opened) => {
        if (left) return;
        if (opened !== first) {
          const made = storeOf(opened);
          if (taking.current) putIn(made, taking.current);
          setStore(made);
          setRelease(opened.release);
          setRecord(opened.record);
        }
        drawn.current = undefined;
        taking.current = undefined;
        if (opened.record) rememberRecent(person, { entity, id: opened.record.id, title: opened.record.title });
      },
      (error: Error) => {
        if (error instanceof Refused && error.problem.status === 404 && id !== undefined) forgetRecent(person, entity, id);
        if (!left) setNotice({ text: error.message, tone: 'bad' });
      },
    );
    return () => {
      left = true;
    };
  }, [entity, id, mode, first, storeOf, person]);
  useEffect(() => {
    void findUnsaved(person, entity, id).then((found) => setUnsaved(found ?? null));
  }, [person, entity, id]);

  const forget = useCallback(() => void keepUnsaved(person, entity, id, undefined), [person, entity, id]);

  /** A new release, or other rights, arrive without costing what was typed. */
  const renew = useCallback(async () => {
    if (!store) return;
    try {
      const [served, known] = await Promise.all([serve(entity, 'full', mode, id), answer(api.GET('/api/entities/{key}', { params: { path: { key: entity } } }))]);
      setRelease(served.release);
      const typed = store.dirty;
      const barred = store.heed(new Set(known.fields.map((field) => field.key)), new Set(known.fields.filter((field) => field.writable).map((field) => field.key)));
      if (JSON.stringify(served.form) === JSON.stringify(store.form)) return;
      store.replaceForm(served.form);
      const labels = known.fields.filter((field) => barred.includes(field.key)).map((field) => field.label).join(', ');
      setNotice({ text: labels ? say('formBarred', labels) : say(served.release === release ? 'formRights' : typed ? 'formChangedTyped' : 'formChanged', served.release), tone: labels ? 'bad' : 'quiet' });
    } catch (error) {
      // Who may see no records any more sees none of this one either.
      if (!(error instanceof Refused) || error.problem.status !== 403) return;
      forget();
      setStore(undefined);
      setNotice({ text: error.message, tone: 'bad' });
    }
  }, [entity, id, mode, store, release, say, forget]);
  useHappenings(useCallback((happening: Happening) => {
    if (happening.type !== 'draft' && happening.data.release !== undefined && happening.data.release !== release) void renew();
  }, [release, renew]));
  const roles = session.person!.roles.join(' ');
  const drawnFor = useRef(roles);
  useEffect(() => {
    if (drawnFor.current !== roles) void renew();
    drawnFor.current = roles;
  }, [roles, renew]);

  useEffect(() => {
    if (turning.current) formFrame.current?.focus({ preventScroll: true });
    turning.current = false;
  }, [store]);

  /** From reading to editing or back: the button pressed goes, so the form takes the focus. */
  const turn = (to: Mode) => {
    turning.current = true;
    setNotice(undefined);
    setMode(to);
  };

  const takeUp = () => {
    if (!unsaved || !store) return;
    setUnsaved(null);
    if (mode !== 'view') return putIn(store, unsaved);
    taking.current = unsaved;
    turn('edit');
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
      const body = { values: store.toSave(), form: { release, mode, kind: 'full' }, ...(related.length > 0 ? { related } : {}) };
      const saved = id === undefined
        ? await answer(api.POST('/api/records/{entity}', { params: { path: { entity } }, body }))
        : await answer(api.PATCH('/api/records/{entity}/{id}', { params: { path: { entity, id } }, body, headers: { 'If-Match': `"${over!.version}"` } }));
      guardLeaving(undefined);
      forget();
      store.replaceRecord(saved.values as Values, saved.references, saved.id);
      setRecord(saved);
      setTheirs(undefined);
      setNotice({ text: say('saved'), tone: 'good' });
      if (close) go('records', entity);
      else if (id === undefined) go('records', entity, saved.id);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      if (error.problem.code === 'record-changed' && id !== undefined) {
        setTheirs(await answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } })));
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
    if (id === undefined) go('records', entity);
    else if (!store?.dirty || window.confirm(say('leave'))) {
      forget();
      setTheirs(undefined);
      turn('view');
    }
  };

  const remove = async () => {
    if (!record || !window.confirm(say('removeAsk', record.title))) return;
    try {
      await answer(api.DELETE('/api/records/{entity}/{id}', { params: { path: { entity, id: record.id } }, headers: { 'If-Match': `"${record.version}"` } }));
      forgetRecent(person, entity, record.id);
      setStore(undefined);
      setNotice({ text: say('removed', record.title), tone: 'good', act: { label: say('bringBack'), run: () => {
        void answer(api.POST('/api/records/{entity}/{id}/restore', { params: { path: { entity, id: record.id } } })).then(() => window.location.reload(), (error: Error) => setNotice({ text: error.message, tone: 'bad' }));
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
  const back = <a className="back" href={address('records', entity)}><span aria-hidden className="back-arrow">←</span> {say('backToList')}</a>;
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
        <NotSaved store={store} place={{ person, entity, id, version: record?.version ?? 0, mode, waits: unsaved !== null }} onLeave={forget} />
        {editing ? (
          <>
            <button type="button" className="button" onClick={cancel}>{say('cancel')}</button>
            <button type="button" className="button" disabled={busy} onClick={() => void save(true)}>{say('saveClose')}</button>
            <button type="button" className="button primary" disabled={busy} onClick={() => void save(false)}>{say('save')}</button>
          </>
        ) : (
          <>
            {may(session, 'configure') && <a className="button" href={address('design', store.form.layout)}>{say('designForm')}</a>}
            {id !== undefined && <a className="button" href={address('print', entity, id)}>{say('print')}</a>}
            {may(session, 'write-records') && <button type="button" className="button" onClick={() => void remove()}>{say('remove')}</button>}
            {may(session, 'write-records') && <button type="button" className="button primary" onClick={() => turn('edit')}>{say('edit')}</button>}
          </>
        )}
      </header>
      {told}
      {unsaved && may(session, 'write-records') && (
        <p className="notice" data-tone="quiet" role="status">
          {say('draftFound', new Intl.DateTimeFormat(store.form.language, { dateStyle: 'medium', timeStyle: 'short', numberingSystem: 'latn' }).format(unsaved.at))}{' '}
          <button type="button" className="bt-link" onClick={takeUp}>{say('draftTake')}</button>{' '}
          <button type="button" className="bt-link" onClick={() => { forget(); setUnsaved(null); }}>{say('draftDrop')}</button>
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
      <div ref={formFrame} tabIndex={-1} className="record-form"><Form store={store} page={page} onPage={setPage} /></div>
      {record && !editing && <Suspense><Talk entity={entity} record={record} form={store.form} onLooked={onLooked} /></Suspense>}
      {beside && <Suspense><Beside key={`${beside.entity}/${beside.id ?? 'new'}`} entity={beside.entity} id={beside.id} surroundings={around} onClose={(made) => { beside.done?.(made); setBeside(undefined); }} /></Suspense>}
    </div>
  );
}
