import type { KeyboardEvent, PointerEvent } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { paneRange, type Side, type usePanes } from './usePanes.ts';
import { followPointer } from './WidthScale.tsx';

/** How far an arrow key moves the edge, in pixels. */
const step = 16;

const words = {
  start: { fold: 'panes.foldStart', open: 'panes.openStart', width: 'panes.widthStart' },
  end: { fold: 'panes.foldEnd', open: 'panes.openEnd', width: 'panes.widthEnd' },
} as const;

/**
 * The edge of a pane: dragged or moved by arrows it makes the pane wider or narrower, Enter or its button folds it away and back (ARIA,
 * window splitter).
 */
export function PaneEdge({ side, sizes: { panes, resize, fold } }: { side: Side; sizes: ReturnType<typeof usePanes> }) {
  const { width, folded } = panes[side];
  /** Whether a wider pane is one whose edge goes right. */
  const outwards = (element: Element) => (side === 'start') === (getComputedStyle(element).direction !== 'rtl');
  const drag = (event: PointerEvent<HTMLElement>) => {
    const way = outwards(event.currentTarget) ? 1 : -1;
    followPointer(event, (by) => resize(side, width + way * by));
  };
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const way = outwards(event.currentTarget) ? 1 : -1;
    const by = { ArrowRight: way * step, ArrowLeft: -way * step }[event.key];
    if (by === undefined && event.key !== 'Enter') return;
    event.preventDefault();
    if (by === undefined) fold(side, !folded);
    else resize(side, width + by);
  };
  return (
    <div className="pane-edge" data-side={side} data-folded={folded ? '' : undefined}>
      {!folded && (
        <div
          role="separator"
          aria-orientation="vertical"
          aria-label={say(words[side].width)}
          aria-valuenow={width}
          aria-valuemin={paneRange.least}
          aria-valuemax={paneRange.most}
          tabIndex={0}
          onPointerDown={drag}
          onDoubleClick={() => fold(side, true)}
          onKeyDown={onKeyDown}
        />
      )}
      <button
        type="button"
        aria-label={say(folded ? words[side].open : words[side].fold)}
        title={say(folded ? words[side].open : words[side].fold)}
        aria-expanded={!folded}
        onClick={() => fold(side, !folded)}
      >
        {(side === 'start') === folded ? '\u203a' : '\u2039'}
      </button>
    </div>
  );
}
