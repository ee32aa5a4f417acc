import { useState } from 'react';
import { answer, api, type EntityRelations } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { fieldTypes } from '../../shell/configurator/fieldTypes.ts';
import { say } from '../../shell/configurator/texts.ts';

const none: EntityRelations[] = [];

/** Adds a field to the entity: it is in the draft at once, and gets its place in the records' table when it is published. */
export function AddField({ entity, onClose }: { entity: string; onClose: (made: string | undefined) => void }) {
  const [label, setLabel] = useState('');
  const [type, setType] = useState('text');
  const [choices, setChoices] = useState('');
  const [chosen, setTarget] = useState('');
  const [required, setRequired] = useState(false);
  const { data: targets = none, problem } = useAnswer(['documents', 'relations'], () => answer(api.GET('/api/relations')));
  const target = chosen || (targets[0]?.key ?? '');
  const choosing = type === 'choice' || type === 'choices';
  const add = async () => {
    const body = {
      label,
      type,
      required,
      target: type === 'reference' ? target : null,
      choiceList: null,
      choices: choosing ? choices.split('\n') : null,
    };
    return (await answer(api.POST('/api/entities/{key}/fields', { params: { path: { key: entity } }, body }))).key;
  };
  return (
    <FormDialog
      title={say('addField.addAField')}
      submit={say('addField.addField')}
      incomplete={!label.trim()}
      problem={problem?.message}
      onSubmit={add}
      onClose={onClose}
    >
      <p>{say('addField.itGoesWhereYouPut')}</p>
      <label htmlFor="add-label">{say('addField.label')}</label>
      <input
        id="add-label"
        className="bt-input"
        autoFocus
        autoComplete="off"
        dir="auto"
        value={label}
        onChange={(event) => setLabel(event.target.value)}
      />
      <label htmlFor="add-type">{say('addField.type')}</label>
      <select id="add-type" className="bt-input" value={type} onChange={(event) => setType(event.target.value)}>
        {Object.entries(fieldTypes).map(([key, name]) => (
          <option key={key} value={key}>
            {say(name)}
          </option>
        ))}
      </select>
      {choosing && (
        <>
          <label htmlFor="add-choices">{say('addField.choicesOnePerLine')}</label>
          <textarea id="add-choices" className="bt-input" rows={4} value={choices} onChange={(event) => setChoices(event.target.value)} />
        </>
      )}
      {type === 'reference' && <TargetChoice targets={targets} value={target} onChange={setTarget} />}
      <label className="dialog-check">
        <input type="checkbox" checked={required} onChange={(event) => setRequired(event.target.checked)} />{' '}
        {say('addField.everyRecordMustHaveIt')}
      </label>
    </FormDialog>
  );
}

/** What the field's records are of. */
function TargetChoice({
  targets,
  value,
  onChange,
}: {
  targets: readonly EntityRelations[];
  value: string;
  onChange: (target: string) => void;
}) {
  return (
    <>
      <label htmlFor="add-target">{say('common.recordsOf')}</label>
      <select id="add-target" className="bt-input" value={value} onChange={(event) => onChange(event.target.value)}>
        {targets.map((each) => (
          <option key={each.key} value={each.key}>
            {each.plural}
          </option>
        ))}
      </select>
    </>
  );
}
