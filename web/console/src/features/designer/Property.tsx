import { useEffect, useState } from 'react';
import { flow, type Edit, type PropertyValue } from '#layout';
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
  const mixed = nodes.some((each) => JSON.stringify(each.properties[rule.name]) !== JSON.stringify(node.properties[rule.name]));
  const value = mixed ? undefined : node.properties[rule.name];
  const standard = mixed ? { value: say('properties.severalValues') } : usual;
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
        <button
          type="button"
          className="property-back"
          title={standard ? say('properties.backTo', wordOf(rule, standard)) : say('properties.clear')}
          aria-label={say('properties.clearNamed', rule.label)}
          onClick={() => set(null)}
        >
          ↺
        </button>
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
