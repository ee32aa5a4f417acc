import { isItem, walk, type Edit, type TreeNode } from '#layout';

/** What happened to a node since what its form is compared with, and how one says it. */
export interface Mark {
  what: 'added' | 'moved' | 'changed';
  words: string;
}

/**
 * Where to draw what a comparison found: on items, sections, tabs and bands; of rows and cells on what is in them. What is gone has no
 * place, and stands in the list of words.
 */
export function marksOf(tree: TreeNode, edits: Edit[], words: readonly string[]): Map<string, Mark> {
  const marks = new Map<string, Mark>();
  const nodes = new Map([...walk(tree)].map((node) => [node.id, node]));
  const drawn = (node: TreeNode): string[] =>
    isItem(node.kind) || ['section', 'page', 'top', 'bottom'].includes(node.kind) ? [node.id] : node.children.flatMap(drawn);
  edits.forEach((edit, i) => {
    if (edit.op === 'remove') return;
    const id = edit.op === 'insert' ? edit.node.id : edit.node;
    const node = id === undefined ? undefined : nodes.get(id);
    if (!node || node.kind === 'layout' || node.kind === 'body') return;
    // What was moved into something new is not new itself.
    const made = edit.op === 'insert' ? new Set([...walk(edit.node)].map((each) => each.id)) : undefined;
    for (const each of drawn(node).filter((id) => !made || made.has(id))) {
      const before = marks.get(each);
      marks.set(each, {
        what:
          before?.what === 'added' || edit.op === 'insert' ? 'added' : edit.op === 'move' || before?.what === 'moved' ? 'moved' : 'changed',
        words: [before?.words, words.length === edits.length ? words[i] : undefined].filter(Boolean).join('; '),
      });
    }
  });
  return marks;
}
