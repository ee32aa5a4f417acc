import { focusField, FormStore, type Values } from '#form';
import { useEffect, useRef, useState } from 'react';
import { answer, api, ApiError, type RecordInfo } from '../../api/client.ts';
import { Form } from '../../shell/Form.tsx';
import { useWords } from '../../shell/hooks.ts';
import { SideDialog } from '../../ui/SideDialog.tsx';
import { formHost } from '../../shell/session.ts';
import { readPublishedForm } from '../../runtime/publishedForm.ts';
import { NoticeBox } from '../../ui/Notice.tsx';

/** The same values for several records, entered in the short form: what is left alone stays as each record has it. */
export function BulkDialog({ entity, records, onClose }: { entity: string; records: RecordInfo[]; onClose: (changed: boolean) => void }) {
  const say = useWords();
  const dialog = useRef<HTMLDialogElement>(null);
  const [store, setStore] = useState<FormStore>();
  const [emptied, setEmptied] = useState<string[]>([]);
  const [problems, setProblems] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    readPublishedForm(entity, 'short', 'edit').then(
      ({ form }) => setStore(new FormStore(form, {}, {}, formHost())),
      (error: Error) => setProblems([error.message]),
    );
  }, [entity]);
  useEffect(() => {
    const first = store?.firstField();
    if (first && dialog.current) focusField(dialog.current, first);
  }, [store]);

  const save = async () => {
    if (!store) return;
    const values: Values = { ...store.changes(), ...Object.fromEntries(emptied.map((field) => [field, null])) };
    if (Object.keys(values).length === 0) return setProblems([say('bulkNothing')]);
    setBusy(true);
    try {
      await answer(
        api.PATCH('/api/records/{entity}', {
          params: { path: { entity } },
          body: { records: records.map(({ id, version }) => ({ id, version })), values },
        }),
      );
      onClose(true);
    } catch (error) {
      setProblems([(error as Error).message, ...new Set(wrongWith(records, error))]);
    } finally {
      setBusy(false);
    }
  };
  const fields = store ? Object.entries(store.form.fields).filter(([key, type]) => store.fieldItem(key) && !type.required) : [];
  return (
    <SideDialog
      title={say('bulkChange', records.length)}
      dialog={dialog}
      onClose={() => onClose(false)}
      acts={
        <>
          <button type="button" className="button" onClick={() => onClose(false)}>
            {say('cancel')}
          </button>
          <button type="button" className="button primary" disabled={busy || !store} onClick={() => void save()}>
            {say('bulkSave')}
          </button>
        </>
      }
    >
      <p>{say('bulkAbout')}</p>
      {problems.length > 0 && (
        <NoticeBox tone="bad">
          {problems.slice(0, 20).map((each) => (
            <p key={each}>{each}</p>
          ))}
        </NoticeBox>
      )}
      {store && <Form store={store} />}
      {fields.length > 0 && <EmptiedFields fields={fields} emptied={emptied} onChange={setEmptied} />}
    </SideDialog>
  );
}

/** The fields that are to be emptied. */
function EmptiedFields({
  fields,
  emptied,
  onChange,
}: {
  fields: [key: string, field: { label: string }][];
  emptied: readonly string[];
  onChange: (emptied: string[]) => void;
}) {
  const say = useWords();
  return (
    <fieldset className="bulk-empty">
      <legend>{say('bulkEmpty')}</legend>
      {fields.map(([key, type]) => (
        <label key={key}>
          <input
            type="checkbox"
            checked={emptied.includes(key)}
            onChange={(event) => onChange(event.target.checked ? [...emptied, key] : emptied.filter((each) => each !== key))}
          />{' '}
          {type.label}
        </label>
      ))}
    </fieldset>
  );
}

/** What stands against a change of several records, each with what the record is called. */
function wrongWith(records: readonly RecordInfo[], error: unknown): string[] {
  const parts = error instanceof ApiError ? (error.problem.problems ?? []) : [];
  const of = (pointer: string) => records[Number(/^\/records\/(\d+)/.exec(pointer)?.[1])]?.title;
  return parts.map((part) => `${of(part.pointer) ?? ''}: ${part.message}`);
}
