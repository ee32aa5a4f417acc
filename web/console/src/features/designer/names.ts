import { isItem, walk, type Kind, type Spot, type TreeNode } from '#layout';
import { textIn } from '../../shell/localTexts.ts';
import { say, type TextKey } from '../../shell/configurator/texts.ts';

const nouns: Record<string, TextKey> = {
  full: 'layoutNoun.full',
  short: 'layoutNoun.short',
  card: 'layoutNoun.card',
  list: 'layoutNoun.list',
  print: 'layoutNoun.print',
  piece: 'layoutNoun.piece',
};

/** What a layout of this kind is called. */
export const nounOf = (tree: TreeNode): string => say(nouns[String(tree.properties['kind'] ?? 'full')] ?? 'layoutNoun.full');

/**
 * A name where there is little room for it: the words of it that fit, and that there is more.
 * @param most The letters there is room for.
 */
export function briefly(name: string, most: number): string {
  const letters = [...new Intl.Segmenter().segment(name)].map((each) => each.segment);
  if (letters.length <= most) return name;
  const fits = letters.slice(0, most).join('');
  const end = fits.search(/\s\S*$/);
  return `${end > 0 ? fits.slice(0, end) : fits}…`;
}

const kinds: Record<Kind, TextKey> = {
  layout: 'kind.layout',
  slot: 'kind.slot',
  variant: 'kind.variant',
  change: 'kind.change',
  top: 'kind.top',
  bottom: 'kind.bottom',
  start: 'kind.start',
  end: 'kind.end',
  body: 'kind.body',
  page: 'kind.page',
  section: 'kind.section',
  panel: 'kind.panel',
  row: 'kind.row',
  cell: 'kind.cell',
  field: 'kind.field',
  column: 'kind.column',
  heading: 'kind.heading',
  text: 'kind.text',
  image: 'kind.image',
  divider: 'kind.divider',
  spacer: 'kind.spacer',
  link: 'kind.link',
  action: 'kind.action',
  related: 'kind.related',
  piece: 'kind.piece',
};

/** What a kind of part is called. */
export const kindName = (kind: Kind): string => say(kinds[kind]);

/** What a person calls a node. */
export function nameOf(node: TreeNode, labels: Map<string, string>, language: string): string {
  switch (node.kind) {
    case 'field': {
      const key = String(node.properties['field']);
      return textIn(node.properties['label'], language) || (labels.get(key) ?? key);
    }
    case 'heading':
    case 'text':
      return textIn(node.properties[node.kind], language) || kindName(node.kind);
    case 'page':
    case 'section':
      return textIn(node.properties['title'], language) || say(node.kind === 'page' ? 'names.untitledTab' : 'names.untitledSection');
    case 'row':
    case 'cell': {
      const [first, second] = [...walk(node)].filter((each) => isItem(each.kind));
      // What holds one thing is called like it.
      return !first
        ? say(node.kind === 'row' ? 'common.emptyRow' : 'names.emptyCell')
        : second
          ? say(node.kind === 'row' ? 'names.rowOf' : 'names.cellOf', nameOf(first, labels, language))
          : nameOf(first, labels, language);
    }
    case 'column': {
      const key = String(node.properties['column']);
      return textIn(node.properties['label'], language) || (labels.get(key) ?? key);
    }
    case 'layout':
      return nounOf(node)[0]!.toUpperCase() + nounOf(node).slice(1);
    default:
      return textIn(node.properties['label'], language) || String(node.properties[node.kind] ?? '') || kindName(node.kind);
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

/** A place in words. */
export function describe(place: Spot, nameOf: (id: string) => string): string {
  const target = nameOf(place.target);
  const edges = { above: 'place.above', below: 'place.below', left: 'place.left', right: 'place.right', inside: 'place.inside' } as const;
  return say(edges[place.edge], target);
}
