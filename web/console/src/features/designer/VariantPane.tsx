import { variantOf, type Edit, type TreeNode } from '#layout';
import type { FieldInfo, Session } from '../../api/client.ts';
import { CopyToLayout } from './CopyToLayout.tsx';
import { beginVariant, describeOverride } from './variants.ts';

export type WidthInfo = Session['application']['widths'][number];

/** A width in pixels, as people think of windows. */
export const rangeOf = ({ from, below }: WidthInfo) =>
  below === null || below === undefined
    ? `from ${from * 16} px`
    : from === 0
      ? `up to ${below * 16 - 1} px`
      : `${from * 16} to ${below * 16 - 1} px`;

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
  if (!variant) {
    const required = new Set(fields.filter((field) => field.required).map((field) => field.key));
    const others = widths.filter((each) => each.name !== width.name && variantOf(tree, each.name));
    const createVariant = (hiding: (field: string) => boolean) =>
      onEdit([beginVariant(tree, width.name, hiding)], `Create a ${width.name} form`);
    return (
      <div className="properties variant-pane">
        <header className="properties-head">
          <h2>No {width.name} form yet</h2>
          <p>At this width users get the base form. A form of its own stores only its differences; everything else follows the base.</p>
        </header>
        <button type="button" className="tool" onClick={() => createVariant(() => false)}>
          Start with all fields
        </button>
        <button type="button" className="tool" onClick={() => createVariant((field) => !required.has(field))}>
          Start with required fields only
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
                `Begin a ${width.name} form like ${other.name}`,
              )
            }
          >
            Begin like the {other.name} form
          </button>
        ))}
      </div>
    );
  }
  return (
    <div className="properties variant-pane">
      <header className="properties-head">
        <h2>
          {width.name}, {rangeOf(width)}
        </h2>
        <p>
          {variant.children.length === 0 ? 'The same as the base so far. Changes made now apply here only.' : 'Differences from the base:'}
        </p>
      </header>
      <ul>
        {variant.children.map((change) => (
          <li key={change.id}>
            {describeOverride(change, tree, labels, language)}
            <button
              type="button"
              className="property-back"
              title="Reset to the base"
              aria-label={`As the base: ${describeOverride(change, tree, labels, language)}`}
              onClick={() =>
                onEdit(
                  [{ op: 'remove', node: change.id }],
                  `Take back in ${width.name}: ${describeOverride(change, tree, labels, language)}`,
                )
              }
            >
              ↺
            </button>
          </li>
        ))}
      </ul>
      <details>
        <summary>Which fields are shown</summary>
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
                    `${hidden ? 'Show' : 'Hide'} ${name} in ${width.name}`,
                  )
                }
              />{' '}
              {name}
            </label>
          );
        })}
      </details>
      <CopyToLayout tree={tree} variant={variant} width={width.name} />
      <button
        type="button"
        className="tool danger"
        onClick={() => onEdit([{ op: 'remove', node: variant.id }], `Remove the ${width.name} form`)}
      >
        Remove the {width.name} form
      </button>
    </div>
  );
}

function* fieldsIn(node: TreeNode): Generator<TreeNode> {
  if (node.kind === 'field') yield node;
  if (node.kind !== 'variant') for (const child of node.children) yield* fieldsIn(child);
}
