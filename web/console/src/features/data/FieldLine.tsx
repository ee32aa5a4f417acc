import { memo, useId, useState } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { textIn } from '../../shell/localTexts.ts';
import { Select } from '../../ui/Select.tsx';
import { UseList } from '../documents/index.ts';
import type { FieldFile } from './entityFile.ts';
import type { FieldCell, FieldColumn } from './fieldColumns.ts';

interface FieldLineProps {
  entity: string;
  field: FieldFile;
  columns: readonly FieldColumn[];
  language: string;
  disabled: boolean;
  selected: boolean;
  /** The same from one drawing to the next, so that of many lines those are drawn anew that are other ones. */
  acts: LineActs;
}

/** What is done with the field of a line, by its key. */
export interface LineActs {
  select: (key: string, on: boolean) => void;
  /** Something of the field becomes another: with `all`, of every field that is selected with it. */
  change: (key: string, more: (field: FieldFile) => Partial<FieldFile>, all: boolean) => void;
  /** The field is dropped on the line of another. */
  move: (key: string, to: string) => void;
  /** It goes a line up or down. */
  step: (key: string, by: 1 | -1) => void;
}

/** A field as a line one changes where it stands: kept when one leaves the place. */
export const FieldLine = memo(function FieldLine({ entity, field, columns, language, disabled, selected, acts }: FieldLineProps) {
  const [asked, setAsked] = useState(false);
  const [over, setOver] = useState(false);
  const label = textIn(field.label, language) || field.key;
  return (
    <tr
      data-left={field.retired ? '' : undefined}
      data-over={over ? '' : undefined}
      data-field={field.key}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(dragged)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false);
        const key = event.dataTransfer.getData(dragged);
        if (key) acts.move(key, field.key);
      }}
    >
      <td className="sheet-hold">
        <LineHandle field={field} label={label} disabled={disabled} selected={selected} acts={acts} />
      </td>
      {columns.map((column) => {
        const cell = column.of(field);
        return (
          <td
            key={column.key}
            data-label={column.label}
            data-column={column.key}
            data-value={cell?.kind === 'choice' ? cell.value : undefined}
          >
            <Cell
              cell={cell}
              name={`${label}: ${column.label}`}
              disabled={disabled}
              onChange={(more, all) => acts.change(field.key, more, all)}
            />
          </td>
        );
      })}
      <td>
        <span className="acts">
          <button type="button" className="button quiet" aria-expanded={asked} onClick={() => setAsked(!asked)}>
            {say('data.whereUsed')}
          </button>
          <button
            type="button"
            className="button quiet"
            disabled={disabled}
            onClick={() => acts.change(field.key, () => ({ retired: !field.retired }), false)}
          >
            {say(field.retired ? 'layoutsPage.bringBack' : 'data.retire')}
          </button>
        </span>
        {asked && <UseList subject="field" name={`${entity}.${field.key}`} />}
      </td>
    </tr>
  );
});

/** What a line is told by while it is dragged; no other page has it. */
const dragged = 'application/x-bright-tier-field';

interface LineHandleProps extends Pick<FieldLineProps, 'field' | 'disabled' | 'selected' | 'acts'> {
  label: string;
}

/** Selects a line, and takes hold of it: dragged, or moved by Alt and an arrow. */
function LineHandle({ field, label, disabled, selected, acts }: LineHandleProps) {
  return (
    <>
      <input
        type="checkbox"
        aria-label={say('data.selectField', label)}
        checked={selected}
        disabled={disabled}
        onChange={(event) => acts.select(field.key, event.target.checked)}
      />
      <button
        type="button"
        className="sheet-handle"
        aria-label={say('data.moveField', label)}
        title={say('data.moveField', label)}
        disabled={disabled}
        draggable={!disabled}
        onDragStart={(event) => {
          event.dataTransfer.setData(dragged, field.key);
          event.dataTransfer.effectAllowed = 'move';
        }}
        onKeyDown={(event) => {
          if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
          event.preventDefault();
          event.stopPropagation();
          acts.step(field.key, event.key === 'ArrowUp' ? -1 : 1);
        }}
      >
        <span aria-hidden="true">⠿</span>
      </button>
    </>
  );
}

interface CellProps {
  cell: FieldCell | undefined;
  name: string;
  disabled: boolean;
  onChange: (more: (field: FieldFile) => Partial<FieldFile>, all: boolean) => void;
}

/** One thing of a field, changed where it stands. */
function Cell({ cell, name, disabled, onChange }: CellProps) {
  const list = useId();
  if (!cell) return <span className="sheet-none" aria-hidden="true" />;
  if (cell.kind === 'fixed') return cell.text;
  if (cell.kind === 'check')
    return (
      <input
        type="checkbox"
        aria-label={name}
        checked={cell.on}
        disabled={disabled}
        onChange={({ target: { checked } }) => onChange((field) => cell.set(checked, field), true)}
      />
    );
  if (cell.kind === 'choice')
    return (
      <Select
        label={name}
        value={cell.value}
        options={cell.options}
        disabled={disabled}
        onChange={(value) => onChange((field) => cell.set(value, field), true)}
      />
    );
  const shown = cell.value === undefined ? '' : String(cell.value);
  const take = (text: string) => {
    if (text === shown) return;
    if (cell.kind === 'text') onChange((field) => cell.set(text, field), false);
    else onChange((field) => cell.set(text === '' ? undefined : Number(text), field), false);
  };
  const among = cell.kind === 'text' ? cell.among : undefined;
  const input = (
    <input
      key={shown}
      list={among && list}
      className={cell.kind === 'text' && cell.code ? 'bt-input code' : 'bt-input'}
      type={cell.kind === 'number' ? 'number' : 'text'}
      step="any"
      placeholder={cell.kind === 'number' ? cell.usual : undefined}
      aria-label={name}
      maxLength={400}
      dir="auto"
      defaultValue={shown}
      disabled={disabled}
      onBlur={(event) => take(event.target.value.trim())}
    />
  );
  if (!among) return input;
  return (
    <>
      {input}
      <datalist id={list}>
        {among.map((each) => (
          <option key={each} value={each} />
        ))}
      </datalist>
    </>
  );
}
