import type { Edit, TreeNode } from '#layout';
import type { EditResult, Finding, LayoutView } from '../../api/client.ts';
import type { ParentLayout } from './derivedLayout.ts';
import type { QueuedChange } from './offlineQueue.ts';

export interface Draft {
  key: string;
  entity: string;
  revision: number;
  published: number | null;
  tree: TreeNode;
  findings: Finding[];
}

/** A change of what is looked at. */
export type PendingChange = Pick<QueuedChange, 'edits' | 'width'>;

/** Edits that were sent; the revision they came to, once the service has answered. */
export interface SentChange extends QueuedChange {
  revision?: number;
}

export interface DraftMessage {
  text: string;
  bad: boolean;
}

export interface DraftState {
  draft: Draft | undefined;
  /** What the draft extends; nothing for a layout of its own. */
  under: ParentLayout | undefined;
  /** What was sent last: the sheet shows it before the service has said what it came to. */
  ahead: readonly SentChange[];
  message: DraftMessage | undefined;
  undoLabel: string | undefined;
  redoLabel: string | undefined;
  /**
   * Changes what is seen, at a width or at the base; with the edits of the draft itself that this came to, or nothing where it was refused.
   * What goes on with the change before is undone with it.
   */
  apply: (edits: Edit[], label: string, width?: string, goesOn?: boolean) => Promise<Edit[] | undefined>;
  /** A change that the service works out itself, after all that waits; undone like any other. Throws where it is refused. */
  perform: (call: () => Promise<EditResult>, label: string) => Promise<EditResult | undefined>;
  undo: () => void;
  redo: () => void;
  announce: (text: string, bad?: boolean) => void;
  refresh: () => Promise<void>;
  /** Takes over what the checks find, which is known a moment after the draft is. */
  check: (view: LayoutView) => void;
}

/** What a change is called: names are in it, which may be longer than the service keeps. */
export const changeLabel = (text: string): string => (text.length <= 200 ? text : `${text.slice(0, 199).replace(/[\uD800-\uDBFF]$/, '')}…`);
