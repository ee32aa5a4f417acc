import { variantOf } from '#layout';
import { useSession } from '../../shell/hooks.ts';
import { may } from '../../shell/session.ts';
import { address } from '../../shell/location.ts';
import { Approval, useApprovals } from '../releases/index.ts';
import type { DraftState } from './useDraft.ts';
import { rangeOf, type WidthInfo } from './VariantPane.tsx';
import { nounOf } from './names.ts';

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
  const { undoLabel, redoLabel } = state;
  const ahead = draft.revision - (draft.published ?? 0);
  return (
    <header className="designer-bar" data-pane>
      <a
        className="tool"
        href={draft.entity ? address('records', draft.entity, ...(from === undefined ? [] : [from])) : address('layouts')}
      >
        ← Leave
      </a>
      <div className="changing" data-width={width && widths.findIndex((each) => each.name === width) + 1}>
        You are {may(session, 'configure') ? 'changing' : 'looking at'}{' '}
        {isPiece ? (
          <h1>the piece {title}</h1>
        ) : (
          <>
            <b>
              {title} {nounOf(draft.tree)},
            </b>{' '}
            <select aria-label="Which form" value={width ?? ''} onChange={(event) => onWidth(event.target.value || undefined)}>
              <option value="">base</option>
              {widths.map((each) => (
                <option key={each.name} value={each.name}>
                  {each.name} ({rangeOf(each)}){variantOf(draft.tree, each.name) ? '' : ', as the base'}
                </option>
              ))}
            </select>
          </>
        )}
        <span>
          {draft.published === null
            ? 'never published'
            : ahead === 0
              ? 'as published'
              : `${ahead} ${ahead === 1 ? 'change' : 'changes'} not published`}
        </span>
      </div>
      <span className="bar-space" />
      <button type="button" className="tool" title="All commands (Ctrl+K)" onClick={onCommands}>
        Commands
      </button>
      <button
        type="button"
        className="tool"
        disabled={!undoLabel}
        title={undoLabel ? `Undo: ${undoLabel} (Ctrl+Z)` : 'Nothing to undo'}
        onClick={state.undo}
      >
        Undo
      </button>
      <button
        type="button"
        className="tool"
        disabled={!redoLabel}
        title={redoLabel ? `Redo: ${redoLabel} (Ctrl+Shift+Z)` : 'Nothing to redo'}
        onClick={state.redo}
      >
        Redo
      </button>
      <button type="button" className="tool" aria-pressed={trying} onClick={onTry}>
        {trying ? 'Back to designing' : 'Try it'}
      </button>
      {ahead > 0 && (
        <Approval
          draft={{ kind: 'layout', key: draft.key, revision: draft.revision }}
          {...approvals}
          onRefused={(message) => state.say(message, true)}
        />
      )}
      {may(session, 'publish') && (
        <button type="button" className="tool primary" disabled={ahead === 0} onClick={onPublish}>
          Publish…
        </button>
      )}
    </header>
  );
}
