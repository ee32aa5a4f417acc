import type { TableImportReport } from '../../api/client.ts';

/** What is wrong, the same things together with all their lines; the first lines first, a hundred things at most. */
export function together(problems: TableImportReport['problems']): { lines: number[]; message: string }[] {
  const byMessage = new Map<string, number[]>();
  for (const { line, message } of problems) byMessage.set(message, [...(byMessage.get(message) ?? []), line]);
  return [...byMessage].slice(0, 100).map(([message, lines]) => ({ message, lines }));
}
