import type { LocalText } from '../../shell/localTexts.ts';

/** An entity's document as its file has it, as far as it is changed here; the rest is kept as it is. */
export interface EntityFile {
  kind: 'entity';
  key: string;
  label: LocalText;
  plural: LocalText;
  display: string;
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
  retired?: boolean | undefined;
}

/** A field with some of it replaced; what says nothing is not there. */
export const withField = (entity: EntityFile, at: number, more: Partial<FieldFile>): EntityFile => ({
  ...entity,
  fields: entity.fields.with(
    at,
    Object.fromEntries(
      Object.entries({ ...entity.fields[at], ...more }).filter(([, each]) => each !== undefined && each !== false),
    ) as unknown as FieldFile,
  ),
});
