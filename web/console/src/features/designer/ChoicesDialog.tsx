import { useEffect, useRef, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { say, spoken } from '../../shell/configuring/texts.ts';

interface Row {
  key: string | null;
  labels: Record<string, string>;
  retired: boolean;
}

/** The choices of a list: in order, each labelled in every language, retired where records may hold it. */
export function ChoicesDialog({ list, languages, onClose }: { list: string; languages: string[]; onClose: (changed: boolean) => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const changed = useRef(false);
  const [rows, setRows] = useState<Row[]>([]);
  const [known, setKnown] = useState<{ label: string; revision: number; uses: readonly string[]; keys: Set<string | null> }>();
  const [problem, setProblem] = useState<string>();
  const last = useRef<HTMLInputElement>(null);
  useEffect(() => {
    dialog.current?.showModal();
    answer(api.GET('/api/choice-lists/{key}', { params: { path: { key: list } } })).then(
      (found) => {
        setKnown({
          label: found.label,
          revision: Number(found.revision),
          uses: found.uses,
          keys: new Set(found.choices.map((choice) => choice.key)),
        });
        // What stands for every language is the first one's until it says something else.
        setRows(
          found.choices.map((choice) => ({
            key: choice.key,
            labels: {
              ...(choice.labels[''] === undefined ? {} : { [languages[0]!]: choice.labels[''] }),
              ...Object.fromEntries(Object.entries(choice.labels).filter(([tag]) => tag !== '')),
            },
            retired: choice.retired,
          })),
        );
      },
      (error: Error) => setProblem(error.message),
    );
  }, [list, languages]);
  const replaceRow = (at: number, row: Row) => setRows(rows.map((each, i) => (i === at ? row : each)));
  const move = (at: number, by: number) => {
    const next = [...rows];
    const [row] = next.splice(at, 1);
    next.splice(at + by, 0, row!);
    setRows(next);
  };
  const add = () => {
    setRows([...rows, { key: null, labels: {}, retired: false }]);
    requestAnimationFrame(() => last.current?.focus());
  };
  const save = async () => {
    try {
      await answer(
        api.PUT('/api/choice-lists/{key}', { params: { path: { key: list } }, body: { revision: known!.revision, choices: rows } }),
      );
      changed.current = true;
      dialog.current?.close();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const name = (tag: string) => new Intl.DisplayNames([spoken()], { type: 'language' }).of(tag) ?? tag;
  return (
    <dialog ref={dialog} className="dialog wide" aria-labelledby="choices-title" onClose={() => onClose(changed.current)}>
      <form
        method="dialog"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <h2 id="choices-title">{say('choicesDialog.choicesOf', known?.label ?? list)}</h2>
        {known && known.uses.length > 0 && (
          <p>{say('choicesDialog.usedBy', known.uses.length, `${known.uses.slice(0, 3).join(' ')}${known.uses.length > 3 ? ' …' : ''}`)}</p>
        )}
        {problem && (
          <div className="dialog-problem" role="alert">
            {problem}
          </div>
        )}
        <table className="choices">
          <thead>
            <tr>
              {languages.map((tag) => (
                <th key={tag} scope="col">
                  {name(tag)}
                </th>
              ))}
              <th scope="col">{say('choicesDialog.retired')}</th>
              <th scope="col">
                <span className="bt-visually-hidden">{say('choicesDialog.order')}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={row.key ?? `new${i}`}>
                {languages.map((tag, j) => (
                  <td key={tag}>
                    <input
                      ref={i === rows.length - 1 && j === 0 ? last : undefined}
                      className="tool-input"
                      aria-label={say('choicesDialog.choiceIn', i + 1, name(tag))}
                      lang={tag}
                      dir="auto"
                      value={row.labels[tag] ?? ''}
                      onChange={(event) => replaceRow(i, { ...row, labels: { ...row.labels, [tag]: event.target.value } })}
                    />
                  </td>
                ))}
                <td>
                  <input
                    type="checkbox"
                    aria-label={say('choicesDialog.choiceIsRetired', i + 1)}
                    title={say('choicesDialog.recordsKeepItItIs')}
                    checked={row.retired}
                    onChange={(event) => replaceRow(i, { ...row, retired: event.target.checked })}
                  />
                </td>
                <td className="choice-acts">
                  <button
                    type="button"
                    className="tool"
                    aria-label={say('choicesDialog.moveChoiceUp', i + 1)}
                    disabled={i === 0}
                    onClick={() => move(i, -1)}
                  >
                    ↑
                  </button>
                  <button
                    type="button"
                    className="tool"
                    aria-label={say('choicesDialog.moveChoiceDown', i + 1)}
                    disabled={i === rows.length - 1}
                    onClick={() => move(i, 1)}
                  >
                    ↓
                  </button>
                  {row.key === null && (
                    <button
                      type="button"
                      className="tool"
                      aria-label={say('choicesDialog.takeChoiceAway', i + 1)}
                      onClick={() => setRows(rows.filter((_, at) => at !== i))}
                    >
                      ×
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <button type="button" className="tool" onClick={add}>
          {say('choicesDialog.addAChoice')}
        </button>
        <div className="dialog-acts">
          <button type="button" className="button" onClick={() => dialog.current?.close()}>
            {say('common.cancel')}
          </button>
          <button type="submit" className="button primary" disabled={!known}>
            {say('choicesDialog.saveChoices')}
          </button>
        </div>
      </form>
    </dialog>
  );
}
