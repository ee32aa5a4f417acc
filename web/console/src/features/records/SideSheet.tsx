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
  const [problem, setProblem] = useState<string>();
  const { store, release, title } = useSheetForm(entity, id, host, setProblem);
  const dialog = useRef<HTMLDialogElement>(null);
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
      acts={<SheetActs entity={entity} id={id} onSave={() => void save()} onClose={onClose} />}
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

interface SheetForm {
  store?: FormStore;
  release: number;
  title: string;
}

/** The form of a record, or of a new one, as users have it; with what it is called and the release it is of. */
function useSheetForm(entity: string, id: number | undefined, host: SideSheetProps['host'], onProblem: (message: string) => void) {
  const [sheet, setSheet] = useState<SheetForm>({ release: 0, title: '' });
  useEffect(() => {
    // From here nothing opens beside.
    const plain = { ...host };
    delete plain.open;
    delete plain.create;
    const reading =
      id === undefined ? Promise.resolve(undefined) : answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } }));
    Promise.all([readPublishedForm(entity, id === undefined ? 'short' : 'full', id === undefined ? 'create' : 'view', id), reading]).then(
      ([served, read]) => {
        const values = (read?.values ?? {}) as Values;
        const store = new FormStore(served.form, values, read?.references ?? {}, plain, id === undefined ? {} : { record: id });
        setSheet({ store, release: served.release, title: read?.title ?? served.form.title });
      },
      (error: Error) => onProblem(error.message),
    );
  }, [entity, id, host, onProblem]);
  return sheet;
}

interface SheetActsProps {
  entity: string;
  id: number | undefined;
  onSave: () => void;
  onClose: () => void;
}

/** What can be done with what is open: a record is opened whole, a new one saved. */
function SheetActs({ entity, id, onSave, onClose }: SheetActsProps) {
  const say = useWords();
  return (
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
        <button type="button" className="button primary" onClick={onSave}>
          {say('save')}
        </button>
      )}
    </>
  );
}
