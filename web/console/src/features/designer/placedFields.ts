import { walk, type TreeNode } from '#layout';

/** The fields on a form, each with the node that shows it; a piece brings the fields its slots are bound to. */
export const placedOn = (tree: TreeNode) =>
  new Map(
    [...walk(tree)].flatMap((node): [string, string][] =>
      node.kind === 'field' || node.kind === 'column'
        ? [[String(node.properties[node.kind]), node.id]]
        : node.kind === 'piece'
          ? Object.values((node.properties['slots'] ?? {}) as Record<string, string>).map((field) => [field, node.id])
          : [],
    ),
  );
