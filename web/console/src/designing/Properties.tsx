import { useEffect, useState } from 'react';
import { answer, api, type FieldInfo, type Finding } from '../api/client.ts';
import { flow } from './placing.ts';
import { parentOf, textIn, type Edit, type PropertyValue, type TreeNode } from './tree.ts';

interface PropertyRule {
  name: string;
  type: 'text' | 'word' | 'words' | 'key' | 'pairs' | 'address' | 'pattern' | 'condition' | 'flagOrCondition' | 'flag' | 'number' | 'decimal' | 'target' | 'any';
  group: 'words' | 'place' | 'behaviour' | 'who';
  label: string;
  about: string;
  lines: boolean;
  required: boolean;
  min?: number;
  max?: number;
  words?: string[];
  default?: string;
}

interface NodeRule {
  name: string;
  about: string;
  properties: PropertyRule[];
}

const groups = { words: 'Words', place: 'Size and place', behaviour: 'Behaviour', who: 'Who and when' } as const;

let grammar: Promise<NodeRule[]> | undefined;

/** The grammar of layouts, asked for once: which properties a node has comes from nowhere else. */
function useGrammar(): NodeRule[] {
  const [rules, setRules] = useState<NodeRule[]>([]);
  useEffect(() => {
    grammar ??= answer(api.GET('/api/grammar')) as unknown as Promise<NodeRule[]>;
    grammar.then(setRules, () => {
      grammar = undefined;
    });
  }, []);
  return rules;
}

export interface PropertiesProps {
  node: TreeNode;
  tree: TreeNode;
  fields: FieldInfo[];
  findings: Finding[];
  language: string;
  languages: string[];
  name: string;
  onEdit: (edits: Edit[], label: string) => void;
  onRemove: () => void;
}

export function Properties(props: PropertiesProps) {
  const { node, tree, name } = props;
  const rules = useGrammar();
  const rule = rules.find((each) => each.name === node.kind);
  // Span belongs to the cell; what stands alone in its cell speaks for it.
  const parent = parentOf(tree, node.id);
  const cell = parent?.kind === 'cell' && parent.children.length === 1 ? parent : undefined;
  const span = cell && rules.find((each) => each.name === 'cell')?.properties.find((each) => each.name === 'span');
  const field = props.fields.find((each) => each.key === node.properties['field']);
  if (!rule) return null;
  return (
    <div className="properties">
      <header className="properties-head">
        <h2>{name}</h2>
        <p>{field ? `${field.type}${field.required ? ', required by the entity' : ''}` : rule.about}</p>
      </header>
      {(Object.keys(groups) as (keyof typeof groups)[]).map((group) => {
        const own = rule.properties.filter((each) => each.group === group && !(each.type === 'key' || each.name === 'kind'));
        const editors = group === 'behaviour' && field ? own.map((each) => (each.name === 'editor' ? { ...each, words: field.editors ?? [] } : each)) : own;
        const shown = editors.filter((each) => each.name !== 'lines' || field?.type === 'longText' || field?.type === 'text');
        if (shown.length === 0 && !(group === 'place' && span)) return null;
        return (
          <fieldset key={group} className="properties-group">
            <legend>{groups[group]}</legend>
            {group === 'place' && span && cell && <Property key={cell.id + span.name} {...props} node={cell} rule={span} standard={undefined} />}
            {shown.map((each) => <Property key={node.id + each.name} {...props} rule={each} standard={standardOf(each, field)} />)}
          </fieldset>
        );
      })}
      <p className="properties-id">id <code>{node.id}</code></p>
      {node.kind !== 'layout' && node.kind !== 'body' && <button type="button" className="tool danger" onClick={props.onRemove}>Take off the form</button>}
    </div>
  );
}

/** What holds while the layout says nothing: the entity's own label and requirement, or the default. */
function standardOf(rule: PropertyRule, field: FieldInfo | undefined): string | undefined {
  if (!field) return rule.default;
  if (rule.name === 'label') return field.label;
  if (rule.name === 'required') return field.required ? 'always, by the entity' : 'no';
  if (rule.name === 'editor') return field.editors?.[0];
  if (rule.name === 'readOnly') return 'no';
  return rule.default;
}

function Property({ rule, standard, ...props }: PropertiesProps & { rule: PropertyRule; standard: string | undefined }) {
  const { node, language, languages, findings, onEdit } = props;
  const value = node.properties[rule.name];
  const id = `property-${node.id}-${rule.name}`;
  const wrong = findings.filter((finding) => finding.node === node.id && finding.property === rule.name && finding.severity === 'error');
  const set = (next: PropertyValue | null) => {
    if (next === (value ?? null)) return;
    const own: Edit[] = [{ op: 'set', node: node.id, property: rule.name, value: next }];
    if (node.kind === 'section' && rule.name === 'columns') {
      const wide = (item: TreeNode) => item.kind !== 'field' || ['longText', 'choices'].includes(props.fields.find((each) => each.key === item.properties['field'])?.type ?? '');
      onEdit(flow(props.tree, node.id, Number(next ?? 1), wide), `Flow ${props.name} into ${String(next ?? 1)} columns`);
    } else onEdit(own, `${rule.label} of ${props.name}`);
  };
  const setText = (text: string) => {
    if (text === textIn(value, language) && value !== undefined) return;
    if (typeof value === 'object' && !Array.isArray(value)) return set(text ? { ...value, [language]: text } : without(value, language));
    if (language === languages[0] || value === undefined) return set(text === '' ? null : language === languages[0] ? text : { [language]: text });
    set({ '': String(value), [language]: text });
  };
  return (
    <div className="property" data-property={rule.name} data-set={value === undefined ? undefined : ''}>
      <label htmlFor={id} title={rule.about}>{rule.label}</label>
      <Control rule={rule} id={id} value={value} text={textIn(value, language)} standard={standard} onSet={set} onText={setText} />
      {value !== undefined && !rule.required && rule.type !== 'flag' && <button type="button" className="property-back" title={standard ? `Back to: ${standard}` : 'Clear'} aria-label={`Clear ${rule.label}`} onClick={() => set(null)}>↺</button>}
      {wrong.map((finding) => <p key={finding.message} className="property-wrong">{finding.message}</p>)}
    </div>
  );
}

function without(value: Record<string, string>, language: string): Record<string, string> | null {
  const rest = Object.fromEntries(Object.entries(value).filter(([tag]) => tag !== language));
  return Object.keys(rest).length > 0 ? rest : null;
}

interface ControlProps {
  rule: PropertyRule;
  id: string;
  value: PropertyValue | undefined;
  text: string;
  standard: string | undefined;
  onSet: (value: PropertyValue | null) => void;
  onText: (text: string) => void;
}

function Control({ rule, id, value, text, standard, onSet, onText }: ControlProps) {
  switch (rule.type) {
    case 'text':
      return <Typed id={id} lines={rule.lines} value={text} hint={standard ?? ''} onDone={onText} />;
    case 'condition':
      return <Typed id={id} lines value={text} code hint="always" onDone={(next) => onSet(next === '' ? null : next)} />;
    case 'address':
    case 'pattern':
      return <Typed id={id} value={text} code hint={standard ?? ''} onDone={(next) => onSet(next === '' ? null : next)} />;
    case 'decimal':
      return <Typed id={id} value={text} hint={standard ?? 'as the entity says'} onDone={(next) => (next === '' ? onSet(null) : Number.isFinite(Number(next)) ? onSet(Number(next)) : undefined)} />;
    case 'words': {
      const chosen = Array.isArray(value) ? value : [];
      if (!rule.words?.length) return <Typed id={id} value={chosen.join(', ')} hint="none" onDone={(next) => onSet(next.trim() === '' ? null : next.split(',').map((word) => word.trim()))} />;
      return (
        <span className="property-words" id={id} role="group" aria-label={rule.label}>
          {rule.words.map((word) => (
            <label key={word}><input type="checkbox" checked={chosen.includes(word)} onChange={(event) => { const next = rule.words!.filter((each) => (each === word ? event.target.checked : chosen.includes(each))); onSet(next.length === 0 ? null : next); }} /> {word}</label>
          ))}
        </span>
      );
    }
    case 'pairs': {
      const pairs = typeof value === 'object' && !Array.isArray(value) ? value : {};
      const read = (next: string) => Object.fromEntries(next.split('\n').map((each) => each.split('=')).filter((each) => each.length > 1).map(([key, ...rest]) => [key!.trim(), rest.join('=').trim()]));
      return <Typed id={id} lines code value={Object.entries(pairs).map(([key, each]) => `${key} = ${each}`).join('\n')} hint="key = value, one a line" onDone={(next) => onSet(next.trim() === '' ? null : read(next))} />;
    }
    case 'number':
      return (
        <span className="property-number">
          <Typed id={id} value={text} hint={standard ?? (rule.name === 'span' ? 'shared' : 'usual')} onDone={(next) => (next === '' ? onSet(null) : Number.isInteger(Number(next)) ? onSet(Number(next)) : undefined)} number={{ min: rule.min ?? 0, max: rule.max ?? 99 }} />
        </span>
      );
    case 'word':
      return (
        <select id={id} className="tool-input" value={value === undefined ? '' : String(value)} onChange={(event) => onSet(event.target.value === '' ? null : event.target.value)}>
          {!rule.required && <option value="">{standard ?? 'usual'}</option>}
          {(rule.words ?? []).filter((word) => rule.required || word !== standard).map((word) => <option key={word} value={word}>{word}</option>)}
        </select>
      );
    case 'flag':
      return <input id={id} type="checkbox" className="property-check" checked={value === true} onChange={(event) => onSet(event.target.checked ? true : null)} />;
    case 'flagOrCondition':
      return <FlagOrCondition id={id} value={value} standard={standard} onSet={onSet} />;
    default:
      return <output id={id}>{text}</output>;
  }
}

/** No, always, or while a condition holds. */
function FlagOrCondition({ id, value, standard, onSet }: { id: string; value: PropertyValue | undefined; standard: string | undefined; onSet: (value: PropertyValue | null) => void }) {
  const [writing, setWriting] = useState(false);
  const conditional = writing || typeof value === 'string';
  return (
    <span className="property-either">
      <select
        id={id} className="tool-input" value={conditional ? 'when' : value === undefined ? '' : String(value)}
        onChange={(event) => {
          setWriting(event.target.value === 'when');
          if (event.target.value !== 'when') onSet(event.target.value === '' ? null : event.target.value === 'true');
        }}
      >
        <option value="">{standard ?? 'no'}</option>
        <option value="true">always</option>
        <option value="false">never</option>
        <option value="when">when…</option>
      </select>
      {conditional && <Typed id={`${id}-when`} lines code value={typeof value === 'string' ? value : ''} hint="record.propulsion == 'sail'" label="Condition" onDone={(next) => { setWriting(false); onSet(next === '' ? null : next); }} />}
    </span>
  );
}

/** A text that counts when one is done with it: on leaving or on Enter; Escape takes it back. */
function Typed({ id, value, hint, lines, code, label, number, onDone }: { id: string; value: string; hint: string; lines?: boolean; code?: boolean; label?: string; number?: { min: number; max: number }; onDone: (text: string) => void }) {
  const [typed, setTyped] = useState<string>();
  const done = () => {
    if (typed !== undefined && typed !== value) onDone(typed.trim());
    setTyped(undefined);
  };
  const shared = {
    id, 'aria-label': label, className: code ? 'tool-input code' : 'tool-input', placeholder: hint, value: typed ?? value, spellCheck: !code, dir: code ? ('ltr' as const) : ('auto' as const), onBlur: done,
    onChange: (event: React.ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => setTyped(event.target.value),
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === 'Enter' && (!lines || code || event.ctrlKey)) {
        event.preventDefault();
        done();
      } else if (event.key === 'Escape') setTyped(undefined);
    },
  };
  if (number) return <input {...shared} type="number" min={number.min} max={number.max} onInput={(event) => onDone(event.currentTarget.value)} />;
  return lines ? <textarea {...shared} rows={code ? 2 : 2} /> : <input {...shared} type="text" />;
}
