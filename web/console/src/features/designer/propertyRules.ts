import { useEffect, useState } from 'react';
import type { Edit, TreeNode } from '#layout';
import { answer, api, type FieldInfo, type Finding } from '../../api/client.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';

export interface PropertyRule {
  name: string;
  type:
    | 'text'
    | 'word'
    | 'words'
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

let grammar: Promise<NodeRule[]> | undefined;

/** A rule with what it says in the language of whoever works here. */
const inOwnLanguage = (rule: NodeRule): NodeRule => ({
  ...rule,
  about: sayGrammar('about', rule.about),
  properties: rule.properties.map((each) => ({ ...each, label: sayGrammar('label', each.label), about: sayGrammar('about', each.about) })),
});

/** The grammar of layouts, asked for once: which properties a node has comes from nowhere else. */
export function useGrammar(): NodeRule[] {
  const [rules, setRules] = useState<NodeRule[]>([]);
  useEffect(() => {
    grammar ??= answer(api.GET('/api/grammar')) as unknown as Promise<NodeRule[]>;
    grammar.then(
      (found) => setRules(found.map(inOwnLanguage)),
      () => {
        grammar = undefined;
      },
    );
  }, []);
  return rules;
}

/** What holds while the layout says nothing: the entity's own label and requirement, or the default. */
export function standardOf(rule: PropertyRule, field: FieldInfo | undefined): string | undefined {
  if (!field) return rule.default;
  if (rule.name === 'label') return field.label;
  if (rule.name === 'required') return field.required ? say('properties.alwaysByTheEntity') : say('properties.no');
  if (rule.name === 'editor') return field.editors?.[0];
  if (rule.name === 'readOnly') return say('properties.no');
  return rule.default;
}

/** Items that keep a row of their own when a section flows into columns. */
export const isWide = (fields: FieldInfo[]) => (item: TreeNode) =>
  item.kind !== 'field' || ['longText', 'choices'].includes(fields.find((each) => each.key === item.properties['field'])?.type ?? '');
