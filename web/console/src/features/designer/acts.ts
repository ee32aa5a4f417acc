import type { Edit, Place, Subject } from '#layout';
import type { rearranging } from './operations.ts';
import type { reusing } from './reuse.ts';

/** What can be done at the desk. */
export interface DeskActs {
  /** Makes a change; what goes on with the one before is undone with it. */
  change: (edits: Edit[], label: string, goesOn?: boolean) => Promise<Edit[] | undefined>;
  place: (chosen: Place, subject: Subject) => Promise<void>;
  /** Places several in their order, the first of them at a place where one is given. */
  placeSeveral: (subjects: Subject[], first?: Place) => Promise<void>;
  parts: ReturnType<typeof rearranging>;
  reuse: ReturnType<typeof reusing>;
  beginRename: () => void;
  rename: (name: string | undefined) => void;
  /** Places something at once; what is on the form already is led to its places. */
  start: (subject: Subject) => void;
  chooseWidth: (name: string | undefined) => void;
  /** Begins a width of this layout's own, up to where the sheet ends. */
  cut: () => Promise<void>;
  /** Opens the list of commands, beside the pointer where that asked for it. */
  listCommands: (about: 'all' | 'selection', at?: { x: number; y: number }) => void;
}
