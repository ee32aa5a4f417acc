import { useEffect, useRef, useState } from 'react';
import { answer, api, type EntitySummary } from '../../api/client.ts';
import { say, type TextKey } from '../../shell/configuring/texts.ts';

const types: [string, TextKey][] = [
  ['text', 'fieldType.text'],
  ['longText', 'fieldType.longText'],
  ['integer', 'fieldType.integer'],
  ['decimal', 'fieldType.decimal'],
  ['money', 'fieldType.money'],
  ['boolean', 'fieldType.boolean'],
  ['date', 'fieldType.date'],
  ['time', 'fieldType.time'],
  ['dateTime', 'fieldType.dateTime'],
  ['choice', 'fieldType.choice'],
  ['choices', 'fieldType.choices'],
  ['reference', 'fieldType.reference'],
  ['email', 'fieldType.email'],
  ['phone', 'fieldType.phone'],
  ['url', 'fieldType.url'],
  ['image', 'fieldType.image'],
  ['file', 'fieldType.file'],
  ['rating', 'fieldType.rating'],
];

/** Adds a field to the entity: it is in the draft at once, and gets its place in the records' table when it is published. */
export function AddField({ entity, onClose }: { entity: string; onClose: (made: string | undefined) => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [label, setLabel] = useState('');
  const [type, setType] = useState('text');
  const [choices, setChoices] = useState('');
  const [target, setTarget] = useState('');
  const [required, setRequired] = useState(false);
  const [targets, setTargets] = useState<EntitySummary[]>([]);
  const [problem, setProblem] = useState<string>();
  const created = useRef<string>(undefined);
  useEffect(() => {
    dialog.current?.showModal();
    answer(api.GET('/api/entities')).then(
      (found) => {
        setTargets(found);
        setTarget(found[0]?.key ?? '');
      },
      (error: Error) => setProblem(error.message),
    );
  }, []);
  const choosing = type === 'choice' || type === 'choices';
  const add = async () => {
    try {
      const body = {
        label,
        type,
        required,
        target: type === 'reference' ? target : null,
        choiceList: null,
        choices: choosing ? choices.split('\n') : null,
      };
      created.current = (await answer(api.POST('/api/entities/{key}/fields', { params: { path: { key: entity } }, body }))).key;
      dialog.current?.close();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <dialog ref={dialog} className="dialog" aria-labelledby="add-field-title" onClose={() => onClose(created.current)}>
      <form
        method="dialog"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <h2 id="add-field-title">{say('addField.addAField')}</h2>
        <p>{say('addField.itGoesWhereYouPut')}</p>
        {problem && (
          <div className="dialog-problem" role="alert">
            {problem}
          </div>
        )}
        <label htmlFor="add-label">{say('addField.label')}</label>
        <input
          id="add-label"
          className="tool-input"
          autoFocus
          autoComplete="off"
          dir="auto"
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
        <label htmlFor="add-type">{say('addField.type')}</label>
        <select id="add-type" className="tool-input" value={type} onChange={(event) => setType(event.target.value)}>
          {types.map(([key, name]) => (
            <option key={key} value={key}>
              {say(name)}
            </option>
          ))}
        </select>
        {choosing && (
          <>
            <label htmlFor="add-choices">{say('addField.choicesOnePerLine')}</label>
            <textarea
              id="add-choices"
              className="tool-input"
              rows={4}
              value={choices}
              onChange={(event) => setChoices(event.target.value)}
            />
          </>
        )}
        {type === 'reference' && (
          <>
            <label htmlFor="add-target">{say('common.recordsOf')}</label>
            <select id="add-target" className="tool-input" value={target} onChange={(event) => setTarget(event.target.value)}>
              {targets.map((each) => (
                <option key={each.key} value={each.key}>
                  {each.plural}
                </option>
              ))}
            </select>
          </>
        )}
        <label className="dialog-check">
          <input type="checkbox" checked={required} onChange={(event) => setRequired(event.target.checked)} />{' '}
          {say('addField.everyRecordMustHaveIt')}
        </label>
        <div className="dialog-acts">
          <button type="button" className="button" onClick={() => dialog.current?.close()}>
            {say('common.cancel')}
          </button>
          <button type="submit" className="button primary" disabled={!label.trim()}>
            {say('addField.addField')}
          </button>
        </div>
      </form>
    </dialog>
  );
}
