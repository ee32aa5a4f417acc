import type { PatternStep } from '../patterns/pattern.ts';
import type { Theme } from './theme.ts';

/** A resolved form as the service writes it (docs/api.md). What is at its default is left out. */
export interface ResolvedForm extends Content {
  layout: string;
  entity: string;
  kind: 'full' | 'short' | 'card' | 'list' | 'print';
  mode: Mode;
  language: string;
  title: string;
  width: 'full' | 'limited';
  density: 'roomy' | 'dense';
  marks: 'required' | 'optional' | 'none';
  /** What is different in ranges of the form's own width, in rem; what is the same as at the base is only named. */
  variants?: Variant[];
  fields: Record<string, FieldType>;
  /** Steps through references that conditions and expressions take, such as berth.zone, with the type of the field they lead to. */
  steps?: Record<string, string>;
  styles?: Record<string, { ink?: string; paper?: string; strong?: boolean }>;
  theme?: Theme;
}

/** What a form shows, at its base or in one range of widths. */
export interface Content {
  top?: Band;
  bottom?: Band;
  start?: Side;
  end?: Side;
  arrangement: Arrangement;
  guarded?: boolean;
  pages: Page[];
  /** Of a card: the field whose picture it shows. */
  picture?: string;
  /** Of a list. */
  columns?: Column[];
  sort?: string[];
  filters?: string[];
}

/** A column of a list; its share of the 12 units where one is given. */
export interface Column {
  id: string;
  field: string;
  label: string;
  units?: number;
  align: 'start' | 'center' | 'end';
}

export type Arrangement = 'stack' | 'tabs' | 'steps' | 'accordion';

/** Stands for the part of the base that has this id. */
export interface SamePart {
  same: string;
}

/** A content in which any part can be a Same; see contentOf. */
export interface Variant extends Omit<Content, 'pages'> {
  name: string;
  from: number;
  below?: number;
  pages: unknown[];
}

export type Mode = 'create' | 'edit' | 'view';

export interface Band {
  id: string;
  text: string;
  empty: string;
  tone: 'plain' | 'quiet' | 'strong';
  /** An SVG path on a raster of 24. */
  icon?: string;
  picture?: string;
  items?: Item[];
}

export interface Side extends NodeBase {
  share: number;
  sections: Section[];
}

/** Always, or while a condition holds; absent means never (for visible: always). */
export type Decision = true | { when: CompiledCondition; reads: string[] };

/** A compiled condition: literals stand for themselves, whole numbers are {int}, the rest are arrays with the operation first. */
export type CompiledCondition = null | boolean | number | string | { int: string } | { double: string } | [string, ...CompiledCondition[]];

interface NodeBase {
  id: string;
  visible?: Decision;
  /** Why users would not see it; only when designing. */
  ghost?: string;
}

export interface Page extends NodeBase {
  title: string;
  /** An SVG path on a raster of 24. */
  icon?: string;
  sections: Section[];
}

export interface Section extends NodeBase {
  title?: string;
  description?: string;
  frame: 'none' | 'rule' | 'outline';
  tint?: 'quiet' | 'warm' | 'cool' | 'alert';
  gap?: 'tight' | 'wide';
  above?: 'none' | 'wide';
  labels: Labels;
  labelAlign?: 'end';
  /** In characters. */
  labelWidth?: number;
  tabOrder?: 'columns';
  columns: number;
  collapsible?: boolean;
  collapsed?: boolean;
  style?: string;
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
  align?: 'center' | 'end';
  items: Item[];
}

export type Labels = 'above' | 'beside' | 'inside';

export type Item = FieldItem | MarkItem | ImageItem | LinkItem | ActionItem | RelatedItem | PanelItem;

export interface FieldItem extends NodeBase {
  kind: 'field';
  field: string;
  label: string;
  help?: string;
  hint?: string;
  prefix?: string;
  editor: string;
  lines: number;
  required?: Decision;
  readOnly?: Decision;
  emphasis?: boolean;
  labels?: Labels;
  punctuation?: 'colon';
  stretches?: boolean;
  spellCheck?: boolean;
  style?: string;
  default?: string;
  /** The layout's own limits beside those of the field. */
  min?: number;
  max?: number;
  step?: number;
  maxLength?: number;
  pattern?: PatternStep[];
  patternMessage?: string;
  display?: string;
  filterBy?: Record<string, string>;
  copies?: Record<string, string>;
  creates?: boolean;
}

export interface MarkItem extends NodeBase {
  kind: 'heading' | 'text' | 'divider' | 'spacer';
  content: string;
  style?: string;
  /** A formatted text taken apart: record values in braces are still in it. */
  blocks?: { kind: 'paragraph' | 'list' | 'numbered'; lines: TextRun[][] }[];
}

export interface TextRun {
  kind?: 'strong' | 'emphasis' | 'link';
  text: string;
  to?: string;
}

export interface ImageItem extends NodeBase {
  kind: 'image';
  address: string;
  alt: string;
  lines?: number;
}

export interface LinkItem extends NodeBase {
  kind: 'link';
  address: string;
  label: string;
}

export interface ActionItem extends NodeBase {
  kind: 'action';
  does: 'open' | 'set' | 'begin';
  label: string;
  /** An SVG path on a raster of 24. */
  icon?: string;
  address?: string;
  values?: Record<string, CompiledCondition>;
  begins?: string;
  through?: string;
  side?: 'end';
  weight?: 'main' | 'quiet';
}

export interface RelatedItem extends NodeBase {
  kind: 'related';
  entity: string;
  through: string;
  label: string;
  shows?: string[];
  totals?: string[];
  sort?: string[];
  /** The field that keeps the order users give the rows. */
  order?: string;
  as: 'grid' | 'cards';
  readOnly?: Decision;
  /** The fields of the other entity that are shown or added up. */
  fields: Record<string, FieldType>;
}

/** A stored record as a row of related records has it. */
export interface RecordRow {
  id: number;
  version: number;
  values: Values;
  references: Record<string, RecordName>;
}

/** What became of related records, as the service takes it. */
export interface RelatedSave {
  entity: string;
  through: string;
  created: Values[];
  changed: { id: number; version: number; values: Values }[];
  removed: { id: number; version: number }[];
}

export interface PanelItem extends NodeBase {
  kind: 'panel';
  arrangement: Arrangement;
  guarded?: boolean;
  pages: Page[];
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
export interface FormHost {
  userId: string;
  roles: string[];
  timeZone: string;
  now: () => Date;
  /** Records by the text that names them: those that fulfil a condition, named by another text, or those of given numbers. */
  lookUp: (entity: string, text: string, how?: { filter?: string; display?: string; ids?: number[] }) => Promise<RecordName[]>;
  /** The numbers of records picked lately, newest first; and that one was picked. */
  recent?: (entity: string) => number[];
  picked?: (entity: string, id: number) => void;
  /** Opens a record beside the form; makes one with the short form, and answers with its name, or nothing when it was given up. */
  open?: (entity: string, id: number) => void;
  create?: (entity: string) => Promise<RecordName | undefined>;
  /** Records that point at one. */
  readRelated?: (entity: string, through: string, id: number, sort: string[]) => Promise<RecordRow[]>;
  upload: (file: File) => Promise<string>;
  fileAddress: (value: string) => string;
  /** The values of a record that a condition steps to; without it such conditions stay closed. */
  read?: (entity: string, id: number) => Promise<Values>;
  /** Begins a record of another entity that points at this one. */
  begin?: (entity: string, through: string, values: Values, record: number | undefined) => void;
}
