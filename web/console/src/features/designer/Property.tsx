import { useEffect, useState } from 'react';
import { flow, type Edit, type PropertyValue, type TreeNode } from '#layout';
import { textIn, withText } from '../../shell/localTexts.ts';
import { say } from '../../shell/configurator/texts.ts';
import { PatternProperty } from './PatternProperty.tsx';
import { PropertyControl } from './PropertyControl.tsx';
import { isWide, wordOf, type PropertiesProps, type PropertyRule, type Standard } from './propertyRules.ts';

interface PropertyProps extends PropertiesProps {
  rule: PropertyRule;
  standard: Standard | undefined;
  /** It is one press away. */
  hidden?: boolean;
}

/** One property of what is selected: its name, its control, the way back to what holds without it, what is wrong with it. */
export function Property({ rule, standard: usual, hidden, ...props }: PropertyProps) {
  const { nodes, language, languages, findings, onEdit } = props;
  const node = nodes[0]!;
  const mixed = settingOf(nodes, rule.name, node.properties[rule.name] ?? null).length > 0;
  const value = mixed ? undefined : node.properties[rule.name];
  const standard = mixed ? { value: say('properties.severalValues') } : usual;
  const id = `property-${node.id}-${rule.name}`;
  const [writing, setWriting] = useState(false);
  const conditional = rule.type === 'condition' || (rule.type === 'flagOrCondition' && (writing || typeof value === 'string'));
  // What it is about is told where one is, and to whoever hears it.
  useEffect(() => document.getElementById(id)?.setAttribute('aria-describedby', `${id}-about`));
  const wrong = wrongWith(findings, nodes, rule.name);
  const setting = (next: PropertyValue | null) => settingOf(nodes, rule.name, next);
  const set = (next: PropertyValue | null) => {
    const changed = setting(next);
    if (changed.length === 0) return;
    if (nodes.length === 1 && node.kind === 'section' && rule.name === 'columns') {
      const columns = Number(next ?? 1);
      onEdit(flow(props.tree, node.id, columns, isWide(props.fields)), say('properties.flow', props.name, columns));
    } else onEdit(changed, say('common.of', rule.label, nodes.length > 1 ? say('common.parts', nodes.length) : props.name));
  };
  const setText = (text: string) => {
    if (text !== textIn(value, language) || value === undefined) set(withText(value, text, language, languages));
  };
  return (
    <div
      className="property"
      data-property={rule.name}
      data-type={rule.type}
      hidden={hidden}
      data-set={value === undefined && !mixed ? undefined : ''}
    >
      <label htmlFor={id} title={rule.about}>
        {rule.label}
      </label>
      {rule.type === 'pattern' && nodes.length === 1 ? (
        <PatternProperty id={id} node={node} name={props.name} onEdit={onEdit} />
      ) : (
        <PropertyControl
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
        <BackToUsual rule={rule} standard={standard} onBack={() => set(null)} />
      )}
      <p className="property-about" id={`${id}-about`}>
        {rule.about}
      </p>
      {standard?.from === 'entity' && value === undefined && <p className="property-origin">{say('properties.fromEntity')}</p>}
      {wrong.map((finding) => (
        <p key={finding.message} className="property-wrong">
          {finding.message}
        </p>
      ))}
    </div>
  );
}

interface BackToUsualProps {
  rule: PropertyRule;
  standard: Standard | undefined;
  onBack: () => void;
}

/** The way back to what holds where nothing is set. */
function BackToUsual({ rule, standard, onBack }: BackToUsualProps) {
  return (
    <button
      type="button"
      className="property-back"
      title={standard ? say('properties.backTo', wordOf(rule, standard)) : say('properties.clear')}
      aria-label={say('properties.clearNamed', rule.label)}
      onClick={onBack}
    >
      ↺
    </button>
  );
}

/** The edits that set a property of each node that has another value. */
const settingOf = (nodes: readonly TreeNode[], property: string, value: PropertyValue | null): Edit[] =>
  nodes
    .filter((each) => JSON.stringify(each.properties[property] ?? null) !== JSON.stringify(value))
    .map((each): Edit => ({ op: 'set', node: each.id, property, value }));

const wrongWith = (findings: PropertiesProps['findings'], nodes: readonly TreeNode[], property: string) =>
  findings.filter(
    (finding) => nodes.some((each) => each.id === finding.node) && finding.property === property && finding.severity === 'error',
  );
