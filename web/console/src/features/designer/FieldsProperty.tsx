import type { FieldInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

interface FieldsPropertyProps {
  id: string;
  label: string;
  /** Keys of fields; with directions, a - before those that run downwards. */
  value: string[];
  fields: FieldInfo[];
  directions: boolean;
  onSet: (value: string[] | null) => void;
}

/** Fields in an order: added from those there are, moved, turned round, taken out. */
export function FieldsProperty({ id, label, value, fields, directions, onSet }: FieldsPropertyProps) {
  const bare = (key: string) => key.replace(/^-/, '');
  const name = (key: string) => fields.find((field) => field.key === bare(key))?.label ?? bare(key);
  const set = (next: string[]) => onSet(next.length === 0 ? null : next);
  const left = fields.filter(
    (field) =>
      !field.retired &&
      !value.some((key) => bare(key) === field.key) &&
      !(directions && ['choices', 'longText', 'image', 'file'].includes(field.type)),
  );
  return (
    <span className="property-fields" role="group" aria-label={label}>
      <ol>
        {value.map((key, i) => (
          <li key={bare(key)}>
            <span>{name(key)}</span>
            {directions && (
              <button
                type="button"
                className="tool"
                aria-label={say('fieldsProperty.reverse', name(key))}
                title={
                  key.startsWith('-')
                    ? say('fieldsProperty.downwardsTheLargestAndLatest')
                    : say('fieldsProperty.upwardsTheSmallestAndEarliest')
                }
                onClick={() => set(value.with(i, key.startsWith('-') ? bare(key) : `-${key}`))}
              >
                {key.startsWith('-') ? '↓' : '↑'}
              </button>
            )}
            {i > 0 && (
              <button
                type="button"
                className="tool"
                aria-label={say('fieldsProperty.moveBefore', name(key), name(value[i - 1]!))}
                title={say('fieldsProperty.earlier')}
                onClick={() => set(value.with(i, value[i - 1]!).with(i - 1, key))}
              >
                ⇡
              </button>
            )}
            <button
              type="button"
              className="tool"
              aria-label={say('common.removeNamed', name(key))}
              title={say('fieldsProperty.takeOut')}
              onClick={() => set(value.filter((each) => each !== key))}
            >
              ×
            </button>
          </li>
        ))}
      </ol>
      <select id={id} className="tool-input" value="" onChange={(event) => set([...value, event.target.value])}>
        <option value="">{value.length === 0 ? say('fieldsProperty.noneAddAField') : say('fieldsProperty.addAField')}</option>
        {left.map((field) => (
          <option key={field.key} value={field.key}>
            {field.label}
          </option>
        ))}
      </select>
    </span>
  );
}
