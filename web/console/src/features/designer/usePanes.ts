import { useState } from 'react';

/** The two panes beside the sheet. */
export type Side = 'start' | 'end';

interface PaneSize {
  /** In pixels. */
  width: number;
  folded: boolean;
}

/** How wide a pane is at least and at most, in pixels. */
export const paneRange = { least: 200, most: 440 };

const asBuilt: Record<Side, PaneSize> = { start: { width: 240, folded: false }, end: { width: 264, folded: false } };

const kept = 'designer:panes';

function read(): Record<Side, PaneSize> {
  try {
    const stored = JSON.parse(localStorage.getItem(kept) ?? '{}') as Partial<Record<Side, Partial<PaneSize>>>;
    const of = (side: Side): PaneSize => ({
      width: within(Number(stored[side]?.width) || asBuilt[side].width),
      folded: stored[side]?.folded === true,
    });
    return { start: of('start'), end: of('end') };
  } catch {
    return asBuilt;
  }
}

const within = (width: number) => Math.round(Math.max(paneRange.least, Math.min(paneRange.most, width)));

/** How wide the panes are, and which is folded away: as this person left them in this browser. */
export function usePanes() {
  const [panes, setPanes] = useState(read);
  const set = (side: Side, change: Partial<PaneSize>) => {
    const next = { ...panes, [side]: { ...panes[side], ...change } };
    localStorage.setItem(kept, JSON.stringify(next));
    setPanes(next);
  };
  return {
    panes,
    resize: (side: Side, width: number) => set(side, { width: within(width), folded: false }),
    fold: (side: Side, folded: boolean) => set(side, { folded }),
  };
}
