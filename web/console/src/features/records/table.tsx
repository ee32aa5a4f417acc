import { display, type Column, type ResolvedForm, type Values } from '#form';
import type { RecordInfo } from '../../api/client.ts';

/** How wide the columns of a list are against each other. */
export const ColumnWidths = ({ columns }: { columns: readonly Column[] }) =>
  columns.map((column) => <col key={column.id} style={column.units ? { width: `${(column.units / 12) * 100}%` } : undefined} />);

/** What stands in a cell of a list. */
export function cellText(list: ResolvedForm, column: Column, record: RecordInfo, timeZone: string): string {
  const type = list.fields[column.field];
  return type ? display(type, (record.values as Values)[column.field], list.language, timeZone, record.references[column.field]) : '';
}
