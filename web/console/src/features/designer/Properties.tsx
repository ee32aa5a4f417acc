import { cellOf, find, type TreeNode } from '#layout';
import type { FieldInfo } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { may } from '../../shell/session.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';
import { Property } from './Property.tsx';
import { standardOf, useGrammar, type PropertiesProps, type PropertyRule } from './propertyRules.ts';

const groups = {
  words: 'propertyGroup.words',
  place: 'propertyGroup.place',
  behaviour: 'propertyGroup.behaviour',
  who: 'propertyGroup.who',
} as const;

/** What is shown where its pattern is. */
const keptWithPattern = new Set(['passes', 'fails']);

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
        const shown = shownOf(group, common, fields, props.base !== undefined);
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
          {removing(nodes, props.base)}
        </button>
      )}
    </div>
  );
}

/** The properties of a group that are set here, with the editors all the fields have. */
function shownOf(group: keyof typeof groups, common: PropertyRule[], fields: (FieldInfo | undefined)[], atWidth: boolean): PropertyRule[] {
  const [field] = fields;
  const text = fields.every((each) => each?.type === 'longText' || each?.type === 'text');
  return common
    .filter(
      (each) =>
        (each.inVariants || !atWidth) &&
        each.group === group &&
        !((each.type === 'key' && !each.ofFields) || each.name === 'kind' || keptWithPattern.has(each.name)) &&
        (each.name !== 'lines' || text),
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
