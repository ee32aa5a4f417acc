import { useEffect, useState } from 'react';
import { pathTo, type Edit, type TreeNode } from '#layout';
import { answer, api, type FieldInfo, type Finding } from '../../api/client.ts';
import { say, sayGrammar, spoken } from '../../shell/configurator/texts.ts';

export interface PropertyRule {
  name: string;
  type:
    | 'text'
    | 'word'
    | 'words'
    | 'samples'
    | 'key'
    | 'pairs'
    | 'address'
    | 'pattern'
    | 'condition'
    | 'flagOrCondition'
    | 'flag'
    | 'number'
    | 'decimal'
    | 'target'
    | 'any';
  group: 'words' | 'place' | 'behaviour' | 'who';
  label: string;
  about: string;
  lines: boolean;
  required: boolean;
  /** Whether it may differ from one width to another. */
  inVariants: boolean;
  /** It names fields of the entity. */
  ofFields: boolean;
  /** It is one of the few that are set first. */
  often: boolean;
  /** The types of fields it says anything of; of all where there are none. */
  types?: string[];
  /** Without a value of its own a node has that of what it stands in. */
  inherits: boolean;
  /** Of several words: none of them means all. */
  allByDefault: boolean;
  min?: number;
  max?: number;
  words?: string[];
  default?: string;
}

export interface NodeRule {
  name: string;
  /** Of layouts, the kind it is the rule of. */
  root?: string;
  about: string;
  properties: PropertyRule[];
}

export interface PropertiesProps {
  /** What is selected: one node, or several of which only what they have in common is shown. */
  nodes: TreeNode[];
  tree: TreeNode;
  fields: FieldInfo[];
  findings: Finding[];
  language: string;
  languages: string[];
  name: string;
  onEdit: (edits: Edit[], label: string) => void;
  /** A text is being typed: what it would change; nothing once it is done with or given up. */
  onTyping: (edits: Edit[] | undefined) => void;
  onRemove: () => void;
  onChoices: (list: string) => void;
  /** The base, while a width's own form is being changed: only what may differ by width is shown. */
  base: TreeNode | undefined;
  children?: React.ReactNode;
}

/** The grammar in the language of whoever works here, once it is known; and while it is asked for. */
let grammar: { language: string; rules?: NodeRule[]; asked: Promise<NodeRule[]> } | undefined;

/** A rule with what it says in the language of whoever works here. */
const inOwnLanguage = (rule: NodeRule): NodeRule => ({
  ...rule,
  about: sayGrammar('about', rule.about),
  properties: rule.properties.map((each) => ({ ...each, label: sayGrammar('label', each.label), about: sayGrammar('about', each.about) })),
});

function readGrammar(): NonNullable<typeof grammar> {
  const language = spoken();
  if (grammar?.language === language) return grammar;
  const asked = (answer(api.GET('/api/grammar')) as unknown as Promise<NodeRule[]>).then((found) => found.map(inOwnLanguage));
  const reading: NonNullable<typeof grammar> = { language, asked };
  asked.then(
    (rules) => (reading.rules = rules),
    () => {
      if (grammar === reading) grammar = undefined;
    },
  );
  return (grammar = reading);
}

const noRules: NodeRule[] = [];

/** The grammar of layouts, asked for once: which properties a node has comes from nowhere else. */
export function useGrammar(): NodeRule[] {
  const [rules, setRules] = useState(() => readGrammar().rules ?? noRules);
  useEffect(() => {
    readGrammar().asked.then(setRules, () => undefined);
  }, []);
  return rules;
}

/** What holds while the layout says nothing of a property, and where that comes from; without a place, it is so by itself. */
export interface Standard {
  value: string;
  from?: 'entity' | string;
}

/** The entity's own label and requirement, what stands around has where that is inherited, or the default. */
export function standardOf(
  rule: PropertyRule,
  node: TreeNode,
  field: FieldInfo | undefined,
  { tree, rules, nameOf }: { tree: TreeNode; rules: readonly NodeRule[]; nameOf: (node: TreeNode) => string },
): Standard | undefined {
  if (field && rule.name === 'label') return { value: field.label, from: 'entity' };
  if (field && rule.name === 'required')
    return field.required ? { value: say('properties.alwaysByTheEntity') } : { value: say('properties.no') };
  if (field && rule.name === 'editor') return field.editors?.[0] ? { value: field.editors[0] } : undefined;
  if (field && rule.name === 'readOnly') return { value: say('properties.no') };
  if (rule.default !== undefined || !rule.inherits || node.kind === 'layout')
    return rule.default === undefined ? undefined : { value: rule.default };
  const around = pathTo(tree, node.id).slice(0, -1);
  const holder = around.findLast((each) => each.properties[rule.name] !== undefined) ?? around[0];
  const value =
    holder?.properties[rule.name] ??
    rules.find((each) => each.root === (tree.properties['kind'] ?? 'full'))?.properties.find((each) => each.name === rule.name)?.default;
  return holder && value !== undefined ? { value: String(value), from: nameOf(holder) } : undefined;
}

/** A value that holds by itself, as people say it, with where it comes from. */
export function wordOf(rule: PropertyRule, { value, from }: Standard): string {
  const word = rule.type === 'word' ? sayGrammar('word', value) : value;
  return from && from !== 'entity' ? say('properties.from', word, from) : word;
}

/** Items that keep a row of their own when a section flows into columns. */
export const isWide = (fields: FieldInfo[]) => (item: TreeNode) =>
  item.kind !== 'field' || ['longText', 'choices'].includes(fields.find((each) => each.key === item.properties['field'])?.type ?? '');
