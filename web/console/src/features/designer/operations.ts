import {
  balance,
  find,
  flow,
  outermost,
  parentOf,
  placeAt,
  removeAll,
  split,
  step,
  ungroup,
  walk,
  widen,
  withIds,
  without,
  wrap,
  type Edit,
  type Facts,
  type Place,
  type Subject,
  type TreeNode,
} from '#layout';
import type { FieldInfo } from '../../api/client.ts';
import { isWide } from './propertyRules.ts';
import { textIn, withText } from '../../shell/localTexts.ts';
import { namingProperty } from './names.ts';
import { say } from '../../shell/configurator/texts.ts';

interface Around {
  tree: TreeNode | undefined;
  selection: string[];
  fields: FieldInfo[];
  facts: Facts;
  language: string;
  languages: string[];
  /** The base, while a width's own form is changed: what it has is not taken off there but hidden. */
  base: TreeNode | undefined;
  nameOf: (id: string) => string;
  announce: (text: string, bad?: boolean) => void;
  apply: (edits: Edit[], label: string, goesOn?: boolean) => Promise<Edit[] | undefined>;
  /** What was placed just now and is named where it stands: its name belongs to its placing. */
  fresh: string | undefined;
  showPage: (id: string) => void;
  select: (ids: string[]) => void;
  /** Asks what a new part is called. */
  name: (part: string) => Promise<string | undefined>;
  place: (chosen: Place, subject: Subject) => void;
}

const moves = {
  up: 'operations.moveUp',
  down: 'operations.moveDown',
  left: 'operations.moveLeft',
  right: 'operations.moveRight',
} as const;

/** A part that was made just now, made again with its name, so that its id is after that. */
function madeAnew(
  tree: TreeNode,
  { id, kind, properties, children }: TreeNode,
  more: TreeNode['properties'],
): { edits: Edit[]; id: string } {
  const parent = parentOf(tree, id)!;
  const before = parent.children[parent.children.findIndex((child) => child.id === id) - 1];
  const node = withIds(
    { kind, properties: { ...properties, ...more }, children },
    [...walk(without(tree, id))].map((each) => each.id),
  );
  return {
    id: node.id,
    edits: [
      { op: 'remove', node: id },
      { op: 'insert', node, parent: parent.id, at: before ? { after: before.id } : 'first' },
    ],
  };
}

/** What is done with the selected parts where they stand: each is one change with a name. */
export function rearranging(around: Around) {
  const { tree, selection, fields, facts, base, nameOf, announce, apply, select, name, place } = around;
  const selected = selection.at(-1);
  const parts = selection.length === 1 ? nameOf(selected!) : say('common.parts', selection.length);
  const change = (edits: Edit[], label: string) => {
    if (edits.length > 0) void apply(edits, label);
  };
  return {
    ...naming(around),
    remove: () => {
      if (!tree || !selected) return;
      const next = parentOf(tree, selected);
      const { edits, hides } = removing(tree, base, selection);
      change(edits, say(hides ? 'operations.hide' : 'operations.remove', parts));
      select(!base && selection.length === 1 && next && next.kind !== 'cell' && next.kind !== 'row' ? [next.id] : []);
    },
    move: (direction: 'up' | 'down' | 'left' | 'right') =>
      change(tree && selected ? step(tree, selected, direction, facts) : [], say(moves[direction], parts)),
    widen: (by: 1 | -1) => {
      const edits = tree ? widen(tree, selection, by) : [];
      if (edits.length === 0) announce(say('operations.itCannotBeMadeWider'), true);
      change(edits, say('common.widthOf', parts));
    },
    wrap: async () => {
      const title = await name('section');
      const wrapped = tree && title ? wrap(tree, selection, title) : undefined;
      if (!wrapped) return;
      await apply(wrapped.edits, say('operations.putInto', selection.length, title!));
      select([wrapped.section]);
    },
    ungroup: () => change(tree && selected ? ungroup(tree, selected) : [], say('operations.removeTheFrameOf', parts)),
    balance: () => change(tree && selected ? balance(tree, selected) : [], say('operations.shareEachRowOfEvenly', parts)),
    split: () => {
      const cell = tree && selected ? parentOf(tree, selected) : undefined;
      change(tree && cell ? split(tree, cell.id) : [], say('operations.addAnEmptyCellAfter', parts));
    },
    columns: (count: number) =>
      change(tree && selected ? flow(tree, selected, count, isWide(fields)) : [], say('operations.flow', parts, count)),
    toTab: (page: string) => {
      const chosen = tree && selected ? placeAt(tree, { node: selected }, { target: page, edge: 'inside' }, facts) : undefined;
      if (chosen) place(chosen, { node: selected! });
    },
  };
}

/** How the selected part is named where it stands. */
function naming({ tree, selection, fresh, showPage, language, languages, nameOf, apply, select }: Around) {
  const selected = selection.at(-1);
  const node = selected && tree ? find(tree, selected) : undefined;
  const property = node && namingProperty(node.kind);
  const written = node && property ? textIn(node.properties[property], language) || (node.kind === 'field' ? nameOf(node.id) : '') : '';
  return {
    /** What the selected node is called as it is written, and whether that can be changed where it stands. */
    written,
    nameable: selection.length === 1 && property !== undefined,
    rename: (to: string | undefined) => {
      if (!node || !property || to === undefined || to.trim() === written) return;
      const label = say('operations.nameOf', nameOf(node.id));
      if (node.id !== fresh || !tree) {
        const value = withText(node.properties[property], to.trim(), language, languages);
        void apply([{ op: 'set', node: node.id, property, value }], label);
        return;
      }
      const { edits, id } = madeAnew(tree, node, { [property]: to.trim() });
      void apply(edits, label, true);
      if (node.kind === 'page') showPage(id);
      select([id]);
    },
  };
}

/** Takes parts away: over a base what is of it is hidden, and what is there at this width alone goes with the row made for it. */
function removing(tree: TreeNode, base: TreeNode | undefined, selection: string[]): { edits: Edit[]; hides: boolean } {
  if (!base) return { edits: removeAll(tree, selection), hides: false };
  const all = outermost(tree, selection);
  const hidden = all.filter((id) => find(base, id)).map((id): Edit => ({ op: 'set', node: id, property: 'hidden', value: true }));
  const own = all.filter((id) => !find(base, id));
  return { edits: [...hidden, ...removeAll(tree, own)], hides: hidden.length > 0 };
}
