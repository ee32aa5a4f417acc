import { find, isItem, parentOf, type Edit, type TreeNode } from './tree.ts';

/**
 * What is tidied up when an item leaves: a row that is left empty goes. An empty cell stays, with its units, where others would lose their
 * column by its going: in a section of columns, and before others where spans are written. Cells that share share anew. The core's Removal
 * does the same.
 * @param goingTo the cell it goes to
 */
export function leaving(tree: TreeNode, item: string, goingTo?: string): Edit[] {
  const cell = parentOf(tree, item)!;
  if (cell.kind !== 'cell' || cell.id === goingTo || cell.children.length > 1) return [];
  const row = parentOf(tree, cell.id)!;
  const rest = row.children.filter((each) => each.id !== cell.id);
  if (rest.every((each) => each.children.length === 0 && each.id !== goingTo)) return [{ op: 'remove', node: row.id }];
  const columns = Number(parentOf(tree, row.id)!.properties['columns'] ?? 1);
  const holdsPlace = cell.properties['span'] !== undefined && row.children.at(-1)!.id !== cell.id;
  return columns > 1 || holdsPlace ? [] : [{ op: 'remove', node: cell.id }];
}

/** Takes a node off the layout, and what it leaves empty. */
export function removal(tree: TreeNode, id: string): Edit[] {
  const node = find(tree, id);
  if (!node || node.kind === 'layout' || node.kind === 'body') return [];
  return [{ op: 'remove', node: id }, ...(isItem(node.kind) ? leaving(tree, id) : [])];
}
