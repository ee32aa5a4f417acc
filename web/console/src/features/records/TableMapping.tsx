import { useId } from 'react';
import type { TableInfo } from '../../api/client.ts';
import { useWords } from '../../shell/hooks.ts';
import { Select } from '../../ui/Select.tsx';
import type { ColumnMapping } from './useTableImport.ts';

interface TableMappingProps {
  info: TableInfo;
  meaning: ColumnMapping;
  onChange: (change: Partial<ColumnMapping>) => void;
}

/** Which column goes to which field, with some of what stands in it. */
export function TableColumns({ info, meaning, onChange }: TableMappingProps) {
  const say = useWords();
  const labels = useId();
  const set = (at: number, field: string) =>
    onChange({ columns: meaning.columns.map((each, i) => (i === at ? field || null : each === field ? null : each)) });
  return (
    <div className="import-columns">
      <table>
        <thead>
          <tr>
            <th scope="col">{say('importColumn')}</th>
            <th scope="col">{say('importExamples')}</th>
            <th scope="col">{say('importField')}</th>
          </tr>
        </thead>
        <tbody>
          {info.columns.map((column, i) => {
            const field = meaning.columns[i];
            return (
              <tr key={i}>
                <th scope="row" id={`${labels}${i}`}>
                  {column.heading || say('importNameless', i + 1)}
                </th>
                <td className="import-examples">{column.examples.join(' · ')}</td>
                <td>
                  <select
                    aria-label={say('importFieldFor', column.heading || say('importNameless', i + 1))}
                    value={field ?? ''}
                    data-none={!field || undefined}
                    onChange={(event) => set(i, event.target.value)}
                  >
                    <option value="">{say('importSkip')}</option>
                    <option value="id">{say('importRecordNumber')}</option>
                    {info.targets.map((target) => (
                      <option key={target.key} value={target.key}>
                        {target.label}
                        {target.required ? ' *' : ''}
                      </option>
                    ))}
                  </select>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** How lines name their records, and how numbers and days are written. */
export function TableWays({ info, meaning, onChange }: TableMappingProps) {
  const say = useWords();
  const taken = info.targets.filter((target) => meaning.columns.includes(target.key));
  const has = (...types: string[]) => taken.some((target) => types.includes(target.type));
  const unique = taken.filter((target) => target.unique);
  return (
    <div className="import-ways">
      {!meaning.columns.includes('id') && unique.length > 0 && (
        <label>
          {say('importMatch')}
          <Select
            className=""
            value={meaning.match}
            options={[
              ...unique.map((target) => ({ key: target.key, label: say('importMatchBy', target.label) })),
              { key: '', label: say('importMatchNone') },
            ]}
            onChange={(match) => onChange({ match })}
          />
        </label>
      )}
      {has('integer', 'decimal', 'money', 'rating') && (
        <label>
          {say('importDecimalSeparator')}
          <Select
            className=""
            value={meaning.decimalSeparator}
            options={[
              { key: '.', label: '1,234.5' },
              { key: ',', label: '1.234,5' },
            ]}
            onChange={(decimalSeparator) => onChange({ decimalSeparator })}
          />
        </label>
      )}
      {has('date', 'dateTime') && (
        <label>
          {say('importDateOrder')}
          <Select
            className=""
            value={meaning.dateOrder}
            options={[
              { key: 'ymd', label: '2026-05-31' },
              { key: 'dmy', label: '31-05-2026' },
              { key: 'mdy', label: '05/31/2026' },
            ]}
            onChange={(dateOrder) => onChange({ dateOrder })}
          />
        </label>
      )}
    </div>
  );
}
