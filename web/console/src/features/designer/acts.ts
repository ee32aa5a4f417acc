import type { Edit, Place, Subject } from '#layout';
import type { rearranging } from './operations.ts';
import type { reusing } from './reuse.ts';

/** What can be done at the desk. */
export interface DeskActs {
  change: (edits: Edit[], label: string) => Promise<Edit[] | undefined>;
  place: (chosen: Place, subject: Subject) => Promise<void>;
  parts: ReturnType<typeof rearranging>;
  reuse: ReturnType<typeof reusing>;
  beginRename: () => void;
  rename: (name: string | undefined) => void;
  /** Begins placing something: at once where there is but one place, else by choosing. */
  start: (subject: Subject) => void;
  chooseWidth: (name: string | undefined) => void;
  /** Begins a width of this layout's own, up to where the sheet ends. */
  cut: () => Promise<void>;
  listCommands: (about: 'all' | 'selection') => void;
}
