import { useEffect, useRef, useState } from 'react';
import { answer, api, type EntitySummary } from '../../api/client.ts';

const types: [string, string][] = [
  ['text', 'A line of text'],
  ['longText', 'Several lines'],
  ['integer', 'A whole number'],
  ['decimal', 'A number'],
  ['money', 'An amount of money'],
  ['boolean', 'Yes or no'],
  ['date', 'A date'],
  ['time', 'A time'],
  ['dateTime', 'A date and time'],
  ['choice', 'One of several choices'],
  ['choices', 'Any of several choices'],
  ['reference', 'Another record'],
  ['email', 'An e-mail address'],
  ['phone', 'A phone number'],
  ['url', 'A web address'],
  ['image', 'A picture'],
  ['file', 'A file'],
  ['rating', 'A rating'],
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
        <h2 id="add-field-title">Add a field</h2>
        <p>It goes where you put it next, and becomes part of every record when the form is published.</p>
        {problem && (
          <div className="dialog-problem" role="alert">
            {problem}
          </div>
        )}
        <label htmlFor="add-label">Label</label>
        <input
          id="add-label"
          className="tool-input"
          autoFocus
          autoComplete="off"
          dir="auto"
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
        <label htmlFor="add-type">Type</label>
        <select id="add-type" className="tool-input" value={type} onChange={(event) => setType(event.target.value)}>
          {types.map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
        {choosing && (
          <>
            <label htmlFor="add-choices">Choices, one per line</label>
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
            <label htmlFor="add-target">Records of</label>
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
          <input type="checkbox" checked={required} onChange={(event) => setRequired(event.target.checked)} /> Every record must have it
        </label>
        <div className="dialog-acts">
          <button type="button" className="button" onClick={() => dialog.current?.close()}>
            Cancel
          </button>
          <button type="submit" className="button primary" disabled={!label.trim()}>
            Add field
          </button>
        </div>
      </form>
    </dialog>
  );
}
