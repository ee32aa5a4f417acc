import type { FormStore } from '#form';
import type { Edit, Facts, NewNode, Place, Spot, Subject, TreeNode } from '#layout';
import type { Finding } from '../../api/client.ts';
import type { Mark } from './marks.ts';

export interface CanvasProps {
  store: FormStore;
  tree: TreeNode;
  facts: Facts;
  /** What is selected, the last chosen last. */
  selection: string[];
  trying: boolean;
  page: string | undefined;
  onPage: (id: string) => void;
  /** Selects a node; adding, takes it into what is selected or out of it; up to it, all between. */
  onSelect: (id: string | undefined, how: boolean | 'upTo') => void;
  /** The sheet's width in pixels. */
  width: number;
  /** The name of the selected node is being written where it stands. */
  renaming: string | undefined;
  onRename: (name: string | undefined) => void;
  onBeginRename: () => void;
  onSize: (node: string, property: 'span' | 'lines' | 'units', value: number) => void;
  onMenu: (at: { x: number; y: number }) => void;
  /** Something was pasted from the clipboard. */
  onPaste: (text: string) => void;
  /** Something is taken hold of, and will be over the form in a moment. */
  onHold: (subject: Subject) => void;
  onPlace: (place: Place, subject: Subject) => Promise<void>;
  /** Several were dropped together, the first of them at a place. */
  onPlaceSeveral: (subjects: Subject[], first: Place) => Promise<void>;
  /** Takes an empty cell away, so that the others close up. */
  onCloseUp: (cell: string) => void;
  onSelectAll: (ids: string[]) => void;
  /** Draws an item that is not on the form yet; nothing where it cannot be told. */
  draw: (node: NewNode) => HTMLElement | undefined;
  nameOf: (id: string) => string;
  /** What happened to nodes since what the form is compared with. */
  marks: Map<string, Mark>;
  /** What the checks find, shown where it is. */
  findings: readonly Finding[];
  onMend: (edits: Edit[], label: string) => void;
  /** How many comments are open on items. */
  comments: ReadonlyMap<string, number>;
  onComments: (item: string) => void;
  /** What others have selected, by person. */
  others: ReadonlyMap<string, { nodes: readonly string[] }>;
  /** Whether the order of the Tab key is shown. */
  tabOrder: boolean;
  /** A spot the keyboard stands at while placing. */
  spot: Spot | undefined;
  /** What is being placed: a click places it. */
  placing: Subject | undefined;
  onKeyDown: (event: React.KeyboardEvent) => void;
}
