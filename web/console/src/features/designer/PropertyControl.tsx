import type { PropertyValue } from '#layout';
import type { FieldInfo } from '../../api/client.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';
import { ConditionEditor } from './ConditionEditor.tsx';
import { FieldsProperty } from './FieldsProperty.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { wordOf, type PropertyRule, type Standard } from './propertyRules.ts';
import { TextInput } from './TextInput.tsx';

export interface ControlProps {
  rule: PropertyRule;
  fields: FieldInfo[];
  id: string;
  value: PropertyValue | undefined;
  text: string;
  standard: Standard | undefined;
  /** Whether a condition is written. */
  conditional: boolean;
  onWriting: (writing: boolean) => void;
  onSet: (value: PropertyValue | null) => void;
  onText: (text: string) => void;
  onTyping: (text: string | undefined) => void;
}

/** What a value of a type is set with. */
const controls: Record<PropertyRule['type'], (props: ControlProps) => React.JSX.Element> = {
  text: ({ id, rule, text, standard, onText, onTyping }) => (
    <TextInput id={id} lines={rule.lines} value={text} hint={standard?.value ?? ''} onDone={onText} onTyping={onTyping} />
  ),
  condition: ({ id, rule, text, onSet }) => (
    <ConditionEditor
      id={id}
      value={text}
      label={rule.label}
      hint={say('completion.always')}
      onDone={(next) => onSet(next === '' ? null : next)}
    />
  ),
  address: Code,
  pattern: Code,
  decimal: ({ id, text, standard, onSet }) => (
    <TextInput
      id={id}
      value={text}
      hint={standard?.value ?? say('properties.asTheEntitySays')}
      onDone={(next) => (next === '' ? onSet(null) : Number.isFinite(Number(next)) ? onSet(Number(next)) : undefined)}
    />
  ),
  number: WholeNumber,
  words: Words,
  pairs: Pairs,
  word: OneWord,
  key: ImageField,
  flag: ({ id, value, onSet }) => (
    <input
      id={id}
      type="checkbox"
      className="property-check"
      checked={value === true}
      onChange={(event) => onSet(event.target.checked ? true : null)}
    />
  ),
  flagOrCondition: FlagOrCondition,
  target: Told,
  samples: Told,
  any: Told,
};

export function PropertyControl(props: ControlProps) {
  const Control = controls[props.rule.type] ?? Told;
  return <Control {...props} />;
}

/** As many as there may be at most to be shown side by side. */
const fewest = 6;

function WholeNumber({ id, rule, value, text, standard, onSet }: ControlProps) {
  const { min = 0, max = 99 } = rule;
  if (max - min < fewest && standard)
    return (
      <Segments
        id={id}
        label={rule.label}
        value={Number(value ?? standard.value)}
        options={Array.from({ length: max - min + 1 }, (_, i) => ({ key: min + i, label: String(min + i) }))}
        onChange={(next) => onSet(next)}
      />
    );
  return (
    <span className="property-number">
      <TextInput
        id={id}
        value={text}
        hint={standard ? wordOf(rule, standard) : say('properties.usual')}
        onDone={(next) => (next === '' ? onSet(null) : Number.isInteger(Number(next)) ? onSet(Number(next)) : undefined)}
        number={{ min, max }}
      />
    </span>
  );
}

function Told({ id, text }: ControlProps) {
  return <output id={id}>{text}</output>;
}

function Code({ id, text, standard, onSet }: ControlProps) {
  return <TextInput id={id} value={text} code hint={standard?.value ?? ''} onDone={(next) => onSet(next === '' ? null : next)} />;
}

function Words({ id, rule, fields, value, onSet }: ControlProps) {
  const chosen = Array.isArray(value) ? value : [];
  if (rule.ofFields)
    return <FieldsProperty id={id} label={rule.label} value={chosen} fields={fields} directions={rule.name === 'sort'} onSet={onSet} />;
  if (!rule.words?.length)
    return (
      <TextInput
        id={id}
        value={chosen.join(', ')}
        hint={say('common.none')}
        onDone={(next) => onSet(next.trim() === '' ? null : next.split(',').map((word) => word.trim()))}
      />
    );
  // A tick means that it is so: where none of them means all, all are ticked.
  const ticked = value === undefined && rule.allByDefault ? rule.words : chosen;
  return (
    <span className="property-words" id={id} role="group" aria-label={rule.label}>
      {rule.words.map((word) => (
        <label key={word}>
          <input
            type="checkbox"
            checked={ticked.includes(word)}
            disabled={rule.allByDefault && ticked.length === 1 && ticked.includes(word)}
            onChange={(event) => {
              const next = rule.words!.filter((each) => (each === word ? event.target.checked : ticked.includes(each)));
              onSet(next.length === (rule.allByDefault ? rule.words!.length : 0) ? null : next);
            }}
          />{' '}
          {sayGrammar('word', word)}
        </label>
      ))}
    </span>
  );
}

function Pairs({ id, value, onSet }: ControlProps) {
  const pairs = typeof value === 'object' && !Array.isArray(value) ? value : {};
  const read = (next: string) =>
    Object.fromEntries(
      next
        .split('\n')
        .map((each) => each.split('='))
        .filter((each) => each.length > 1)
        .map(([key, ...rest]) => [key!.trim(), rest.join('=').trim()]),
    );
  return (
    <TextInput
      id={id}
      lines
      code
      value={Object.entries(pairs)
        .map(([key, each]) => `${key} = ${each}`)
        .join('\n')}
      hint={say('properties.keyValueOneALine')}
      onDone={(next) => onSet(next.trim() === '' ? null : read(next))}
    />
  );
}

function OneWord({ id, rule, value, standard, onSet }: ControlProps) {
  return (
    <select
      id={id}
      className="tool-input"
      value={value === undefined ? '' : String(value)}
      onChange={(event) => onSet(event.target.value === '' ? null : event.target.value)}
    >
      {!rule.required && <option value="">{standard ? wordOf(rule, standard) : say('properties.usual')}</option>}
      {(rule.words ?? [])
        .filter((word) => rule.required || standard?.from !== undefined || word !== standard?.value)
        .map((word) => (
          <option key={word} value={word}>
            {sayGrammar('word', word)}
          </option>
        ))}
    </select>
  );
}

function ImageField({ id, fields, text, onSet }: ControlProps) {
  return (
    <select id={id} className="tool-input" value={text} onChange={(event) => onSet(event.target.value || null)}>
      <option value="">{say('common.none')}</option>
      {fields
        .filter((field) => field.type === 'image')
        .map((field) => (
          <option key={field.key} value={field.key}>
            {field.label}
          </option>
        ))}
    </select>
  );
}

/** No, always, or while a condition holds. */
function FlagOrCondition({ id, value, standard, conditional, onWriting, onSet }: ControlProps) {
  return (
    <span className="property-either">
      <select
        id={id}
        className="tool-input"
        value={conditional ? 'when' : value === undefined ? '' : String(value)}
        onChange={(event) => {
          onWriting(event.target.value === 'when');
          if (event.target.value !== 'when') onSet(event.target.value === '' ? null : event.target.value === 'true');
        }}
      >
        <option value="">{standard?.value ?? say('properties.no')}</option>
        <option value="true">{say('completion.always')}</option>
        <option value="false">{say('completion.never')}</option>
        <option value="when">{say('properties.when')}</option>
      </select>
      {conditional && (
        <ConditionEditor
          id={`${id}-when`}
          value={typeof value === 'string' ? value : ''}
          hint="record.propulsion == 'sail'"
          label={say('properties.condition')}
          onDone={(next) => {
            onWriting(false);
            onSet(next === '' ? null : next);
          }}
        />
      )}
    </span>
  );
}
