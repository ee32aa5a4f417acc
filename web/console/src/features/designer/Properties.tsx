import { useState } from 'react';
import { cellOf, find, parentOf, unitsOf, type TreeNode } from '#layout';
import type { FieldInfo } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { may } from '../../shell/session.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';
import { Property } from './Property.tsx';
import { nameOf as calledIn } from './names.ts';
import { standardOf, useGrammar, type PropertiesProps, type PropertyRule, type Standard } from './propertyRules.ts';

const groups = {
  words: 'propertyGroup.words',
  place: 'propertyGroup.place',
  behaviour: 'propertyGroup.behaviour',
  who: 'propertyGroup.who',
} as const;

const noLabels = new Map<string, string>();

/** Fewer than so many are not worth a press. */
const fewMore = 2;

/** Whether all properties are shown, until one says otherwise. */
const useAll = () => {
  const [all, setAll] = useState(() => localStorage.getItem('properties') === 'all');
  return [
    all,
    (on: boolean) => {
      localStorage.setItem('properties', on ? 'all' : 'few');
      setAll(on);
    },
  ] as const;
};

/** What a layout is from the beginning, and what happens to it where all are listed. */
const setElsewhere = new Set(['kind', 'archived']);

/** What is shown where its pattern is. */
const keptWithPattern = new Set(['passes', 'fails']);

export function Properties(props: PropertiesProps) {
  const { nodes, tree, name } = props;
  const rules = useGrammar();
  const [all, setAll] = useAll();
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
  const around = { tree, rules, nameOf: (of: TreeNode) => calledIn(of, noLabels, props.language) };
  const standards = (of: PropertyRule) => nodes.map((each, i) => standardOf(of, each, fields[i], around));
  const shown = Object.entries(groups).map(([group, title]) => ({
    group,
    title,
    rules: shownOf(group as keyof typeof groups, common, nodes, fields, props.base !== undefined),
    place: group === 'place' ? span || undefined : undefined,
  }));
  const seldom = shown.flatMap((each) => each.rules.filter((one) => isSeldom(one, nodes, props.findings)));
  const hidden = (each: PropertyRule) => !all && seldom.length > fewMore && seldom.includes(each);
  return (
    <div className="properties">
      <header className="properties-head">
        <h2>{nodes.length > 1 ? say('common.selected', nodes.length) : name}</h2>
        <p>{nodes.length > 1 ? say('properties.whatTheyHaveInCommon') : aboutOf(rule, field)}</p>
      </header>
      {shown
        .filter((each) => each.rules.length > 0 || each.place)
        .map(({ group, title, rules: ofGroup, place }) => (
          <fieldset key={group} className="properties-group" disabled={!changes} hidden={!place && ofGroup.every(hidden)}>
            <legend>{say(title)}</legend>
            {place && <Property key={`${node.id} span`} {...props} nodes={cells} rule={place} standard={sharedOf(tree, cells)} />}
            {ofGroup.map((each) => (
              <Property key={node.id + each.name} {...props} rule={each} standard={alike(standards(each))} hidden={hidden(each)} />
            ))}
          </fieldset>
        ))}
      {seldom.length > fewMore && (
        <button type="button" className="tool properties-more" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? say('properties.fewer') : say('properties.more', seldom.length)}
        </button>
      )}
      {changes && nodes.length === 1 && field?.choiceList && (
        <button type="button" className="tool" onClick={() => props.onChoices(field.choiceList!)}>
          {say('properties.editTheChoices')}
        </button>
      )}
      {props.children}
      {nodes.length === 1 && <p className="properties-id">{rich('properties.id', <code>{node.id}</code>)}</p>}
      {changes && node.kind !== 'layout' && node.kind !== 'body' && (
        <button type="button" className="tool danger" onClick={props.onRemove}>
          {removing(nodes, props.base)}
        </button>
      )}
    </div>
  );
}

/** What holds for all of them; where they differ, it is said that they do. */
const alike = ([first, ...rest]: (Standard | undefined)[]): Standard | undefined =>
  rest.every((each) => JSON.stringify(each) === JSON.stringify(first)) ? first : { value: say('properties.eachItsOwn') };

/** The units cells have that share their row. */
const sharedOf = (tree: TreeNode, cells: TreeNode[]): Standard | undefined =>
  alike(
    cells.map((cell) => {
      const row = parentOf(tree, cell.id);
      const units = row && unitsOf(row)[row.children.findIndex((each) => each.id === cell.id)];
      return units === undefined ? undefined : { value: say('properties.sharedUnits', units) };
    }),
  );

/** The properties of a group that are set here, with the editors all the fields have. */
function shownOf(
  group: keyof typeof groups,
  common: PropertyRule[],
  nodes: TreeNode[],
  fields: (FieldInfo | undefined)[],
  atWidth: boolean,
): PropertyRule[] {
  const [field] = fields;
  const suits = ({ types }: PropertyRule) => !types || fields.every((each) => each && types.includes(each.type));
  return common
    .filter(
      (each) =>
        (each.inVariants || !atWidth) &&
        each.group === group &&
        !((each.type === 'key' && !each.ofFields) || setElsewhere.has(each.name) || keptWithPattern.has(each.name)) &&
        (suits(each) || nodes.some((one) => one.properties[each.name] !== undefined)),
    )
    .map((each) =>
      each.name === 'editor' && field
        ? { ...each, words: (field.editors ?? []).filter((word) => fields.every((one) => one?.editors?.includes(word))) }
        : each,
    );
}

/** What taking away comes to here. */
function removing(nodes: TreeNode[], base: TreeNode | undefined): string {
  if (base) return say(nodes.some((one) => find(base, one.id)) ? 'properties.hideAtThisWidth' : 'properties.removeFromThisWidth');
  if (nodes.length > 1) return say('properties.removeThese', nodes.length);
  return say(nodes[0]!.kind === 'column' ? 'properties.removeFromTheList' : 'properties.removeFromTheForm');
}

/** What is selected, in a few words. */
function aboutOf(rule: { about: string }, field: FieldInfo | undefined): string {
  if (!field) return rule.about;
  const type = sayGrammar('word', field.type);
  return field.required ? say('properties.typeRequired', type) : type;
}

/** Whether a property waits behind a press: what is set, or wrong, never does. */
const isSeldom = (rule: PropertyRule, nodes: TreeNode[], findings: PropertiesProps['findings']) =>
  !rule.often &&
  nodes.every((one) => one.properties[rule.name] === undefined) &&
  !findings.some((finding) => finding.property === rule.name && nodes.some((one) => one.id === finding.node));
