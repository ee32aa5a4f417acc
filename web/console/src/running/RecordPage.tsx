import { ErrorSummary, focusField, Form, FormStore, pageOf, type Mode, type ResolvedForm, type Values } from '#form';
import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { answer, api, asProblem, Refused, type RecordInfo } from '../api/client.ts';
import { useHappenings, type Happening } from '../shell/events.ts';
import { address, go, guardLeaving } from '../shell/location.ts';
import { may, surroundings, useSession } from '../shell/session.tsx';

interface Served {
  form: ResolvedForm;
  release: number;
}

/** The published form for whoever is signed in; the browser's cache answers when it has not changed. */
async function serve(entity: string, mode: Mode, record: number | undefined): Promise<Served> {
  const response = await fetch(`/api/forms/${encodeURIComponent(entity)}?mode=${mode}${record === undefined ? '' : `&record=${record}`}`, { headers: { Accept: 'application/json' } });
  const body: unknown = await response.json();
  if (!response.ok) throw new Refused(asProblem(body, response));
  return { form: body as ResolvedForm, release: Number(response.headers.get('Bright-Release')) };
}

/** One record, viewed or edited, or a new one. */
export function RecordPage({ entity, id }: { entity: string; id: number | undefined }) {
  const session = useSession();
  const [mode, setMode] = useState<Mode>(id === undefined ? 'create' : 'view');
  const [store, setStore] = useState<FormStore>();
  const [release, setRelease] = useState(0);
  const [record, setRecord] = useState<RecordInfo>();
  const [page, setPage] = useState<string>();
  const [notice, setNotice] = useState<{ text: string; tone: 'quiet' | 'bad' | 'good' }>();
  const [busy, setBusy] = useState(false);
  const frame = useRef<HTMLDivElement>(null);

  useEffect(() => {
    let left = false;
    const reading = id === undefined ? Promise.resolve(undefined) : answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } }));
    Promise.all([serve(entity, mode, id), reading]).then(
      ([served, read]) => {
        if (left) return;
        setRecord(read);
        setRelease(served.release);
        setStore(new FormStore(served.form, (read?.values ?? {}) as Values, read?.references ?? {}, surroundings(session)));
      },
      (error: Error) => setNotice({ text: error.message, tone: 'bad' }),
    );
    return () => {
      left = true;
    };
  }, [entity, id, mode, session]);

  /** A new release arrives without costing what was typed. */
  const renew = useCallback(async () => {
    if (!store) return;
    const served = await serve(entity, mode, id);
    setRelease(served.release);
    if (JSON.stringify(served.form) === JSON.stringify(store.form)) return;
    const typed = store.dirty;
    store.replaceForm(served.form);
    setNotice({ text: typed ? `This form was changed just now (release ${served.release}). Everything you typed is still here.` : `This form was changed just now (release ${served.release}).`, tone: 'quiet' });
  }, [entity, id, mode, store]);
  useHappenings(useCallback((happening: Happening) => {
    if (happening.type !== 'draft' && happening.data.release !== undefined && happening.data.release !== release) void renew().catch(() => undefined);
  }, [release, renew]));

  const dirty = useSyncExternalStore(useCallback((listener) => store?.subscribe('values', listener) ?? (() => undefined), [store]), () => store?.dirty ?? false);
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    if (dirty) {
      guardLeaving(() => window.confirm('What you typed is not saved. Leave it?'));
      window.addEventListener('beforeunload', ask);
    }
    return () => {
      guardLeaving(undefined);
      window.removeEventListener('beforeunload', ask);
    };
  }, [dirty]);

  const reveal = (field: string, item?: string) => {
    if (item && store) setPage(pageOf(store.content.pages, item));
    if (frame.current) focusField(frame.current, field);
  };
  const toFirstProblem = () => {
    const first = store?.problems()[0];
    if (first) reveal(first.field, first.id);
  };

  const save = async (close: boolean) => {
    if (!store || busy) return;
    if (!store.validate()) {
      setNotice(undefined);
      toFirstProblem();
      return;
    }
    setBusy(true);
    try {
      const body = { values: id === undefined ? filled(store.allValues()) : store.changes(), form: { release, mode, kind: 'full' } };
      const saved = id === undefined
        ? await answer(api.POST('/api/records/{entity}', { params: { path: { entity } }, body }))
        : await answer(api.PATCH('/api/records/{entity}/{id}', { params: { path: { entity, id } }, body, headers: { 'If-Match': `"${record!.version}"` } }));
      guardLeaving(undefined);
      store.replaceRecord(saved.values as Values, saved.references);
      setRecord(saved);
      setNotice({ text: 'Saved.', tone: 'good' });
      if (close) go('records', entity);
      else if (id === undefined) go('records', entity, saved.id);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
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
    else if (!dirty || window.confirm('What you typed is not saved. Leave it?')) {
      setNotice(undefined);
      setMode('view');
    }
  };

  if (!store) return notice ? <p className="notice" role="alert">{notice.text}</p> : null;
  const editing = mode !== 'view';
  return (
    <div className="record" ref={frame} onKeyDown={(event) => {
      if (editing && (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 's') {
        event.preventDefault();
        void save(false);
      }
    }}>
      <header className="record-bar">
        <a className="back" href={address('records', entity)}>← Back to the list</a>
        <span className="bar-space" />
        {dirty && <span className="unsaved" role="status">Not saved yet</span>}
        {editing ? (
          <>
            <button type="button" className="button" onClick={cancel}>Cancel</button>
            <button type="button" className="button" disabled={busy} onClick={() => void save(true)}>Save and close</button>
            <button type="button" className="button primary" disabled={busy} onClick={() => void save(false)}>Save</button>
          </>
        ) : (
          <>
            {may(session, 'configure') && <a className="button" href={address('design', store.form.layout)}>Design this form</a>}
            {may(session, 'write-records') && <button type="button" className="button primary" onClick={() => { setNotice(undefined); setMode('edit'); }}>Edit</button>}
          </>
        )}
      </header>
      {notice && <p className="notice" data-tone={notice.tone} role={notice.tone === 'bad' ? 'alert' : 'status'}>{notice.text}<button type="button" className="notice-close" aria-label="Dismiss" onClick={() => setNotice(undefined)}>×</button></p>}
      <ErrorSummary store={store} onReveal={reveal} />
      <Form store={store} page={page} onPage={setPage} />
    </div>
  );
}

const filled = (values: Values): Values => Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null && value !== ''));
