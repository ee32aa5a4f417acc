import { find, type TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import type { DeskActs } from './acts.ts';
import { DerivedPane } from './DerivedPane.tsx';
import { Explanation } from './Explanation.tsx';
import { nounOf } from './names.ts';
import { PieceUse, PieceUses } from './PieceUses.tsx';
import { Properties } from './Properties.tsx';
import type { Desk } from './useDesk.ts';
import type { Draft } from './draftState.ts';
import { VariantPane } from './VariantPane.tsx';

interface EndPaneProps {
  desk: Desk;
  acts: DeskActs;
  draft: Draft;
  tree: TreeNode;
  title: string;
}

/** The properties of what is selected; with nothing selected, those of the form, or what a width has differently. */
export function EndPane(props: EndPaneProps) {
  const { desk, draft, tree } = props;
  const nodes = desk.selection.map((id) => find(tree, id)).filter((node) => node !== undefined);
  const width = desk.widths.find((each) => each.name === desk.width);
  return (
    <aside className="pane" data-pane data-side="end" aria-label={say('region.properties')}>
      {nodes.length > 0 ? (
        <NodeProperties {...props} nodes={nodes} />
      ) : width ? (
        <VariantPane
          tree={desk.base ?? draft.tree}
          width={width}
          widths={[...desk.widths]}
          fields={desk.fields}
          labels={desk.labels}
          language={desk.context.language}
          onEdit={(edits, label) => void desk.state.apply(edits, label)}
        />
      ) : (
        [tree, tree.children.find((child) => child.kind === 'body')].map(
          (node) => node && <NodeProperties key={node.id} {...props} nodes={[node]} />,
        )
      )}
    </aside>
  );
}

function NodeProperties(props: EndPaneProps & { nodes: TreeNode[] }) {
  const { desk, acts, draft, tree, title, nodes } = props;
  const [first] = nodes;
  const named = first!.kind === 'layout';
  const layoutName = tree.properties['kind'] === 'piece' ? title : say('common.layoutName', title, nounOf(tree));
  return (
    <Properties
      key={nodes.map((one) => one.id).join(' ')}
      nodes={nodes}
      tree={tree}
      fields={desk.fields}
      findings={draft.findings}
      base={desk.beneath}
      language={desk.context.language}
      languages={desk.languages}
      name={named ? layoutName : desk.nameOf(first!.id)}
      onEdit={(edits, label) => void acts.change(edits, label)}
      onTyping={(edits) => desk.setTyping(edits && { edits, ...(desk.width ? { width: desk.width } : {}) })}
      onRemove={acts.parts.remove}
      onChoices={desk.dialogs.setChoices}
    >
      {named ? <LayoutParts {...props} /> : nodes.length === 1 && <NodeParts {...props} node={first!} />}
    </Properties>
  );
}

/** What there is to say of a layout as a whole: what it has differently from another, where a piece is used. */
function LayoutParts({ desk }: EndPaneProps) {
  const { under } = desk.state;
  return (
    <>
      {under && desk.own && (
        <DerivedPane
          under={under}
          own={desk.own}
          labels={desk.labels}
          language={desk.context.language}
          onEdit={(edits, label) => void desk.state.apply(edits, label)}
        />
      )}
      {desk.pieces
        .filter((piece) => piece.key === desk.layoutKey)
        .map((piece) => (
          <PieceUses key={piece.key} piece={piece} />
        ))}
    </>
  );
}

/** What there is to say of one node: what a piece is bound to, and why it is there. */
function NodeParts({ desk, acts, draft, node }: EndPaneProps & { node: TreeNode }) {
  return (
    <>
      {node.kind === 'piece' && (
        <PieceUse
          node={node}
          piece={desk.pieces.find((piece) => piece.key === node.properties['piece'])}
          fields={desk.fields}
          onEdit={(edits, label) => void acts.change(edits, label)}
          onDetach={() => void acts.reuse.detach()}
        />
      )}
      {draft.entity && (
        <Explanation layout={draft.key} node={node.id} revision={draft.revision} context={desk.context} onSelect={desk.select} />
      )}
    </>
  );
}
