import type { EntitySummary } from '../../api/client.ts';
import { fieldTypes } from '../../shell/configurator/fieldTypes.ts';
import { say } from '../../shell/configurator/texts.ts';
import { textIn, withText, type LocalText } from '../../shell/localTexts.ts';
import { rightOf, withRight, withType, type FieldFile, type FieldRight } from './entityFile.ts';

/** What of a field stands in a cell of the sheet, and what it becomes by it. */
export type FieldCell =
  | { kind: 'fixed'; text: string }
  | { kind: 'text'; value: string; code?: boolean; among?: readonly string[]; set: (text: string, field: FieldFile) => Partial<FieldFile> }
  | { kind: 'number'; value: number | undefined; usual?: string; set: (value: number | undefined, field: FieldFile) => Partial<FieldFile> }
  | { kind: 'check'; on: boolean; set: (on: boolean, field: FieldFile) => Partial<FieldFile> }
  | {
      kind: 'choice';
      value: string;
      options: { key: string; label: string }[];
      set: (value: string, field: FieldFile) => Partial<FieldFile>;
    };

/** A column of the sheet; it has no cell for a field it says nothing of. */
export interface FieldColumn {
  key: string;
  label: string;
  of: (field: FieldFile) => FieldCell | undefined;
}

/** What of the fields one looks at. */
export const sheetViews = ['basics', 'values', 'languages', 'rights'] as const;

export type SheetView = (typeof sheetViews)[number];

/** What the sheet is made with. */
export interface SheetContext {
  language: string;
  languages: readonly string[];
  entities: readonly Pick<EntitySummary, 'key' | 'label' | 'plural'>[];
  roles: readonly { key: string; label: string }[];
  /** The choice lists there are. */
  lists: readonly { key: string; label: string }[];
  /** The patterns fields share. */
  patterns: readonly { key: string; label: string }[];
  /** The units other fields have. */
  units: readonly string[];
  /** Whether records have values of it: then its type stays as it is. */
  isPublished: (field: FieldFile) => boolean;
}

const numbers = new Set(['integer', 'decimal', 'money', 'rating']);
const written = new Set(['text', 'longText', 'email', 'phone', 'url']);
const isLine = (type: string) => written.has(type) && type !== 'longText';
/** The types that can be told apart by their value. */
const tellApart = new Set(['text', 'email', 'phone', 'url', 'integer']);

/** The columns of a view, behind the field's label and key. */
export function columnsOf(view: SheetView, around: SheetContext): FieldColumn[] {
  if (view === 'languages') return around.languages.map((tag) => labelColumn(tag, around));
  if (view === 'rights') return [...around.roles.map((role) => rightColumn(role, around)), hiddenColumn];
  return view === 'values' ? valueColumns(around) : basicColumns(around);
}

export const keyColumn: FieldColumn = {
  key: 'key',
  get label() {
    return say('data.key');
  },
  of: ({ key }) => ({ kind: 'fixed', text: key }),
};

const textOf = (of: LocalText | undefined, next: string, language: string, { languages }: SheetContext): LocalText | undefined =>
  withText(of, next, language, [...languages]) ?? undefined;

/** What the field is called in a language; the key where it says nothing. */
const labelColumn = (language: string, around: SheetContext): FieldColumn => ({
  key: `label ${language}`,
  label: language,
  of: ({ label }) => ({
    kind: 'text',
    value:
      typeof label === 'object' && !Array.isArray(label) ? (label[language] ?? '') : language === around.languages[0] ? String(label) : '',
    set: (text, field) => ({ label: textOf(field.label, text, language, around) ?? field.key }),
  }),
});

function basicColumns(around: SheetContext): FieldColumn[] {
  return [
    keyColumn,
    typeColumn(around),
    checkColumn('required', say('data.required')),
    checkColumn('unique', say('data.unique'), ({ type }) => tellApart.has(type)),
    {
      key: 'help',
      label: say('data.help'),
      of: ({ help }) => ({
        kind: 'text',
        value: textIn(help, around.language),
        set: (text, field) => ({ help: textOf(field.help, text, around.language, around) }),
      }),
    },
  ];
}

/** What kind of value it has: chosen until records have values of it. */
const typeColumn = (around: SheetContext): FieldColumn => ({
  key: 'type',
  label: say('data.type'),
  of: (field) => {
    if (around.isPublished(field)) return { kind: 'fixed', text: typeOf(field, around) };
    const offered = Object.entries(fieldTypes).filter(
      ([type]) => (type !== 'reference' || around.entities.length > 0) && (!isChoice(type) || around.lists.length > 0),
    );
    return {
      kind: 'choice',
      value: field.type,
      options: offered.map(([key, name]) => ({ key, label: say(name) })),
      set: (type, of) => withType(of, type, around.entities[0]?.key, around.lists[0]?.key),
    };
  },
});

const isChoice = (type: string) => type === 'choice' || type === 'choices';

/** What a reference points at: chosen until records have values of it. */
const targetColumn = (around: SheetContext): FieldColumn => ({
  key: 'target',
  label: say('data.pointsAt'),
  of: (field) => {
    if (field.type !== 'reference') return undefined;
    if (around.isPublished(field))
      return { kind: 'fixed', text: around.entities.find((each) => each.key === field.target)?.plural ?? field.target ?? '' };
    return {
      kind: 'choice',
      value: field.target ?? '',
      options: around.entities.map(({ key, plural }) => ({ key, label: plural })),
      set: (target) => ({ target }),
    };
  },
});

function valueColumns(around: SheetContext): FieldColumn[] {
  const { lists, patterns } = around;
  const word = (name: 'default' | 'unit' | 'pattern', label: string, suits: (type: string) => boolean): FieldColumn => ({
    key: name,
    label,
    of: (field) =>
      suits(field.type)
        ? {
            kind: 'text',
            value: field[name] ?? '',
            ...(name === 'pattern' ? { code: true } : {}),
            ...(name === 'unit' ? { among: around.units } : {}),
            set: (text) => ({ [name]: text || undefined }),
          }
        : undefined,
  });
  const number = (name: 'min' | 'max' | 'maxLength' | 'scale', label: string, suits: (type: string) => boolean): FieldColumn => ({
    key: name,
    label,
    of: (field) =>
      suits(field.type)
        ? { kind: 'number', value: field[name], ...(name === 'scale' ? { usual: '2' } : {}), set: (value) => ({ [name]: value }) }
        : undefined,
  });
  return [
    word('default', say('data.default'), (type) => !['image', 'file', 'choices'].includes(type)),
    number('min', say('data.min'), (type) => numbers.has(type)),
    number('max', say('data.max'), (type) => numbers.has(type)),
    number('maxLength', say('data.maxLength'), (type) => written.has(type)),
    number('scale', say('data.scale'), (type) => type === 'decimal'),
    word('unit', say('data.unitOf'), (type) => ['integer', 'decimal'].includes(type)),
    {
      key: 'choices',
      label: say('data.choiceList'),
      of: ({ type, choices = '' }) =>
        isChoice(type) ? { kind: 'choice', value: choices, options: [...lists], set: (list) => ({ choices: list }) } : undefined,
    },
    targetColumn(around),
    word('pattern', say('data.pattern'), isLine),
    {
      key: 'uses',
      label: say('data.sharedPattern'),
      of: ({ type, uses = '' }) =>
        isLine(type) && patterns.length > 0
          ? {
              kind: 'choice',
              value: uses,
              options: [{ key: '', label: say('common.none') }, ...patterns.map(({ key, label }) => ({ key, label }))],
              set: (pattern) => ({ uses: pattern || undefined }),
            }
          : undefined,
    },
  ];
}

/** What a role may do with the field. */
const rightColumn = ({ key: role, label }: { key: string; label: string }, { roles }: SheetContext): FieldColumn => ({
  key: `right ${role}`,
  label,
  of: (field) => ({
    kind: 'choice',
    value: rightOf(field, role),
    options: (['write', 'read', 'none'] as const).map((right) => ({ key: right, label: say(`data.right.${right}`) })),
    set: (right, of) =>
      withRight(
        of,
        role,
        right as FieldRight,
        roles.map((each) => each.key),
      ),
  }),
});

const hiddenColumn: FieldColumn = {
  key: 'whenHidden',
  get label() {
    return say('data.clearHidden');
  },
  of: ({ whenHidden }) => ({ kind: 'check', on: whenHidden === 'clear', set: (on) => ({ whenHidden: on ? 'clear' : undefined }) }),
};

const checkColumn = (name: 'required' | 'unique', label: string, suits: (field: FieldFile) => boolean = () => true): FieldColumn => ({
  key: name,
  label,
  of: (field) => (suits(field) ? { kind: 'check', on: field[name] ?? false, set: (on) => ({ [name]: on }) } : undefined),
});

function typeOf({ type, target, choices, unit }: FieldFile, { entities, language }: SheetContext): string {
  const name = type in fieldTypes ? say(fieldTypes[type as keyof typeof fieldTypes]) : type;
  const more = target ? (entities.find((each) => each.key === target)?.label ?? target) : (choices ?? unit);
  return more ? new Intl.ListFormat(language, { type: 'unit', style: 'short' }).format([name, more]) : name;
}
