import { useEffect, useState } from 'react';
import { cellOf, find, flow, type Edit, type PropertyValue, type TreeNode } from '#layout';
import { answer, api, type FieldInfo, type Finding } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { may } from '../../shell/session.ts';
import { ConditionEditor } from './ConditionEditor.tsx';
import { FieldsProperty } from './FieldsProperty.tsx';
import { PatternProperty } from './PatternProperty.tsx';
import { textIn, withText } from '../../shell/localTexts.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';

interface PropertyRule {
  name: string;
  type:
    | 'text'
    | 'word'
    | 'words'
    | 'key'
    | 'pairs'
    | 'address'
    | 'pattern'
    | 'condition'
    | 'flagOrCondition'
    | 'flag'
    | 'number'
    | 'decimal'
    | 'target'
    | 'any';
  group: 'words' | 'place' | 'behaviour' | 'who';
  label: string;
  about: string;
  lines: boolean;
  required: boolean;
  /** Whether it may differ from one width to another. */
  inVariants: boolean;
  /** It names fields of the entity. */
  ofFields: boolean;
  min?: number;
  max?: number;
  words?: string[];
  default?: string;
}

interface NodeRule {
  name: string;
  /** Of layouts, the kind it is the rule of. */
  root?: string;
  about: string;
  properties: PropertyRule[];
}

const groups = {
  words: 'propertyGroup.words',
  place: 'propertyGroup.place',
  behaviour: 'propertyGroup.behaviour',
  who: 'propertyGroup.who',
} as const;

let grammar: Promise<NodeRule[]> | undefined;

/** A rule with what it says in the language of whoever works here. */
const inOwnLanguage = (rule: NodeRule): NodeRule => ({
  ...rule,
  about: sayGrammar('about', rule.about),
  properties: rule.properties.map((each) => ({ ...each, label: sayGrammar('label', each.label), about: sayGrammar('about', each.about) })),
});

/** The grammar of layouts, asked for once: which properties a node has comes from nowhere else. */
function useGrammar(): NodeRule[] {
  const [rules, setRules] = useState<NodeRule[]>([]);
  useEffect(() => {
    grammar ??= answer(api.GET('/api/grammar')) as unknown as Promise<NodeRule[]>;
    grammar.then(
      (found) => setRules(found.map(inOwnLanguage)),
      () => {
        grammar = undefined;
      },
    );
  }, []);
  return rules;
}

/** What is shown where its pattern is. */
const keptWithPattern = new Set(['passes', 'fails']);

export interface PropertiesProps {
  /** What is selected: one node, or several of which only what they have in common is shown. */
  nodes: TreeNode[];
  tree: TreeNode;
  fields: FieldInfo[];
  findings: Finding[];
  language: string;
  languages: string[];
  name: string;
  onEdit: (edits: Edit[], label: string) => void;
  /** A text is being typed: what it would change; nothing once it is done with or given up. */
  onTyping: (edits: Edit[] | undefined) => void;
  onRemove: () => void;
  onChoices: (list: string) => void;
  /** The base, while a width's own form is being changed: only what may differ by width is shown. */
  base: TreeNode | undefined;
  children?: React.ReactNode;
}

export function Properties(props: PropertiesProps) {
  const { nodes, tree, name } = props;
  const rules = useGrammar();
  // Whoever looks on reads what is set.
  const changes = may(useSession(), 'configure');
  const [node] = nodes;
  const own = nodes.map((each) =>
    rules.find((rule) => (each.kind === 'layout' ? rule.root === (each.properties['kind'] ?? 'full') : rule.name === each.kind)),
  );
  const [rule] = own;
  // Span belongs to the cell; what stands alone in its cell speaks for it.
  const cells = nodes.map((each) => cellOf(tree, each.id)).filter((cell) => cell !== undefined);
  const span = cells.length === nodes.length && rules.find((each) => each.name === 'cell')?.properties.find((each) => each.name === 'span');
  const fields = nodes.map((each) => props.fields.find((field) => field.key === (each.properties['field'] ?? each.properties['column'])));
  const [field] = fields;
  if (!node || !rule || own.some((each) => !each)) return null;
  const common = rule.properties.filter((each) =>
    own.every((other) => other!.properties.some((one) => one.name === each.name && one.type === each.type)),
  );
  const text = fields.every((each) => each?.type === 'longText' || each?.type === 'text');
  return (
    <div className="properties">
      <header className="properties-head">
        <h2>{nodes.length > 1 ? say('common.selected', nodes.length) : name}</h2>
        <p>
          {nodes.length > 1
            ? say('properties.whatTheyHaveInCommon')
            : field
              ? field.required
                ? say('properties.typeRequired', sayGrammar('word', field.type))
                : sayGrammar('word', field.type)
              : rule.about}
        </p>
      </header>
      {(Object.keys(groups) as (keyof typeof groups)[]).map((group) => {
        const listed = common.filter(
          (each) =>
            (each.inVariants || !props.base) &&
            each.group === group &&
            !((each.type === 'key' && !each.ofFields) || each.name === 'kind' || keptWithPattern.has(each.name)),
        );
        const editors =
          group === 'behaviour' && field
            ? listed.map((each) =>
                each.name === 'editor'
                  ? { ...each, words: (field.editors ?? []).filter((word) => fields.every((one) => one?.editors?.includes(word))) }
                  : each,
              )
            : listed;
        const shown = editors.filter((each) => each.name !== 'lines' || text);
        if (shown.length === 0 && !(group === 'place' && span)) return null;
        return (
          <fieldset key={group} className="properties-group" disabled={!changes}>
            <legend>{say(groups[group])}</legend>
            {group === 'place' && span && <Property key={`${node.id} span`} {...props} nodes={cells} rule={span} standard={undefined} />}
            {shown.map((each) => (
              <Property
                key={node.id + each.name}
                {...props}
                rule={each}
                standard={
                  fields.every((other) => standardOf(each, other) === standardOf(each, field))
                    ? standardOf(each, field)
                    : say('properties.eachItsOwn')
                }
              />
            ))}
          </fieldset>
        );
      })}
      {changes && nodes.length === 1 && field?.choiceList && (
        <button type="button" className="tool" onClick={() => props.onChoices(field.choiceList!)}>
          {say('properties.editTheChoices')}
        </button>
      )}
      {props.children}
      {nodes.length === 1 && <p className="properties-id">{rich('properties.id', <code>{node.id}</code>)}</p>}
      {changes && node.kind !== 'layout' && node.kind !== 'body' && (
        <button type="button" className="tool danger" onClick={props.onRemove}>
          {props.base
            ? nodes.some((one) => find(props.base!, one.id))
              ? say('properties.hideAtThisWidth')
              : say('properties.removeFromThisWidth')
            : nodes.length > 1
              ? say('properties.removeThese', nodes.length)
              : node.kind === 'column'
                ? say('properties.removeFromTheList')
                : say('properties.removeFromTheForm')}
        </button>
      )}
    </div>
  );
}

/** What holds while the layout says nothing: the entity's own label and requirement, or the default. */
function standardOf(rule: PropertyRule, field: FieldInfo | undefined): string | undefined {
  if (!field) return rule.default;
  if (rule.name === 'label') return field.label;
  if (rule.name === 'required') return field.required ? say('properties.alwaysByTheEntity') : say('properties.no');
  if (rule.name === 'editor') return field.editors?.[0];
  if (rule.name === 'readOnly') return say('properties.no');
  return rule.default;
}

function Property({ rule, standard: usual, ...props }: PropertiesProps & { rule: PropertyRule; standard: string | undefined }) {
  const { nodes, language, languages, findings, onEdit } = props;
  const node = nodes[0]!;
  const mixed = nodes.some((each) => JSON.stringify(each.properties[rule.name]) !== JSON.stringify(node.properties[rule.name]));
  const value = mixed ? undefined : node.properties[rule.name];
  const standard = mixed ? say('properties.severalValues') : usual;
  const id = `property-${node.id}-${rule.name}`;
  const [writing, setWriting] = useState(false);
  const conditional = rule.type === 'condition' || (rule.type === 'flagOrCondition' && (writing || typeof value === 'string'));
  // What it is about is told where one is, and to whoever hears it.
  useEffect(() => document.getElementById(id)?.setAttribute('aria-describedby', `${id}-about`));
  const wrong = findings.filter(
    (finding) => nodes.some((each) => each.id === finding.node) && finding.property === rule.name && finding.severity === 'error',
  );
  const setting = (next: PropertyValue | null) =>
    nodes
      .filter((each) => JSON.stringify(each.properties[rule.name] ?? null) !== JSON.stringify(next))
      .map((each): Edit => ({ op: 'set', node: each.id, property: rule.name, value: next }));
  const set = (next: PropertyValue | null) => {
    const changed = setting(next);
    if (changed.length === 0) return;
    if (nodes.length === 1 && node.kind === 'section' && rule.name === 'columns') {
      onEdit(flow(props.tree, node.id, Number(next ?? 1), isWide(props.fields)), say('properties.flow', props.name, Number(next ?? 1)));
    } else onEdit(changed, say('common.of', rule.label, nodes.length > 1 ? say('common.parts', nodes.length) : props.name));
  };
  const setText = (text: string) => {
    if (text === textIn(value, language) && value !== undefined) return;
    set(withText(value, text, language, languages));
  };
  return (
    <div
      className="property"
      data-property={rule.name}
      data-wide={conditional || (rule.type === 'pattern' && nodes.length === 1) ? '' : undefined}
      data-set={value === undefined && !mixed ? undefined : ''}
    >
      <label htmlFor={id} title={rule.about}>
        {rule.label}
      </label>
      {rule.type === 'pattern' && nodes.length === 1 ? (
        <PatternProperty id={id} node={node} name={props.name} onEdit={onEdit} />
      ) : (
        <Control
          rule={rule}
          id={id}
          fields={props.fields}
          value={value}
          text={textIn(value, language)}
          standard={standard}
          conditional={conditional}
          onWriting={setWriting}
          onSet={set}
          onText={setText}
          onTyping={(typed) => props.onTyping(typed === undefined ? undefined : setting(withText(value, typed, language, languages)))}
        />
      )}
      {(value !== undefined || mixed) && !rule.required && rule.type !== 'flag' && (
        <button
          type="button"
          className="property-back"
          title={standard ? say('properties.backTo', standard) : say('properties.clear')}
          aria-label={say('properties.clearNamed', rule.label)}
          onClick={() => set(null)}
        >
          ↺
        </button>
      )}
      <p className="property-about" id={`${id}-about`}>
        {rule.about}
      </p>
      {wrong.map((finding) => (
        <p key={finding.message} className="property-wrong">
          {finding.message}
        </p>
      ))}
    </div>
  );
}

/** Items that keep a row of their own when a section flows into columns. */
export const isWide = (fields: FieldInfo[]) => (item: TreeNode) =>
  item.kind !== 'field' || ['longText', 'choices'].includes(fields.find((each) => each.key === item.properties['field'])?.type ?? '');

interface ControlProps {
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

function Control({ rule, id, fields, value, text, standard, conditional, onWriting, onSet, onText, onTyping }: ControlProps) {
  switch (rule.type) {
    case 'text':
      return <Typed id={id} lines={rule.lines} value={text} hint={standard ?? ''} onDone={onText} onTyping={onTyping} />;
    case 'condition':
      return (
        <ConditionEditor
          id={id}
          value={text}
          label={rule.label}
          hint={say('completion.always')}
          onDone={(next) => onSet(next === '' ? null : next)}
        />
      );
    case 'address':
    case 'pattern':
      return <Typed id={id} value={text} code hint={standard ?? ''} onDone={(next) => onSet(next === '' ? null : next)} />;
    case 'decimal':
      return (
        <Typed
          id={id}
          value={text}
          hint={standard ?? say('properties.asTheEntitySays')}
          onDone={(next) => (next === '' ? onSet(null) : Number.isFinite(Number(next)) ? onSet(Number(next)) : undefined)}
        />
      );
    case 'words': {
      const chosen = Array.isArray(value) ? value : [];
      if (rule.ofFields)
        return <FieldsProperty id={id} label={rule.label} value={chosen} fields={fields} directions={rule.name === 'sort'} onSet={onSet} />;
      if (!rule.words?.length)
        return (
          <Typed
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
    case 'pairs': {
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
        <Typed
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
    case 'number':
      return (
        <span className="property-number">
          <Typed
            id={id}
            value={text}
            hint={standard ?? say(rule.name === 'span' ? 'properties.shared' : 'properties.usual')}
            onDone={(next) => (next === '' ? onSet(null) : Number.isInteger(Number(next)) ? onSet(Number(next)) : undefined)}
            number={{ min: rule.min ?? 0, max: rule.max ?? 99 }}
          />
        </span>
      );
    case 'word':
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
    case 'key':
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
    case 'flag':
      return (
        <input
          id={id}
          type="checkbox"
          className="property-check"
          checked={value === true}
          onChange={(event) => onSet(event.target.checked ? true : null)}
        />
      );
    case 'flagOrCondition':
      return <FlagOrCondition id={id} value={value} standard={standard} conditional={conditional} onWriting={onWriting} onSet={onSet} />;
    default:
      return <output id={id}>{text}</output>;
  }
}

/** No, always, or while a condition holds. */
function FlagOrCondition({
  id,
  value,
  standard,
  conditional,
  onWriting,
  onSet,
}: Pick<ControlProps, 'id' | 'value' | 'standard' | 'conditional' | 'onWriting' | 'onSet'>) {
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

/** A text that counts when one is done with it: on leaving or on Enter; Escape takes it back. Until then it is only shown. */
function Typed({
  id,
  value,
  hint,
  lines,
  code,
  label,
  number,
  onDone,
  onTyping,
}: {
  id: string;
  value: string;
  hint: string;
  lines?: boolean;
  code?: boolean;
  label?: string;
  number?: { min: number; max: number };
  onDone: (text: string) => void;
  onTyping?: (text: string | undefined) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const reset = () => {
    setTyped(undefined);
    if (typed !== undefined) onTyping?.(undefined);
  };
  const done = () => {
    if (typed !== undefined && typed !== value) onDone(typed.trim());
    reset();
  };
  const shared = {
    id,
    'aria-label': label,
    className: code ? 'tool-input code' : 'tool-input',
    placeholder: hint,
    value: typed ?? value,
    spellCheck: !code,
    dir: code ? ('ltr' as const) : ('auto' as const),
    onBlur: done,
    onChange: (event: React.ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      setTyped(event.target.value);
      onTyping?.(event.target.value.trim());
    },
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === 'Enter' && (!lines || code || event.ctrlKey)) {
        event.preventDefault();
        done();
      } else if (event.key === 'Escape') reset();
    },
  };
  if (number)
    return <input {...shared} type="number" min={number.min} max={number.max} onInput={(event) => onDone(event.currentTarget.value)} />;
  return lines ? <textarea {...shared} rows={code ? 2 : 2} /> : <input {...shared} type="text" />;
}
