import { display, type Json, type Values } from '#form';
import { useEffect, useRef, useState } from 'react';
import { useWords } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';
import type { ConflictProps } from '../../runtime/parts.ts';
import '../../styles/conflict.css';

const same = (a: Json | undefined, b: Json | undefined) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Two people saved one record: both values side by side, to choose from where both changed one. */
export function Conflict({ store, before, theirs, onDone, onCancel }: ConflictProps) {
  const say = useWords();
  const section = useRef<HTMLElement>(null);
  useEffect(() => section.current?.focus(), []);
  const people = usePeople();
  const mine = store.changes();
  const fields = Object.keys(mine).filter(
    (field) =>
      !same((before.values as Values)[field], (theirs.values as Values)[field]) && !same(mine[field], (theirs.values as Values)[field]),
  );
  const [taken, setTaken] = useState<Record<string, 'mine' | 'theirs'>>({});
  const { form, host } = store;
  const words = (field: string, value: Json | undefined, title?: { title: string }) => {
    const type = form.fields[field];
    return (type ? display(type, value, form.language, host.timeZone, title) : JSON.stringify(value ?? '')) || say('emptyValue');
  };
  return (
    <section ref={section} tabIndex={-1} className="conflict" role="alertdialog" aria-labelledby="conflict-title">
      <h2 id="conflict-title">{theirs.changedBy ? say('bothChanged', people.name(theirs.changedBy)) : say('changedElsewhere')}</h2>
      <p>{say('bothExplain')}</p>
      {fields.length > 0 && (
        <table className="table">
          <ConflictHead />
          <tbody>
            {fields.map((field) => (
              <tr key={field}>
                <th scope="row">{form.fields[field]?.label ?? field}</th>
                <td data-label={say('before')}>{words(field, (before.values as Values)[field], before.references[field])}</td>
                {(['theirs', 'mine'] as const).map((side) => (
                  <td key={side} data-label={say(side)}>
                    <label className="bt-option">
                      <input
                        type="radio"
                        name={`conflict-${field}`}
                        checked={(taken[field] ?? 'mine') === side}
                        onChange={() => setTaken({ ...taken, [field]: side })}
                      />
                      <span>
                        {side === 'mine'
                          ? words(field, mine[field], store.name(field))
                          : words(field, (theirs.values as Values)[field], theirs.references[field])}
                      </span>
                    </label>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="conflict-acts">
        <button type="button" className="button primary" onClick={() => onDone(fields.filter((field) => taken[field] === 'theirs'))}>
          {say('saveChosen')}
        </button>
        <button type="button" className="button" onClick={onCancel}>
          {say('cancel')}
        </button>
      </p>
    </section>
  );
}

/** What stood there, what the other one wrote, what one wrote oneself. */
function ConflictHead() {
  const say = useWords();
  return (
    <thead>
      <tr>
        <td />
        <th scope="col">{say('before')}</th>
        <th scope="col">{say('theirs')}</th>
        <th scope="col">{say('mine')}</th>
      </tr>
    </thead>
  );
}
