import { isItem, walk, type Kind, type Spot, type TreeNode } from '#layout';
import { textIn } from '../../shell/localTexts.ts';

const nouns: Record<string, string> = {
  full: 'form',
  short: 'short form',
  card: 'card',
  list: 'list',
  print: 'print layout',
  piece: 'piece',
};

/** What a layout of this kind is called. */
export const nounOf = (tree: TreeNode): string => nouns[String(tree.properties['kind'] ?? 'full')] ?? 'form';

/** What a person calls a node. */
export function nameOf(node: TreeNode, labels: Map<string, string>, language: string): string {
  switch (node.kind) {
    case 'field': {
      const key = String(node.properties['field']);
      return textIn(node.properties['label'], language) || (labels.get(key) ?? key);
    }
    case 'heading':
    case 'text':
      return textIn(node.properties[node.kind], language) || node.kind;
    case 'page':
    case 'section':
      return textIn(node.properties['title'], language) || `Untitled ${node.kind === 'page' ? 'tab' : 'section'}`;
    case 'row':
    case 'cell': {
      const [first, second] = [...walk(node)].filter((each) => isItem(each.kind));
      // What holds one thing is called like it.
      return !first
        ? `Empty ${node.kind}`
        : second
          ? `${node.kind === 'row' ? 'Row' : 'Cell'} of ${nameOf(first, labels, language)}`
          : nameOf(first, labels, language);
    }
    case 'column': {
      const key = String(node.properties['column']);
      return textIn(node.properties['label'], language) || (labels.get(key) ?? key);
    }
    case 'layout':
      return nounOf(node)[0]!.toUpperCase() + nounOf(node).slice(1);
    default:
      return (
        textIn(node.properties['label'], language) ||
        String(node.properties[node.kind] ?? '') ||
        { top: 'Top band', bottom: 'Bottom band', start: 'Column before', end: 'Column behind', body: 'Body' }[node.kind as 'top'] ||
        node.kind
      );
  }
}

/** The property that says what a node is called, for those that can be named where they stand. */
export function namingProperty(kind: Kind): string | undefined {
  const named: Partial<Record<Kind, string>> = {
    field: 'label',
    column: 'label',
    page: 'title',
    section: 'title',
    heading: 'heading',
    text: 'text',
    link: 'label',
    action: 'label',
    related: 'label',
    top: 'text',
    bottom: 'text',
  };
  return named[kind];
}

/** A word with its article. */
export const a = (word: string) => `${/^[aeiou]/.test(word) ? 'an' : 'a'} ${word}`;

/** A place in words. */
export function describe(place: Spot, nameOf: (id: string) => string): string {
  const target = nameOf(place.target);
  return {
    above: `above ${target}`,
    below: `below ${target}`,
    left: `in a column before ${target}`,
    right: `in a column after ${target}`,
    inside: `inside ${target}`,
  }[place.edge];
}
