import type { PropertyValue } from '#layout';
import type { FieldInfo } from '../../api/client.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';
import { ConditionEditor } from './ConditionEditor.tsx';
import { FieldsProperty } from './FieldsProperty.tsx';
import type { PropertyRule } from './propertyRules.ts';
import { TextInput } from './TextInput.tsx';

export interface ControlProps {
  rule: PropertyRule;
  fields: FieldInfo[];
  id: string;
  value: PropertyValue | undefined;
  text: string;
  standard: string | undefined;
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
    <TextInput id={id} lines={rule.lines} value={text} hint={standard ?? ''} onDone={onText} onTyping={onTyping} />
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
      hint={standard ?? say('properties.asTheEntitySays')}
      onDone={(next) => (next === '' ? onSet(null) : Number.isFinite(Number(next)) ? onSet(Number(next)) : undefined)}
    />
  ),
  number: ({ id, rule, text, standard, onSet }) => (
    <span className="property-number">
      <TextInput
        id={id}
        value={text}
        hint={standard ?? say(rule.name === 'span' ? 'properties.shared' : 'properties.usual')}
        onDone={(next) => (next === '' ? onSet(null) : Number.isInteger(Number(next)) ? onSet(Number(next)) : undefined)}
        number={{ min: rule.min ?? 0, max: rule.max ?? 99 }}
      />
    </span>
  ),
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
  any: Told,
};

export function PropertyControl(props: ControlProps) {
  const Control = controls[props.rule.type] ?? Told;
  return <Control {...props} />;
}

function Told({ id, text }: ControlProps) {
  return <output id={id}>{text}</output>;
}

function Code({ id, text, standard, onSet }: ControlProps) {
  return <TextInput id={id} value={text} code hint={standard ?? ''} onDone={(next) => onSet(next === '' ? null : next)} />;
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
  return (
    <span className="property-words" id={id} role="group" aria-label={rule.label}>
      {rule.words.map((word) => (
        <label key={word}>
          <input
            type="checkbox"
            checked={chosen.includes(word)}
            onChange={(event) => {
              const next = rule.words!.filter((each) => (each === word ? event.target.checked : chosen.includes(each)));
              onSet(next.length === 0 ? null : next);
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
      {!rule.required && <option value="">{standard ? sayGrammar('word', standard) : say('properties.usual')}</option>}
      {(rule.words ?? [])
        .filter((word) => rule.required || word !== standard)
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
        <option value="">{standard ?? say('properties.no')}</option>
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
