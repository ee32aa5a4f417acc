import { useState } from 'react';
import { variantOf, type TreeNode } from '#layout';
import { answer, api } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { textIn } from '../../shell/localTexts.ts';
import { carried } from './variants.ts';
import { say, spoken } from '../../shell/configurator/texts.ts';
import { NoticeLine, type Notice } from '../../ui/Notice.tsx';

/** Gives another layout what this width has differently here, matched by field; says what found no match. */
export function CopyToLayout({ tree, variant, width }: { tree: TreeNode; variant: TreeNode; width: string }) {
  const [told, setTold] = useState<Notice>();
  const own = String(tree.properties['key']);
  const { data: all = [] } = useAnswer(['layouts'], () => answer(api.GET('/api/layouts')));
  const layouts = all.filter((each) => each.key !== own && (each.kind ?? 'full') === (tree.properties['kind'] ?? 'full'));
  const copyTo = async (key: string) => {
    try {
      const other = await answer(api.GET('/api/layouts/{key}', { params: { path: { key } } }));
      const to = other.tree as unknown as TreeNode;
      const { changes, strays } = carried(variant, tree, to);
      const there = variantOf(to, width);
      const edits = there
        ? changes.map((node) => ({ op: 'insert', node, parent: there.id, at: 'last' }))
        : [{ op: 'insert', node: { kind: 'variant', properties: { variant: width }, children: changes }, parent: to.id, at: 'last' }];
      if (changes.length > 0)
        await answer(
          api.POST('/api/layouts/{key}/edits', {
            params: { path: { key } },
            body: {
              base: other.revision,
              edits: edits as never,
              label: say('copyToLayout.theFormAsHasIt', width, textIn(tree.properties['title'], spoken()) || own),
            },
          }),
        );
      const title = layouts.find((each) => each.key === key)?.title ?? key;
      setTold({
        text: say(
          strays.length > 0 ? 'copyToLayout.doneWithout' : 'copyToLayout.done',
          changes.length,
          variant.children.length,
          title,
          strays.join(', '),
        ),
        bad: false,
      });
    } catch (error) {
      setTold({ text: (error as Error).message, bad: true });
    }
  };
  return (
    <div className="take-over">
      <select
        className="tool-input"
        aria-label={say('copyToLayout.copyChangesToAnotherLayout')}
        value=""
        onChange={(event) => void copyTo(event.target.value)}
      >
        <option value="">{say('copyToLayout.copyChangesTo')}</option>
        {layouts.map((each) => (
          <option key={each.key} value={each.key}>
            {each.title} ({each.key})
          </option>
        ))}
      </select>
      <NoticeLine notice={told} />
    </div>
  );
}
