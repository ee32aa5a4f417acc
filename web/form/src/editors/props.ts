import type { FieldItem, FieldType, Json } from '../types.ts';

/** What every editor is given. Values are the record's own, as JSON has them; null is empty. */
export interface EditorProps {
  item: FieldItem;
  type: FieldType;
  value: Json;
  id: string;
  labelId: string;
  required: boolean;
  readOnly: boolean;
  invalid: boolean;
  describedBy: string | undefined;
  onChange: (value: Json) => void;
}

/** Attributes every native control has in common. */
export const common = (props: EditorProps) => ({
  id: props.id,
  'aria-required': props.required || undefined,
  'aria-invalid': props.invalid || undefined,
  'aria-describedby': props.describedBy,
});
