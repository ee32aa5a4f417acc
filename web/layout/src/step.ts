import { isAlone, isBand, placeAt } from './placement.ts';
import type { Facts } from './rooms.ts';
import { find, isItem, parentOf, type Edit, type TreeNode } from './tree.ts';

/** One step with Alt and an arrow: along the row, or to the row before or after. */
export function step(tree: TreeNode, id: string, direction: 'up' | 'down' | 'left' | 'right', facts: Facts): Edit[] {
  const node = find(tree, id);
  const parent = node && parentOf(tree, id);
  if (!node || !parent) return [];
  const back = direction === 'up' || direction === 'left';
  const beside = (of: TreeNode, child: string) => of.children[of.children.findIndex((each) => each.id === child) + (back ? -1 : 1)];
  const past = (child: string, of: TreeNode, sibling: TreeNode): Edit => ({
    op: 'move',
    node: child,
    parent: of.id,
    at: back ? { before: sibling.id } : { after: sibling.id },
  });
  if (node.kind === 'page' || node.kind === 'section' || node.kind === 'row') {
    const sibling = beside(parent, id);
    if (sibling) return [past(id, parent, sibling)];
    const holder = parentOf(tree, parent.id);
    const next = holder && node.kind !== 'page' ? beside(holder, parent.id) : undefined;
    return next && next.kind === parent.kind ? [{ op: 'move', node: id, parent: next.id, at: back ? 'last' : 'first' }] : [];
  }
  if (node.kind === 'column') {
    const sibling = direction === 'left' || direction === 'right' ? beside(parent, id) : undefined;
    return sibling?.kind === 'column' ? [past(id, parent, sibling)] : [];
  }
  if (!isItem(node.kind)) return [];
  if (isBand(parent.kind)) {
    const sibling = direction === 'left' || direction === 'right' ? beside(parent, id) : undefined;
    return sibling ? [past(id, parent, sibling)] : [];
  }
  const row = parentOf(tree, parent.id)!;
  if (direction === 'left' || direction === 'right') {
    const cell = beside(row, parent.id);
    return cell ? [past(parent.id, row, cell)] : [];
  }
  const stacked = beside(parent, id);
  if (stacked) return [past(id, parent, stacked)];
  if (isAlone({ node: id }, row)) return step(tree, row.id, direction, facts);
  return placeAt(tree, { node: id }, { target: row.id, edge: back ? 'above' : 'below' }, facts)?.edits ?? [];
}
