import { useEffect, useState } from 'react';
import { answer, api, type EntityRelations } from '../../api/client.ts';
import { putDocument, readDocument } from '../../api/documents.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { textIn, withText } from '../../shell/localTexts.ts';
import { address } from '../../shell/location.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { Select } from '../../ui/Select.tsx';
import { UseList } from '../documents/index.ts';
import { withFields, type EntityFile, type FieldFile } from './entityFile.ts';
import type { ReferenceName } from './RelationDiagram.tsx';

interface NewReferenceProps {
  from: string;
  to: string;
  entities: readonly EntityRelations[];
  onClose: () => void;
}

/** A reference from one entity to another: a field of its draft. */
export function NewReference({ from, to, entities, onClose }: NewReferenceProps) {
  // Those of a database are what it says they are.
  const own = entities.filter((each) => !each.attached);
  const [source, setSource] = useState(own.some((each) => each.key === from) ? from : (own[0]?.key ?? ''));
  const [target, setTarget] = useState(to || (entities.find((each) => each.key !== source)?.key ?? source));
  const suggested = entities.find((each) => each.key === target)?.label ?? '';
  const [named, setName] = useState<string>();
  const [required, setRequired] = useState(false);
  const name = named ?? suggested;
  const options = (of: readonly EntityRelations[]) => of.map(({ key, plural }) => ({ key, label: plural }));
  const add = async () => {
    await answer(
      api.POST('/api/entities/{key}/fields', {
        params: { path: { key: source } },
        body: { label: name, type: 'reference', target, required, choiceList: null, choices: null },
      }),
    );
  };
  return (
    <FormDialog
      title={say('relations.add')}
      submit={say('common.create')}
      incomplete={!name.trim() || !source || !target}
      onSubmit={add}
      onClose={onClose}
    >
      <p>{say('relations.addAbout')}</p>
      <label htmlFor="reference-from">{say('relations.from')}</label>
      <Select id="reference-from" value={source} options={options(own)} onChange={setSource} />
      <label htmlFor="reference-to">{say('relations.to')}</label>
      <Select id="reference-to" value={target} options={options(entities)} onChange={setTarget} />
      <label htmlFor="reference-name">{say('relations.name')}</label>
      <input
        id="reference-name"
        className="bt-input"
        autoFocus
        autoComplete="off"
        dir="auto"
        maxLength={200}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <label className="dialog-check">
        <input type="checkbox" checked={required} onChange={(event) => setRequired(event.target.checked)} />{' '}
        {say('addField.everyRecordMustHaveIt')}
      </label>
    </FormDialog>
  );
}

interface ReferenceDialogProps {
  reference: ReferenceName;
  entities: readonly EntityRelations[];
  disabled: boolean;
  onClose: () => void;
}

/** A reference that is there: what it is called, whether it must be filled, whether it is in use, and where it is used. */
export function ReferenceDialog({ reference: { entity, field }, entities, disabled, onClose }: ReferenceDialogProps) {
  const { language, application } = useSession();
  const [stored, setStored] = useState<{ value: EntityFile; revision: number }>();
  const [problem, setProblem] = useState<string>();
  const [change, setChange] = useState<{ label?: string; required?: boolean; retired?: boolean }>({});
  useEffect(() => {
    readDocument<EntityFile>('entity', entity).then(setStored, (error: Error) => setProblem(error.message));
  }, [entity]);
  const now = stored?.value.fields.find((each) => each.key === field);
  const label = change.label ?? textIn(now?.label ?? '', language);
  const target = entities.find((each) => each.key === now?.target);
  const more = (of: FieldFile): Partial<FieldFile> => ({
    label: withText(of.label, label, language, [...application.languages]) ?? of.key,
    required: change.required ?? of.required,
    retired: change.retired ?? of.retired,
  });
  const save = async () => {
    if (stored) await putDocument('entity', entity, withFields(stored.value, [field], more), stored.revision);
  };
  return (
    <FormDialog
      title={say('relations.reference', label, stored ? textIn(stored.value.label, language) : entity, target?.label ?? '')}
      submit={say('common.save')}
      incomplete={disabled || !label.trim() || Object.keys(change).length === 0}
      problem={problem}
      onSubmit={save}
      onClose={onClose}
    >
      {stored?.value.attached && <p>{say('relations.attachedFixed')}</p>}
      <label htmlFor="reference-label">{say('relations.name')}</label>
      <input
        id="reference-label"
        className="bt-input"
        autoComplete="off"
        dir="auto"
        maxLength={200}
        disabled={disabled}
        value={label}
        onChange={(event) => setChange({ ...change, label: event.target.value })}
      />
      <label className="dialog-check">
        <input
          type="checkbox"
          checked={change.required ?? now?.required ?? false}
          disabled={disabled}
          onChange={(event) => setChange({ ...change, required: event.target.checked })}
        />{' '}
        {say('addField.everyRecordMustHaveIt')}
      </label>
      <label className="dialog-check">
        <input
          type="checkbox"
          checked={change.retired ?? now?.retired ?? false}
          disabled={disabled || stored?.value.attached !== undefined}
          onChange={(event) => setChange({ ...change, retired: event.target.checked })}
        />{' '}
        {say('data.retire')} <small>{say('relations.retireAbout')}</small>
      </label>
      <UseList subject="field" name={`${entity}.${field}`} />
      <p>
        <a href={address('data', 'entity', entity)}>{say('relations.openFields')}</a>
      </p>
    </FormDialog>
  );
}
