import { variantOf, type Edit, type TreeNode } from '#layout';
import type { FieldInfo } from '../../api/client.ts';
import { CopyToLayout } from './CopyToLayout.tsx';
import { beginVariant, describeOverride, rangeOf, type WidthInfo } from './variants.ts';
import { say } from '../../shell/configurator/texts.ts';

interface VariantPaneProps {
  tree: TreeNode;
  width: WidthInfo;
  widths: WidthInfo[];
  fields: FieldInfo[];
  labels: Map<string, string>;
  language: string;
  onEdit: (edits: Edit[], label: string) => void;
}

/** The form of one width: how to begin it, and each difference from the base with a way back. */
export function VariantPane({ tree, width, widths, fields, labels, language, onEdit }: VariantPaneProps) {
  const variant = variantOf(tree, width.name);
  if (!variant) return <BeginVariant tree={tree} width={width} widths={widths} fields={fields} onEdit={onEdit} />;
  return (
    <div className="properties variant-pane">
      <header className="properties-head">
        <h2>
          {width.name}, {rangeOf(width)}
        </h2>
        <p>{variant.children.length === 0 ? say('variantPane.theSameAsTheBase') : say('variantPane.differencesFromTheBase')}</p>
      </header>
      <ul>
        {variant.children.map((change) => (
          <li key={change.id}>
            {describeOverride(change, tree, labels, language)}
            <button
              type="button"
              className="property-back"
              title={say('variantPane.resetToTheBase')}
              aria-label={say('variantPane.asTheBase', describeOverride(change, tree, labels, language))}
              onClick={() =>
                onEdit(
                  [{ op: 'remove', node: change.id }],
                  say('variantPane.takeBackIn', width.name, describeOverride(change, tree, labels, language)),
                )
              }
            >
              ↺
            </button>
          </li>
        ))}
      </ul>
      <ShownFields tree={tree} variant={variant} width={width} labels={labels} onEdit={onEdit} />
      <CopyToLayout tree={tree} variant={variant} width={width.name} />
      <button
        type="button"
        className="tool danger"
        onClick={() => onEdit([{ op: 'remove', node: variant.id }], say('variantPane.removeTheForm', width.name))}
      >
        {say('variantPane.removeTheForm', width.name)}
      </button>
    </div>
  );
}

type BeginVariantProps = Pick<VariantPaneProps, 'tree' | 'width' | 'widths' | 'fields' | 'onEdit'>;

/** How the form of a width can begin. */
function BeginVariant({ tree, width, widths, fields, onEdit }: BeginVariantProps) {
  const required = new Set(fields.filter((field) => field.required).map((field) => field.key));
  const others = widths.filter((each) => each.name !== width.name && variantOf(tree, each.name));
  const createVariant = (hiding: (field: string) => boolean) =>
    onEdit([beginVariant(tree, width.name, hiding)], say('common.createAForm', width.name));
  return (
    <div className="properties variant-pane">
      <header className="properties-head">
        <h2>{say('variantPane.noFormYet', width.name)}</h2>
        <p>{say('variantPane.atThisWidthUsersGet')}</p>
      </header>
      <button type="button" className="tool" onClick={() => createVariant(() => false)}>
        {say('variantPane.startWithAllFields')}
      </button>
      <button type="button" className="tool" onClick={() => createVariant((field) => !required.has(field))}>
        {say('variantPane.startWithRequiredFieldsOnly')}
      </button>
      {others.map((other) => (
        <button
          key={other.name}
          type="button"
          className="tool"
          onClick={() =>
            onEdit(
              [
                {
                  op: 'insert',
                  node: {
                    kind: 'variant',
                    properties: { variant: width.name },
                    children: variantOf(tree, other.name)!.children.map((change) => ({
                      kind: 'change',
                      properties: change.properties,
                      children: change.children,
                    })),
                  },
                  parent: tree.id,
                  at: 'last',
                },
              ],
              say('variantPane.beginAFormLike', width.name, other.name),
            )
          }
        >
          {say('variantPane.beginLikeTheForm', other.name)}
        </button>
      ))}
    </div>
  );
}

type ShownFieldsProps = Pick<VariantPaneProps, 'tree' | 'width' | 'labels' | 'onEdit'> & { variant: TreeNode };

/** Which fields are shown at a width. */
function ShownFields({ tree, variant, width, labels, onEdit }: ShownFieldsProps) {
  return (
    <details>
      <summary>{say('variantPane.whichFieldsAreShown')}</summary>
      {[...fieldsIn(tree)].map((node) => {
        const hidden = variant.children.find(
          (change) =>
            change.properties['op'] === 'set' && change.properties['target'] === node.id && change.properties['property'] === 'hidden',
        );
        const name = labels.get(String(node.properties['field'])) ?? node.id;
        return (
          <label key={node.id} className="variant-tick">
            <input
              type="checkbox"
              checked={hidden?.properties['value'] !== true}
              onChange={() =>
                onEdit(
                  hidden
                    ? [{ op: 'remove', node: hidden.id }]
                    : [
                        {
                          op: 'insert',
                          node: { kind: 'change', properties: { op: 'set', target: node.id, property: 'hidden', value: true } },
                          parent: variant.id,
                          at: 'last',
                        },
                      ],
                  say('variantPane.in', hidden ? say('variantPane.show') : say('variantPane.hide'), name, width.name),
                )
              }
            />{' '}
            {name}
          </label>
        );
      })}
    </details>
  );
}

function* fieldsIn(node: TreeNode): Generator<TreeNode> {
  if (node.kind === 'field') yield node;
  if (node.kind !== 'variant') for (const child of node.children) yield* fieldsIn(child);
}
