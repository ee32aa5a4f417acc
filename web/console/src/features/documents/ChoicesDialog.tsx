import { useEffect, useRef, useState, type RefObject } from 'react';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { answer, api } from '../../api/client.ts';
import { say, spoken, type TextKey } from '../../shell/configurator/texts.ts';
import '../../pages.css';

interface Row {
  key: string | null;
  labels: Record<string, string>;
  retired: boolean;
}

type ChoiceList = Awaited<ReturnType<typeof readList>>;

const readList = (key: string) => answer(api.GET('/api/choice-lists/{key}', { params: { path: { key } } }));

/** What stands for every language is the first one's until it says something else. */
const rowsOf = (list: ChoiceList, languages: string[]): Row[] =>
  list.choices.map((choice) => ({
    key: choice.key ?? null,
    labels: {
      ...(choice.labels[''] === undefined ? {} : { [languages[0]!]: choice.labels[''] }),
      ...Object.fromEntries(Object.entries(choice.labels).filter(([tag]) => tag !== '')),
    },
    retired: choice.retired,
  }));

const nameOfLanguage = (tag: string) => new Intl.DisplayNames([spoken()], { type: 'language' }).of(tag) ?? tag;

/** The choices of a list: in order, each labelled in every language, retired where records may hold it. */
export function ChoicesDialog({ list, languages, onClose }: { list: string; languages: string[]; onClose: (changed: boolean) => void }) {
  const [rows, setRows] = useState<Row[]>([]);
  const [known, setKnown] = useState<ChoiceList>();
  const [problem, setProblem] = useState<string>();
  const last = useRef<HTMLInputElement>(null);
  useEffect(() => {
    readList(list).then(
      (found) => {
        setKnown(found);
        setRows(rowsOf(found, languages));
      },
      (error: Error) => setProblem(error.message),
    );
  }, [list, languages]);
  const add = () => {
    setRows([...rows, { key: null, labels: {}, retired: false }]);
    requestAnimationFrame(() => last.current?.focus());
  };
  const save = async () => {
    const body = { revision: Number(known!.revision), choices: rows };
    await answer(api.PUT('/api/choice-lists/{key}', { params: { path: { key: list } }, body }));
    return true;
  };
  const uses = known?.uses ?? [];
  return (
    <FormDialog
      title={say('choicesDialog.choicesOf', known?.label ?? list)}
      className="wide"
      submit={say('choicesDialog.saveChoices')}
      incomplete={!known}
      problem={problem}
      onSubmit={save}
      onClose={(changed) => onClose(changed ?? false)}
    >
      {uses.length > 0 && <p>{say('choicesDialog.usedBy', uses.length, `${uses.slice(0, 3).join(' ')}${uses.length > 3 ? ' …' : ''}`)}</p>}
      <table className="choices">
        <ChoicesHead languages={languages} />
        <tbody>
          {rows.map((row, i) => (
            <ChoiceRow
              key={row.key ?? `new${i}`}
              rows={rows}
              at={i}
              languages={languages}
              first={i === rows.length - 1 ? last : undefined}
              onChange={setRows}
            />
          ))}
        </tbody>
      </table>
      <button type="button" className="button" onClick={add}>
        {say('choicesDialog.addAChoice')}
      </button>
    </FormDialog>
  );
}

interface ChoiceRowProps {
  rows: Row[];
  at: number;
  languages: string[];
  /** Where the label in the first language can be found. */
  first: RefObject<HTMLInputElement | null> | undefined;
  onChange: (rows: Row[]) => void;
}

function ChoiceRow({ rows, at, languages, first, onChange }: ChoiceRowProps) {
  const row = rows[at]!;
  const replace = (next: Row) => onChange(rows.with(at, next));
  const move = (by: number) => onChange(rows.toSpliced(at, 1).toSpliced(at + by, 0, row));
  const act = (sign: string, label: TextKey, disabled: boolean, run: () => void) => (
    <button type="button" className="button quiet" aria-label={say(label, at + 1)} disabled={disabled} onClick={run}>
      {sign}
    </button>
  );
  return (
    <tr>
      {languages.map((tag, j) => (
        <td key={tag}>
          <input
            ref={j === 0 ? first : undefined}
            className="bt-input"
            aria-label={say('choicesDialog.choiceIn', at + 1, nameOfLanguage(tag))}
            lang={tag}
            dir="auto"
            value={row.labels[tag] ?? ''}
            onChange={(event) => replace({ ...row, labels: { ...row.labels, [tag]: event.target.value } })}
          />
        </td>
      ))}
      <td>
        <input
          type="checkbox"
          aria-label={say('choicesDialog.choiceIsRetired', at + 1)}
          title={say('choicesDialog.recordsKeepItItIs')}
          checked={row.retired}
          onChange={(event) => replace({ ...row, retired: event.target.checked })}
        />
      </td>
      <td className="choice-acts">
        {act('↑', 'choicesDialog.moveChoiceUp', at === 0, () => move(-1))}
        {act('↓', 'choicesDialog.moveChoiceDown', at === rows.length - 1, () => move(1))}
        {row.key === null && act('×', 'choicesDialog.takeChoiceAway', false, () => onChange(rows.toSpliced(at, 1)))}
      </td>
    </tr>
  );
}

/** A column for each language, and what else is said of a choice. */
function ChoicesHead({ languages }: { languages: string[] }) {
  return (
    <thead>
      <tr>
        {languages.map((tag) => (
          <th key={tag} scope="col">
            {nameOfLanguage(tag)}
          </th>
        ))}
        <th scope="col">{say('choicesDialog.retired')}</th>
        <th scope="col">
          <span className="bt-visually-hidden">{say('choicesDialog.order')}</span>
        </th>
      </tr>
    </thead>
  );
}
