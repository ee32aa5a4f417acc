import { sayGrammar } from '../../shell/configurator/texts.ts';

/** Who gets which layout of an entity, and while what holds. */
export interface Rule {
  entity: string;
  /** The kind of layout it gives; the full form without. */
  form?: string | undefined;
  layout: string;
  roles?: string[] | undefined;
  when?: string | undefined;
}

/** The kinds of layout a rule can give. */
export const kinds = () => ['full', 'short', 'list', 'card', 'print'].map((key) => ({ key, label: sayGrammar('word', key) }));
