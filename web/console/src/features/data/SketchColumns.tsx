import type { EntitySummary, TableSketch } from '../../api/client.ts';
import { fieldTypes } from '../../shell/configurator/fieldTypes.ts';
import { say } from '../../shell/configurator/texts.ts';
import { Select } from '../../ui/Select.tsx';
import type { ColumnWish } from './useTableSketch.ts';

/** The types a column can have: a reference is named with what it points at, files are stored one by one. */
const types = Object.entries(fieldTypes).filter(([key]) => !['reference', 'image', 'file'].includes(key));

type Column = TableSketch['columns'][number];

interface ColumnProps {
  column: Column;
  wish: Partial<ColumnWish> | undefined;
  entities: EntitySummary[];
  onChange: (some: Partial<ColumnWish>) => void;
}

interface SketchColumnProps extends ColumnProps {
  /** Whether there are lines that tell something. */
  told: boolean;
}

/** Each column of a table with the field it becomes, and why; everything can be said otherwise. */
export function SketchColumns({
  sketch,
  wishes,
  entities,
  onChange,
}: {
  sketch: TableSketch;
  wishes: readonly Partial<ColumnWish>[];
  entities: EntitySummary[];
  onChange: (at: number, some: Partial<ColumnWish>) => void;
}) {
  return (
    <div className="table-frame">
      <table className="table sketch">
        <thead>
          <tr>
            <th scope="col">{say('data.taken')}</th>
            <th scope="col">{say('data.column')}</th>
            <th scope="col">{say('data.field')}</th>
            <th scope="col">{say('data.type')}</th>
            <th scope="col">{say('data.required')}</th>
            <th scope="col">{say('data.unique')}</th>
            <th scope="col">{say('data.why')}</th>
          </tr>
        </thead>
        <tbody>
          {sketch.columns.map((column, i) => (
            <SketchColumn
              key={`${i} ${column.heading}`}
              column={column}
              wish={wishes[i]}
              entities={entities}
              told={sketch.records > 0}
              onChange={(some) => onChange(i, some)}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function SketchColumn({ column, wish, entities, told, onChange }: SketchColumnProps) {
  const left = wish?.left ?? column.left;
  const name = column.heading || column.label;
  const check = (label: string, checked: boolean, change: (on: boolean) => void, disabled = false) => (
    <input
      type="checkbox"
      aria-label={`${name}: ${label}`}
      checked={checked}
      disabled={disabled}
      onChange={(event) => change(event.target.checked)}
    />
  );
  return (
    <tr data-left={left ? '' : undefined}>
      <td data-label={say('data.taken')}>{check(say('data.taken'), !left, (on) => onChange({ left: !on }))}</td>
      <td data-label={say('data.column')}>
        <b>{name}</b>
        <small>{column.examples.join(' · ')}</small>
      </td>
      <td data-label={say('data.field')}>
        <input
          className="bt-input"
          aria-label={`${name}: ${say('data.field')}`}
          maxLength={100}
          value={wish?.label ?? column.label}
          disabled={left}
          onChange={(event) => onChange({ label: event.target.value })}
        />
      </td>
      <td data-label={say('data.type')}>{!left && <TypeChoice column={column} wish={wish} entities={entities} onChange={onChange} />}</td>
      <td data-label={say('data.required')}>
        {check(say('data.required'), wish?.required ?? column.required, (required) => onChange({ required }), left)}
      </td>
      <td data-label={say('data.unique')}>
        {check(say('data.unique'), wish?.unique ?? column.unique, (unique) => onChange({ unique }), left)}
      </td>
      <td data-label={say('data.why')} className="sketch-why">
        {!left && <Why column={column} told={told} />}
        {!left && (column.type === 'choice' || column.type === 'choices') && (
          <input
            className="bt-input"
            aria-label={`${name}: ${say('data.choices')}`}
            placeholder={say('data.choices')}
            defaultValue={wish?.choices?.join(', ') ?? ''}
            onBlur={(event) => onChange({ choices: event.target.value.split(',').flatMap((each) => each.trim() || []) })}
          />
        )}
      </td>
    </tr>
  );
}

/** The type, or the entity a reference points at, as one choice. */
function TypeChoice({ column, wish, entities, onChange }: ColumnProps) {
  const type = wish?.type ?? column.type;
  const value = type === 'reference' ? `reference:${wish?.target ?? column.target ?? ''}` : type;
  return (
    <Select
      label={`${column.heading || column.label}: ${say('data.type')}`}
      value={value}
      options={[
        ...types.map(([key, name]) => ({ key, label: say(name) })),
        ...entities.map((entity) => ({ key: `reference:${entity.key}`, label: say('data.referenceTo', entity.label) })),
      ]}
      onChange={(chosen) => {
        const [next, target] = chosen.split(':');
        onChange({ type: next!, target: target ?? null });
      }}
    />
  );
}

/** What speaks for the type, what it would offer, and which cells do not fit. */
function Why({ column, told }: { column: Column; told: boolean }) {
  return (
    <>
      {told && column.reason}
      {column.unit && ` ${say('data.unit', column.unit)}`}
      {column.choices.length > 0 && <small>{column.choices.join(' · ')}</small>}
      {column.doubtful > 0 && (
        <details className="sketch-doubts">
          <summary>{say('data.doubtful', column.doubtful)}</summary>
          <ul>
            {column.doubts.map((doubt) => (
              <li key={doubt.line}>
                <b>{say('data.line', doubt.line)}</b> {doubt.message}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
