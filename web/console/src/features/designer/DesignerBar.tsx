import { variantOf, type TreeNode } from '#layout';
import { useSession } from '../../shell/hooks.ts';
import { may } from '../../shell/session.ts';
import { address } from '../../shell/location.ts';
import { Approval, useApprovals } from '../releases/index.ts';
import type { Draft, DraftState } from './draftState.ts';
import { rangeOf, type WidthInfo } from './variants.ts';
import { briefly, nounOf } from './names.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';

interface DesignerBarProps {
  state: DraftState;
  /** The record one came from. */
  from: number | undefined;
  title: string;
  isPiece: boolean;
  widths: readonly WidthInfo[];
  width: string | undefined;
  onWidth: (name: string | undefined) => void;
  trying: boolean;
  onTry: () => void;
  onCommands: () => void;
  onPublish: () => void;
}

/** What is being changed, unmistakably, and what can always be done. */
export function DesignerBar({
  state,
  from,
  title,
  isPiece,
  widths,
  width,
  onWidth,
  trying,
  onTry,
  onCommands,
  onPublish,
}: DesignerBarProps) {
  const session = useSession();
  const draft = state.draft!;
  const approvals = useApprovals(draft.revision);
  const ahead = aheadOf(draft);
  const brief = briefly(title, 30);
  return (
    <header className="designer-bar" data-pane>
      <a
        className="tool"
        href={draft.entity ? address('records', draft.entity, ...(from === undefined ? [] : [from])) : address('layouts')}
      >
        {say('designerBar.leave')}
      </a>
      <div className="changing" data-width={width && widths.findIndex((each) => each.name === width) + 1}>
        {rich(
          may(session, 'configure') ? 'designerBar.changing' : 'designerBar.viewing',
          isPiece ? (
            <h1 title={title}>{say('common.thePiece', brief)}</h1>
          ) : (
            <b title={title}>{say('common.layoutName', brief, nounOf(draft.tree))},</b>
          ),
        )}{' '}
        {!isPiece && <WidthChoice tree={draft.tree} widths={widths} width={width} onWidth={onWidth} />}
        <span>{stateOf(draft)}</span>
      </div>
      <span className="bar-space" />
      <button type="button" className="tool" title={say('designerBar.allCommandsCtrlK')} onClick={onCommands}>
        {say('common.commands')}
      </button>
      <UndoAndRedo state={state} />
      <button type="button" className="tool" aria-pressed={trying} onClick={onTry}>
        {trying ? say('common.backToDesigning') : say('common.tryIt')}
      </button>
      {ahead > 0 && (
        <Approval
          draft={{ kind: 'layout', key: draft.key, revision: draft.revision }}
          {...approvals}
          onRefused={(message) => state.announce(message, true)}
        />
      )}
      {may(session, 'publish') && (
        <button type="button" className="tool primary" disabled={ahead === 0} onClick={onPublish}>
          {say('common.publish')}
        </button>
      )}
    </header>
  );
}

/** Which form it is: the base, or the one at a width. */
function WidthChoice({
  tree,
  widths,
  width,
  onWidth,
}: {
  tree: TreeNode;
  widths: readonly WidthInfo[];
  width: string | undefined;
  onWidth: (name: string | undefined) => void;
}) {
  return (
    <select aria-label={say('designerBar.whichForm')} value={width ?? ''} onChange={(event) => onWidth(event.target.value || undefined)}>
      <option value="">{say('designerBar.base')}</option>
      {widths.map((each) => (
        <option key={each.name} value={each.name}>
          {say(variantOf(tree, each.name) ? 'designerBar.width' : 'designerBar.widthAsBase', each.name, rangeOf(each))}
        </option>
      ))}
    </select>
  );
}

/** The last act taken back, and done again. */
function UndoAndRedo({ state }: { state: DraftState }) {
  const { undoLabel, redoLabel } = state;
  return (
    <>
      <button
        type="button"
        className="tool"
        disabled={!undoLabel}
        title={undoLabel ? `${say('designerCommands.undo', undoLabel)} (Ctrl+Z)` : say('designerBar.nothingToUndo')}
        onClick={state.undo}
      >
        {say('common.undo')}
      </button>
      <button
        type="button"
        className="tool"
        disabled={!redoLabel}
        title={redoLabel ? `${say('designerCommands.redo', redoLabel)} (Ctrl+Shift+Z)` : say('designerBar.nothingToRedo')}
        onClick={state.redo}
      >
        {say('designerBar.redo')}
      </button>
    </>
  );
}

const aheadOf = (draft: Draft) => draft.revision - (draft.published ?? 0);

/** What users have of a draft, in words. */
function stateOf(draft: Draft): string {
  if (draft.tree.properties['archived']) return say('designerBar.archived');
  if (draft.published === null) return say('common.neverPublished');
  const ahead = aheadOf(draft);
  return ahead === 0 ? say('common.asPublished') : say('designerBar.unpublished', ahead);
}
