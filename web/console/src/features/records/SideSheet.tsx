import { focusField, FormStore, type Values } from '#form';
import { useEffect, useRef, useState } from 'react';
import { answer, api, ApiError } from '../../api/client.ts';
import { ErrorSummary, Form } from '../../shell/Form.tsx';
import { useWords } from '../../shell/hooks.ts';
import { NoticeLine } from '../../ui/Notice.tsx';
import { SideDialog } from '../../ui/SideDialog.tsx';
import { address } from '../../shell/location.ts';
import { readPublishedForm } from '../../runtime/publishedForm.ts';
import type { SideSheetProps } from '../../runtime/parts.ts';

/** A sheet beside the form: the record a reference points at, or a new one for it to point at. */
export function SideSheet({ entity, id, host, onClose }: SideSheetProps) {
  const say = useWords();
  const [store, setStore] = useState<FormStore>();
  const [release, setRelease] = useState(0);
  const [title, setTitle] = useState('');
  const [problem, setProblem] = useState<string>();
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    // From here nothing opens beside.
    const plain = { ...host };
    delete plain.open;
    delete plain.create;
    const reading =
      id === undefined ? Promise.resolve(undefined) : answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } }));
    Promise.all([readPublishedForm(entity, id === undefined ? 'short' : 'full', id === undefined ? 'create' : 'view', id), reading]).then(
      ([served, read]) => {
        setRelease(served.release);
        setTitle(read?.title ?? served.form.title);
        setStore(
          new FormStore(served.form, (read?.values ?? {}) as Values, read?.references ?? {}, plain, id === undefined ? {} : { record: id }),
        );
      },
      (error: Error) => setProblem(error.message),
    );
  }, [entity, id, host]);
  useEffect(() => {
    const first = id === undefined && store?.firstField();
    if (first && dialog.current) focusField(dialog.current, first);
  }, [store, id]);
  const save = async () => {
    if (!store || !dialog.current) return;
    const toFirst = () => {
      const [first] = store.problems();
      if (first && dialog.current) focusField(dialog.current, first.field);
    };
    if (!store.validate()) return toFirst();
    try {
      const created = await answer(
        api.POST('/api/records/{entity}', {
          params: { path: { entity } },
          body: { values: store.toSave(), form: { release, mode: 'create', kind: 'short' } },
        }),
      );
      onClose({ id: created.id, title: created.title });
    } catch (error) {
      if (error instanceof ApiError)
        store.showProblems((error.problem.problems ?? []).map((part) => ({ field: part.pointer, message: part.message })));
      setProblem((error as Error).message);
      toFirst();
    }
  };
  return (
    <SideDialog
      title={title}
      name={say('opened')}
      dialog={dialog}
      onClose={onClose}
      acts={
        <>
          {id !== undefined && (
            <a className="button" href={address('records', entity, id)}>
              {say('edit')}
            </a>
          )}
          <button type="button" className="button" onClick={() => onClose()}>
            {id === undefined ? say('cancel') : say('close')}
          </button>
          {id === undefined && (
            <button type="button" className="button primary" onClick={() => void save()}>
              {say('save')}
            </button>
          )}
        </>
      }
    >
      <NoticeLine notice={problem === undefined ? undefined : { text: problem, bad: true }} />
      {store && (
        <ErrorSummary
          store={store}
          onReveal={(field) => {
            if (dialog.current) focusField(dialog.current, field);
          }}
        />
      )}
      {store && <Form store={store} />}
    </SideDialog>
  );
}
