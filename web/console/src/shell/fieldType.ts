import type { FieldType } from '#form';
import type { FieldInfo } from '../api/client.ts';

/** A field of an entity as the form package shows its values. */
export const toType = (field: FieldInfo): FieldType => ({
  type: field.type,
  label: field.label,
  ...(field.unit ? { unit: field.unit } : {}),
  scale: field.scale ?? 2,
  choices: (field.choices ?? []).map((choice) => ({ key: choice.key, label: choice.label })),
});
