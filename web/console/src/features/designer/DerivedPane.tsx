import { changesOf, derived, type Edit, type TreeNode } from '#layout';
import { address } from '../../shell/location.ts';
import { textIn } from '../../shell/localTexts.ts';
import { describeOverride } from './variants.ts';
import type { ParentLayout } from './derivedLayout.ts';

/** What a derived layout has differently from the one it extends: each can be taken back. */
export function DerivedPane({
  under,
  own,
  labels,
  language,
  onEdit,
}: {
  under: ParentLayout;
  own: TreeNode;
  labels: Map<string, string>;
  language: string;
  onEdit: (edits: Edit[], label: string) => void;
}) {
  const children = changesOf(own);
  const title = textIn(under.tree.properties['title'], language) || under.key;
  const whole = derived(under.tree, own);
  return (
    <section className="derived" aria-label="What is different">
      <h3>
        Different from <a href={address('design', under.key)}>{title}</a> <small>{children.length}</small>
      </h3>
      <p>Changes there apply here too, except to what is listed here.</p>
      <ul>
        {children.map((change) => {
          const description = describeOverride(change, whole, labels, language);
          return (
            <li key={change.id}>
              <span>{description}</span>
              <button
                type="button"
                className="property-back"
                aria-label={`Take back: ${description}`}
                title="Reset to the original"
                onClick={() => onEdit([{ op: 'remove', node: change.id }], `As in ${title}: ${description}`)}
              >
                ↺
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
