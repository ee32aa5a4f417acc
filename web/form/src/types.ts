import type { PatternStep } from './conditions/pattern.ts';

/** A resolved form as the service writes it (docs/api.md). What is at its default is left out. */
export interface ResolvedForm {
  layout: string;
  entity: string;
  mode: Mode;
  language: string;
  title: string;
  width: 'full' | 'limited';
  marks: 'required' | 'optional' | 'none';
  top?: Band;
  bottom?: Band;
  arrangement: 'stack' | 'tabs';
  pages: Page[];
  fields: Record<string, FieldType>;
}

export type Mode = 'create' | 'edit' | 'view';

export interface Band {
  id: string;
  text: string;
  empty: string;
  tone: 'plain' | 'quiet' | 'strong';
}

/** Always, or while a condition holds; absent means never (for visible: always). */
export type Decision = true | { when: Compiled; reads: string[] };

/** A compiled condition: literals stand for themselves, whole numbers are {int}, the rest are arrays with the operation first. */
export type Compiled = null | boolean | number | string | { int: string } | { double: string } | [string, ...Compiled[]];

interface Shown {
  id: string;
  visible?: Decision;
  /** Why users would not see it; only when designing. */
  ghost?: string;
}

export interface Page extends Shown {
  title: string;
  sections: Section[];
}

export interface Section extends Shown {
  title?: string;
  description?: string;
  frame: 'none' | 'rule' | 'outline';
  labels: 'above' | 'beside';
  columns: number;
  collapsible?: boolean;
  rows: Row[];
}

export interface Row {
  id: string;
  cells: Cell[];
}

export interface Cell {
  id: string;
  span: number;
  shares?: boolean;
  items: Item[];
}

export type Item = FieldItem | MarkItem;

export interface FieldItem extends Shown {
  kind: 'field';
  field: string;
  label: string;
  help?: string;
  hint?: string;
  editor: string;
  lines: number;
  required?: Decision;
  readOnly?: Decision;
  emphasis?: boolean;
}

export interface MarkItem extends Shown {
  kind: 'heading' | 'text' | 'divider' | 'spacer';
  content: string;
}

export interface FieldType {
  type: string;
  label: string;
  required?: boolean;
  unique?: boolean;
  target?: string;
  unit?: string;
  default?: string;
  maxLength?: number;
  min?: number;
  max?: number;
  scale?: number;
  /** Compiled; the text must match it whole. */
  pattern?: PatternStep[];
  patternText?: string;
  patternMessage?: string;
  choices?: { key: string; label: string; retired?: boolean }[];
}

/** A record's value as JSON has it. */
export type Json = null | boolean | number | string | string[];
export type Values = Record<string, Json>;

export interface RecordName {
  id: number;
  title: string;
}

/** What a form needs of the world around it; given by the page that draws it. */
export interface Surroundings {
  userId: string;
  roles: string[];
  timeZone: string;
  now: () => Date;
  lookUp: (entity: string, text: string) => Promise<RecordName[]>;
  upload: (file: File) => Promise<string>;
  fileAddress: (value: string) => string;
}
