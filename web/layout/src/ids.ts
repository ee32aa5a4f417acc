import { limits } from './grammar.gen.ts';
import { isItem, walk, type NewNode, type TreeNode } from './tree.ts';

/** An id like a stem that no node of the tree has. */
export function freshId(tree: TreeNode, stem: string, also: string[] = []): string {
  const used = new Set([...walk(tree)].map((node) => node.id).concat(also));
  return unused(stem, used, new Map());
}

/** Makes ids like a stem, each unlike those of the tree and those made before. */
export function freshIds(tree: TreeNode): (stem: string) => string {
  const made: string[] = [];
  return (stem) => {
    const id = freshId(tree, stem, made);
    made.push(id);
    return id;
  };
}

/** Letters, digits, `-` and `_`, beginning with a letter. */
export const isId = (id: string) => id.length <= limits.idLength && /^[A-Za-z][A-Za-z0-9_-]*$/.test(id);

/**
 * The node with an id for every node in it that has none, as the service gives them: after its field or title, a row's and a cell's after
 * the first thing
 * in it, unlike any that are taken by a number in reading order.
 */
export function withIds(node: NewNode, taken: Iterable<string>): TreeNode {
  const used = new Set(taken);
  for (const each of walk(node)) if (each.id) used.add(each.id);
  return filled(node, used, new Map());
}

function filled(node: NewNode, used: Set<string>, next: Map<string, number>): TreeNode {
  const id = node.id ? node.id : unused(stemOf(node), used, next);
  const children = (node.children ?? []).map((child) => filled(child, used, next));
  return { id, kind: node.kind, properties: node.properties ?? {}, children };
}

/** Of many alike each is found where the one before was: what was taken stays so. */
function unused(stem: string, used: Set<string>, next: Map<string, number>): string {
  const short = shortened(stem);
  const like = (number: number) => (number === 1 ? short : `${short}${number}`);
  let number = next.get(short) ?? 1;
  while (used.has(like(number))) number++;
  const id = like(number);
  used.add(id);
  next.set(short, number + 1);
  return id;
}

/** No longer than leaves room for a number. */
const shortened = (stem: string) => stem.replaceAll('/', '-').slice(0, limits.idLength - 6);

function stemOf(node: NewNode): string {
  const { kind, properties = {}, children = [] } = node;
  const word = (name: string) => (typeof properties[name] === 'string' ? properties[name] : '');
  switch (kind) {
    case 'field':
    case 'column':
    case 'variant':
    case 'piece':
    case 'related':
      return word(kind) || kind;
    case 'slot':
      return shortened(`slot-${word('slot')}`);
    case 'action':
    case 'link':
      return slug(properties['label']) ?? kind;
    case 'page':
    case 'section':
      return slug(properties['title']) ?? kind;
    case 'heading':
      return slug(properties['heading']) ?? kind;
    case 'change':
      return shortened(changeStem(word, children));
    case 'row':
    case 'cell': {
      const first = [...walk(node)].find((each) => isItem(each.kind));
      return first ? stemOf(first) + (kind === 'row' ? 'Row' : 'Cell') : kind;
    }
    default:
      return kind;
  }
}

function changeStem(word: (name: string) => string, children: NewNode[]): string {
  const op = word('op');
  if (op === 'insert') return children.length === 0 ? 'insert' : `insert-${stemOf(children[0]!)}`;
  return op === 'set' ? `${word('target')}-${word('property')}` : `${op}-${word('target')}`;
}

/** "Hull & engine" becomes hullEngine; nothing when no letter is left to begin with. Of a text in several languages the first says it. */
function slug(text: unknown): string | undefined {
  const title =
    typeof text === 'string' ? text : typeof text === 'object' && text !== null ? firstText(text as Record<string, string>) : '';
  let made = '';
  let capital = false;
  for (const c of title) {
    if (!/[A-Za-z0-9]/.test(c)) capital = made.length > 0;
    else if (made.length > 0 || /[A-Za-z]/.test(c)) {
      made += made.length === 0 ? c.toLowerCase() : capital ? c.toUpperCase() : c;
      capital = false;
    }
    if (made.length >= 40) break;
  }
  return made || undefined;
}

const firstText = (texts: Record<string, string>) => texts['en'] ?? texts[''] ?? texts[Object.keys(texts).sort()[0] ?? ''] ?? '';
