import { isItem, parentOf, unitsOf, walk, type TreeNode } from '#layout';

/** The steps of a first job, in the order they are offered; any may be done first. */
export const steps = ['place', 'pair', 'widen', 'try', 'publish'] as const;

export type Step = (typeof steps)[number];

/** What a job is told by: the form, whether it is tried, and the revision that is out. */
export interface JobState {
  tree: TreeNode;
  trying: boolean;
  published: number | null;
}

/** Which steps were done between two moments. */
export function stepsDone(before: JobState, now: JobState): Set<Step> {
  const [places, rows, widths] = [placesOf(before.tree), companiesOf(before.tree), widthsOf(before.tree)];
  const done = new Set<Step>();
  if ([...placesOf(now.tree)].some(([id, place]) => places.get(id) !== place)) done.add('place');
  if ([...companiesOf(now.tree)].some(([id, others]) => others.some((other) => !(rows.get(id) ?? []).includes(other)))) done.add('pair');
  if ([...widthsOf(now.tree)].some(([cells, units]) => widths.has(cells) && widths.get(cells) !== units)) done.add('widen');
  if (now.trying) done.add('try');
  if (now.published !== before.published) done.add('publish');
  return done;
}

const itemsOf = (tree: TreeNode) => [...walk(tree)].filter((node) => isItem(node.kind));

const rowsOf = (tree: TreeNode) => [...walk(tree)].filter((node) => node.kind === 'row');

/** Where each item stands: in which cell, behind which. */
const placesOf = (tree: TreeNode) =>
  new Map(
    itemsOf(tree).map(({ id }) => {
      const cell = parentOf(tree, id)!;
      const at = cell.children.findIndex((each) => each.id === id);
      return [id, `${cell.id} ${cell.children[at - 1]?.id ?? ''}`];
    }),
  );

/** Who stands beside each item: in another cell of its row. */
const companiesOf = (tree: TreeNode) =>
  new Map(
    rowsOf(tree).flatMap((row) =>
      row.children.flatMap((cell) =>
        cell.children.map((item): [string, string[]] => [
          item.id,
          row.children.filter((other) => other.id !== cell.id).flatMap((other) => other.children.map((each) => each.id)),
        ]),
      ),
    ),
  );

/** The units of the cells of each row, by which cells those are: a row that was given one more is another. */
const widthsOf = (tree: TreeNode) =>
  new Map(rowsOf(tree).map((row) => [row.children.map((cell) => cell.id).join(' '), unitsOf(row).join(' ')]));
