import { useState } from 'react';
import type { EntitySummary, TableSketch } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { inUtf8 } from '../../shell/inUtf8.ts';
import { address, navigate } from '../../shell/location.ts';
import { may } from '../../shell/session.ts';
import { NoticeBox } from '../../ui/Notice.tsx';
import { Select } from '../../ui/Select.tsx';
import { showMade } from './madeBar.ts';
import { SketchColumns } from './SketchColumns.tsx';
import { useTableSketch, type Refusal, type TableSketchState } from './useTableSketch.ts';

/** Where a table becomes an entity: the table first, then what each column is, then everything in one act. */
export function TablePage({ entities }: { entities: EntitySummary[] }) {
  usePageTitle(say('data.bringTable'));
  const sketching = useTableSketch();
  const { wish, sketch, refusal } = sketching;
  return (
    <>
      <header className="page-head">
        <h1>{say('data.bringTable')}</h1>
        <a className="button" href={address('data')}>
          {say('data.toData')}
        </a>
      </header>
      <Source begun={wish !== undefined} onTable={sketching.begin} />
      {refusal && <Refused refusal={refusal} />}
      {wish && sketch && (
        <>
          <Names sketching={sketching} sketch={sketch} />
          <SketchColumns sketch={sketch} wishes={wish.columns} entities={entities} onChange={sketching.changeColumn} />
          <Acts sketching={sketching} sketch={sketch} />
        </>
      )}
    </>
  );
}

/** A cell of a table (RFC 4180). */
const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;

/** A file dropped or chosen, text pasted, or the names of fields where there is no table. */
function Source({ begun, onTable }: { begun: boolean; onTable: (name: string, text: string) => void }) {
  const [over, setOver] = useState(false);
  const [pasted, setPasted] = useState('');
  const take = async (file: File | undefined) => {
    if (!file) return;
    const { table } = await inUtf8(file);
    onTable(file.name, await table.text());
  };
  return (
    <div
      className="table-source"
      data-over={over ? '' : undefined}
      data-begun={begun ? '' : undefined}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void take(event.dataTransfer.files[0]);
      }}
    >
      <label className="button">
        {say(begun ? 'data.otherFile' : 'data.chooseFile')}
        <input
          type="file"
          accept=".csv,.tsv,.txt,text/csv,text/tab-separated-values"
          onChange={(event) => void take(event.target.files?.[0])}
        />
      </label>
      <span>{say('data.orDrop')}</span>
      {!begun && (
        <textarea
          className="bt-input"
          rows={5}
          aria-label={say('data.paste')}
          placeholder={say('data.paste')}
          value={pasted}
          onChange={(event) => {
            setPasted(event.target.value);
            // With a second line there is something to look at.
            if (/\n./.test(event.target.value)) onTable(say('data.recordsName'), event.target.value);
          }}
        />
      )}
      {!begun && <FieldNames onTable={onTable} />}
    </div>
  );
}

const orders = { ymd: 'data.orderYmd', dmy: 'data.orderDmy', mdy: 'data.orderMdy' } as const;

/** What the records are called. */
function Names({ sketching: { wish, change }, sketch }: { sketching: TableSketchState; sketch: TableSketch }) {
  const text = (name: 'label' | 'plural' | 'display', label: string, value: string) => (
    <label>
      {label}
      <input
        className="bt-input"
        maxLength={100}
        value={wish?.[name] ?? value}
        onChange={(event) => change({ [name]: event.target.value })}
      />
    </label>
  );
  return (
    <div className="sketch-names">
      {text('label', say('data.one'), sketch.label)}
      {text('plural', say('data.several'), sketch.plural)}
      {text('display', say('data.shownAs'), sketch.display)}
      {sketch.records > 0 && <Notation sketch={sketch} change={change} />}
    </div>
  );
}

/** How the table writes days and numbers. */
const Notation = ({ sketch, change }: { sketch: TableSketch; change: TableSketchState['change'] }) => (
  <>
    <label>
      {say('data.days')}
      <Select
        value={sketch.dateOrder as keyof typeof orders}
        options={Object.entries(orders).map(([key, name]) => ({ key: key as keyof typeof orders, label: say(name) }))}
        onChange={(dateOrder) => change({ dateOrder })}
      />
    </label>
    <label>
      {say('data.numbers')}
      <Select
        value={sketch.decimalSeparator}
        options={[
          { key: '.', label: '1,234.5' },
          { key: ',', label: '1.234,5' },
        ]}
        onChange={(decimalSeparator) => change({ decimalSeparator })}
      />
    </label>
  </>
);

/** All of it, or as drafts only. */
function Acts({ sketching: { wish, change, make, busy, refusal }, sketch }: { sketching: TableSketchState; sketch: TableSketch }) {
  const session = useSession();
  const blocked = busy || (sketch.doubtful > 0 && !wish?.emptyDoubtful);
  const publishes = may(session, 'publish') && may(session, 'write-records');
  const run = async (publish: boolean) => {
    const made = await make(publish);
    if (!made) return;
    navigate(...(publish ? (['records', made.entity] as const) : (['layouts'] as const)));
    if (publish) showMade(wish?.plural ?? sketch.plural, made);
  };
  return (
    <div className="sketch-acts">
      {sketch.doubtful > 0 && (
        <label className="check-line">
          <input
            type="checkbox"
            checked={wish?.emptyDoubtful ?? false}
            onChange={(event) => change({ emptyDoubtful: event.target.checked })}
          />
          {say('data.emptyDoubtful', sketch.doubtful)}
        </label>
      )}
      {publishes && (
        <button type="button" className="button primary" disabled={blocked} onClick={() => void run(true)}>
          {say(busy ? 'data.making' : 'data.make', sketch.plural, sketch.records)}
        </button>
      )}
      <button type="button" className="button" disabled={blocked} onClick={() => void run(false)}>
        {say('data.asDrafts')}
      </button>
      {busy && <progress aria-label={say('data.making')} />}
      <p>{say(refusal ? 'data.nothingMade' : 'data.about')}</p>
    </div>
  );
}

const Refused = ({ refusal }: { refusal: Refusal }) => (
  <NoticeBox tone="bad">
    {refusal.text}
    {refusal.lines.length > 0 && (
      <ul>
        {refusal.lines.map((each) => (
          <li key={`${each.line} ${each.message}`}>
            <b>{say('data.line', Number(each.line))}</b> {each.message}
          </li>
        ))}
      </ul>
    )}
  </NoticeBox>
);

/** Where there is no table: the names of the fields, one a line. */
function FieldNames({ onTable }: { onTable: (name: string, text: string) => void }) {
  const [names, setNames] = useState('');
  const headings = names.split('\n').flatMap((name) => name.trim() || []);
  return (
    <details className="table-names">
      <summary>{say('data.withoutTable')}</summary>
      <textarea
        className="bt-input"
        rows={6}
        aria-label={say('data.fieldNames')}
        placeholder={say('data.fieldNames')}
        value={names}
        onChange={(event) => setNames(event.target.value)}
      />
      <button
        type="button"
        className="button"
        disabled={headings.length === 0}
        onClick={() => onTable(say('data.recordsName'), headings.map(quoted).join(','))}
      >
        {say('data.beginWithFields', headings.length)}
      </button>
    </details>
  );
}
