import type { LocalText } from '../../shell/localTexts.ts';

/** An entity's document as its file has it, as far as it is changed here; the rest is kept as it is. */
export interface EntityFile {
  kind: 'entity';
  key: string;
  label: LocalText;
  plural: LocalText;
  display: string;
  /** Whether it is put away. */
  archived?: boolean | undefined;
  /** The table its records are in, where that is not ours. */
  attached?: { database: string; table: string } | undefined;
  fields: FieldFile[];
}

export interface FieldFile {
  key: string;
  label: LocalText;
  help?: LocalText | undefined;
  type: string;
  required?: boolean | undefined;
  unique?: boolean | undefined;
  target?: string | undefined;
  choices?: string | undefined;
  unit?: string | undefined;
  default?: string | undefined;
  min?: number | undefined;
  max?: number | undefined;
  maxLength?: number | undefined;
  scale?: number | undefined;
  pattern?: string | undefined;
  /** The shared pattern it takes, by its key. */
  uses?: string | undefined;
  /** The roles that read it, and those that change it; everybody who may at all, where it says nothing. */
  read?: string[] | undefined;
  write?: string[] | undefined;
  whenHidden?: 'clear' | undefined;
  retired?: boolean | undefined;
}

/** A field with some of it replaced; what says nothing is not there. */
const changed = (field: FieldFile, more: Partial<FieldFile>): FieldFile =>
  Object.fromEntries(
    Object.entries({ ...field, ...more }).filter(([, each]) => each !== undefined && each !== false),
  ) as unknown as FieldFile;

/** An entity with some of its fields changed, each as it is told for that field. */
export const withFields = (entity: EntityFile, keys: readonly string[], more: (field: FieldFile) => Partial<FieldFile>): EntityFile => ({
  ...entity,
  fields: entity.fields.map((field) => (keys.includes(field.key) ? changed(field, more(field)) : field)),
});

/** An entity with a field moved before or behind another one. */
export function withMoved(entity: EntityFile, key: string, to: string): EntityFile {
  const from = entity.fields.findIndex((field) => field.key === key);
  const at = entity.fields.findIndex((field) => field.key === to);
  if (from < 0 || at < 0 || from === at) return entity;
  return { ...entity, fields: entity.fields.toSpliced(from, 1).toSpliced(at, 0, entity.fields[from]!) };
}

/** What a role may do with a field. */
export type FieldRight = 'write' | 'read' | 'none';

const reads = ({ read }: FieldFile, role: string) => !read || read.includes(role);
const writes = (field: FieldFile, role: string) => reads(field, role) && (!field.write || field.write.includes(role));

export const rightOf = (field: FieldFile, role: string): FieldRight =>
  writes(field, role) ? 'write' : reads(field, role) ? 'read' : 'none';

/** What a field says once a role may do something else with it; of what everybody may nothing is said. */
export function withRight(field: FieldFile, role: string, right: FieldRight, roles: readonly string[]): Partial<FieldFile> {
  const may = (wanted: readonly FieldRight[]) => roles.filter((each) => wanted.includes(each === role ? right : rightOf(field, each)));
  const [readers, writers] = [may(['write', 'read']), may(['write'])];
  return {
    read: readers.length === roles.length ? undefined : readers,
    write: writers.length === readers.length ? undefined : writers,
  };
}

/** What says nothing about values of another type. */
const ofOneType = ['unique', 'target', 'choices', 'unit', 'default', 'min', 'max', 'maxLength', 'scale', 'pattern', 'uses'] as const;

/** What a field says once it has values of another type; a reference points at `target`, a choice is one of `list`. */
export const withType = (field: FieldFile, type: string, target: string | undefined, list: string | undefined): Partial<FieldFile> =>
  type === field.type
    ? {}
    : {
        ...Object.fromEntries(ofOneType.map((each) => [each, undefined])),
        type,
        ...(type === 'reference' ? { target } : {}),
        ...(type === 'choice' || type === 'choices' ? { choices: list } : {}),
      };
