import { useState } from 'react';
import type { DatabaseTableInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { address } from '../../shell/location.ts';

interface TableChoiceProps {
  tables: readonly DatabaseTableInfo[];
  /** By their paths. */
  chosen: readonly string[];
  onChoose: (paths: readonly string[]) => void;
}

/** From here on a filter is of use. */
const many = 12;

/** More rows than these are not counted. */
const counted = 1_000_000;

/** The tables and views of a database: those that are no entities yet can be chosen, singly or all that are listed. */
export function TableChoice({ tables, chosen, onChoose }: TableChoiceProps) {
  const [words, setWords] = useState('');
  const shown = tables.filter((each) => each.path.toLowerCase().includes(words.trim().toLowerCase()));
  const free = shown.filter((each) => !each.entity).map((each) => each.path);
  const all = free.length > 0 && free.every((path) => chosen.includes(path));
  const toggle = (path: string) => onChoose(chosen.includes(path) ? chosen.filter((each) => each !== path) : [...chosen, path]);
  const toggleAll = () => onChoose(all ? chosen.filter((each) => !free.includes(each)) : [...new Set([...chosen, ...free])]);
  return (
    <>
      {tables.length > many && (
        <input
          type="search"
          className="bt-input table-filter"
          aria-label={say('databases.find')}
          placeholder={say('databases.find')}
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      )}
      <div className="table-frame">
        <table className="table database-tables">
          <thead>
            <tr>
              <th scope="col">
                <input
                  type="checkbox"
                  aria-label={say('databases.chooseAll')}
                  disabled={free.length === 0}
                  checked={all}
                  ref={(box) => {
                    if (box) box.indeterminate = !all && free.some((path) => chosen.includes(path));
                  }}
                  onChange={toggleAll}
                />
              </th>
              <th scope="col">{say('databases.table')}</th>
              <th scope="col" data-number>
                {say('databases.rows')}
              </th>
              <th scope="col" data-number>
                {say('databases.columns')}
              </th>
              <th scope="col">{say('databases.key')}</th>
              <th scope="col">{say('layoutsPage.state')}</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((table) => (
              <TableLine key={table.path} table={table} chosen={chosen.includes(table.path)} onToggle={() => toggle(table.path)} />
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

function TableLine({ table, chosen, onToggle }: { table: DatabaseTableInfo; chosen: boolean; onToggle: () => void }) {
  const id = `table-${table.path}`;
  return (
    <tr>
      <td>{!table.entity && <input id={id} type="checkbox" checked={chosen} onChange={onToggle} />}</td>
      <td data-label={say('databases.table')}>
        {table.entity ? table.path : <label htmlFor={id}>{table.path}</label>}
        {table.comment && <p className="table-comment">{table.comment}</p>}
      </td>
      <td data-label={say('databases.rows')} data-number>
        {table.isView ? '' : table.rows > counted ? say('databases.many') : String(table.rows)}
      </td>
      <td data-label={say('databases.columns')} data-number>
        {table.columns}
      </td>
      <td data-label={say('databases.key')}>{table.key.join(', ')}</td>
      <td data-label={say('layoutsPage.state')}>
        {table.entity ? <a href={address('data', 'entity', table.entity)}>{say('databases.isEntity', table.entity)}</a> : table.readOnly}
      </td>
    </tr>
  );
}
