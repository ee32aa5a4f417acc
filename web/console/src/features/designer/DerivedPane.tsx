import { changesOf, derived, type Edit, type TreeNode } from '#layout';
import { address } from '../../shell/location.ts';
import { textIn } from '../../shell/localTexts.ts';
import { describeOverride } from './variants.ts';
import type { ParentLayout } from './derivedLayout.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';

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
    <section className="derived" aria-label={say('derivedPane.whatIsDifferent')}>
      <h3>
        {rich('derivedPane.differentFrom', <a href={address('design', under.key)}>{title}</a>)} <small>{children.length}</small>
      </h3>
      <p>{say('derivedPane.changesThereApplyHereToo')}</p>
      <ul>
        {children.map((change) => {
          const description = describeOverride(change, whole, labels, language);
          return (
            <li key={change.id}>
              <span>{description}</span>
              <button
                type="button"
                className="property-back"
                aria-label={say('derivedPane.takeBack', description)}
                title={say('derivedPane.resetToTheOriginal')}
                onClick={() => onEdit([{ op: 'remove', node: change.id }], say('derivedPane.asIn', title, description))}
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
