import { properties, holds, single, type PropertyRule } from './grammar.gen.ts';
import type { Kind, NewNode } from './tree.ts';

type NodeShape = Pick<NewNode, 'kind' | 'properties' | 'children'>;

const word = (node: NodeShape, name: string): string | undefined => {
  const value = node.properties?.[name];
  return typeof value === 'string' ? value : undefined;
};

/** Under which name the grammar has a node: a layout has that of its own kind. */
const ruleOf = (node: NodeShape): string => (node.kind === 'layout' ? `layout ${word(node, 'kind') ?? 'full'}` : node.kind);

/** The rule of one property of a node; nothing where its kind has none of that name. */
export const propertyOf = (node: NodeShape, property: string): PropertyRule | undefined => properties[ruleOf(node)]?.[property];

/** What a node's properties and children lack of what the grammar asks; what a value may be only the service decides. */
export function misshapen(node: NodeShape): boolean {
  const rules = properties[ruleOf(node)] ?? {};
  const given = node.properties ?? {};
  if (Object.keys(given).some((name) => !rules[name])) return true;
  if (Object.entries(rules).some(([name, rule]) => rule.required && given[name] === undefined)) return true;
  const children = node.children ?? [];
  if (children.some((child) => !mayHold(node, child.kind))) return true;
  if (isChangeMalformed(node)) return true;
  const places = children.map((child) => singleIn(node, child)).filter((place) => place !== undefined);
  return new Set(places).size < places.length;
}

export const mayHold = (parent: NodeShape, kind: Kind): boolean => (holds[ruleOf(parent)] ?? []).includes(kind);

/** Under which name a child must be alone among its siblings; nothing where it may have any company. */
export function singleIn(parent: NodeShape, child: NodeShape): string | undefined {
  if (child.kind === 'variant') return `variant ${word(child, 'variant') ?? ''}`;
  if (parent.kind === 'change') return 'what it inserts';
  return parent.kind === 'layout' && single[ruleOf(parent)]?.includes(child.kind) ? child.kind : undefined;
}

/** Why a node holds no further child of a shape: a code of the service; nothing where it does. */
export function refusal(parent: NodeShape, added: NodeShape): string | undefined {
  if (!mayHold(parent, added.kind) || (parent.kind === 'change' && word(parent, 'op') !== 'insert')) return 'not-allowed-there';
  const place = singleIn(parent, added);
  return place !== undefined && (parent.children ?? []).some((child) => singleIn(parent, child) === place) ? 'only-one' : undefined;
}

const needed: Record<string, { needs: string[]; may: string[] }> = {
  set: { needs: ['target', 'property'], may: ['value'] },
  remove: { needs: ['target'], may: [] },
  move: { needs: ['target', 'parent'], may: ['at', 'sibling'] },
  insert: { needs: ['parent'], may: ['at', 'sibling'] },
};

/** Whether the node of a change stands for no edit, or for no one edit. */
export function isChangeMalformed(node: NodeShape): boolean {
  if (node.kind !== 'change') return false;
  const op = word(node, 'op') ?? '';
  const { needs, may } = needed[op] ?? needed['insert']!;
  const given = node.properties ?? {};
  if (needs.some((name) => given[name] === undefined)) return true;
  if (Object.keys(given).some((name) => name !== 'op' && name !== 'note' && !needs.includes(name) && !may.includes(name))) return true;
  const at = word(node, 'at');
  if ((given['sibling'] !== undefined) !== (at === 'before' || at === 'after')) return true;
  return ((node.children ?? []).length === 1) !== (op === 'insert');
}
