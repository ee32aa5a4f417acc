import { limits } from './grammar.gen.ts';
import { ancestorOf, find, parentOf, type Edit, type TreeNode } from './tree.ts';

/** The cell whose width an item has, which is its own only while it stands alone in it. */
export function cellOf(tree: TreeNode, item: string): TreeNode | undefined {
  const cell = parentOf(tree, item);
  return cell?.kind === 'cell' && cell.children.length === 1 ? cell : undefined;
}

/**
 * How cells share a row's units: written spans stand; the others share what is left evenly, the first ones taking what does not divide,
 * each at least one.
 */
export function share(written: readonly (number | undefined)[]): number[] {
  const sharing = written.filter((span) => span === undefined).length;
  const left = Math.max(limits.units - written.reduce<number>((sum, span) => sum + (span ?? 0), 0), sharing);
  let seen = 0;
  return written.map((span) => span ?? Math.floor(left / sharing) + (seen++ < left % sharing ? 1 : 0));
}

const written = (cell: TreeNode) => (typeof cell.properties['span'] === 'number' ? cell.properties['span'] : undefined);

/** The units each cell of a row takes. */
export const unitsOf = (row: TreeNode): number[] => share(row.children.map(written));

/** The most units a cell can take without pushing another out of the row. */
export function mostUnits(row: TreeNode, cell: TreeNode): number {
  const others = row.children.filter((each) => each.id !== cell.id);
  return Math.max(1, limits.units - others.reduce((sum, each) => sum + (written(each) ?? 1), 0));
}

/** One unit more or less for each of the items, as far as their rows allow. */
export function widen(tree: TreeNode, items: string[], by: 1 | -1): Edit[] {
  return items.flatMap((item): Edit[] => {
    const column = find(tree, item);
    if (column?.kind === 'column') {
      const all = tree.children.filter((child) => child.kind === 'column').length;
      const units = Number(column.properties['units'] ?? Math.max(1, Math.round(limits.units / all)));
      return units + by < 1 || units + by > limits.units ? [] : [{ op: 'set', node: item, property: 'units', value: units + by }];
    }
    const cell = cellOf(tree, item);
    const row = cell && ancestorOf(tree, cell.id, 'row');
    if (!row) return [];
    const now = unitsOf(row)[row.children.indexOf(cell)]!;
    const next = Math.max(1, Math.min(mostUnits(row, cell), now + by));
    return next === now && cell.properties['span'] !== undefined ? [] : [{ op: 'set', node: cell.id, property: 'span', value: next }];
  });
}
