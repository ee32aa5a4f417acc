import { inPlace, outermost, walk, type Edit, type Place, type TreeNode } from '#layout';
import { answer, api, type EditResult, type Piece } from '../../api/client.ts';
import { copy, detach, paste, type ChangeTerms } from './clipboard.ts';
import type { Binding } from './PieceDialog.tsx';
import { describe } from './names.ts';
import { say } from '../../shell/configurator/texts.ts';

interface ReuseContext {
  layout: string;
  tree: TreeNode | undefined;
  selection: string[];
  nameOf: (id: string) => string;
  announce: (text: string, bad?: boolean) => void;
  /** Takes what is selected off. */
  remove: () => void;
  select: (ids: string[]) => void;
  /** Sends edits; answers them as they were done, or nothing when they were refused. */
  apply: (edits: Edit[], label: string) => Promise<Edit[] | undefined>;
  /** Has the service make a change itself; answers what became of it, or nothing where this person may change nothing. */
  perform: (call: (terms: ChangeTerms) => Promise<EditResult>, label: string) => Promise<EditResult | undefined>;
  /** Asks what a piece's slots are bound to. */
  bind: (piece: Piece) => Promise<Binding | undefined>;
  /** Asks what a new piece is called. */
  name: () => Promise<string | undefined>;
}

const inserted = (done: Edit[]) => done.flatMap((edit) => (edit.op === 'insert' ? [edit.node as TreeNode] : []));

const pieceIn = (done: Edit[]) =>
  inserted(done)
    .flatMap((node) => [...walk(node)])
    .find((node) => node.kind === 'piece');

/** The edits that place a piece, with what its slots are bound to. */
const withSlots = (edits: readonly Edit[], slots: Binding['slots']): Edit[] =>
  edits.map((edit) =>
    edit.op === 'insert' && edit.node.kind === 'piece'
      ? { ...edit, node: { ...edit.node, properties: { ...edit.node.properties, slots } } }
      : edit,
  );

/** Parts of a form used elsewhere: copied, cut and pasted, made into pieces, pieces placed and detached. What goes wrong is said. */
export function reusing(around: ReuseContext) {
  const { layout, tree, selection, nameOf, announce, apply, perform, select } = around;
  const selected = selection.at(-1);
  const attempt = async <T>(act: () => Promise<T>): Promise<T | undefined> => {
    try {
      return await act();
    } catch (error) {
      announce((error as Error).message, true);
      return undefined;
    }
  };
  const selectPiece = (done: Edit[] | undefined) => {
    const use = pieceIn(done ?? []);
    if (use) select([use.id]);
  };
  const pasteFrom = (from: Parameters<typeof paste>[1], at: string | undefined, label: string) =>
    attempt(async () => {
      const done = await perform((terms) => paste(layout, from, at, terms), label);
      if (!done) return;
      select(inserted(done.edits as unknown as Edit[]).map((node) => node.id));
      const unmatched = done.unmatched ?? [];
      if (unmatched.length > 0) announce(say('reuse.pastedWithoutThereIsNo', unmatched.join(', ')));
    });
  const copySelected = () =>
    attempt(async () => {
      await copy(layout, selection);
      announce(say('reuse.copied', selection.length > 1 ? say('common.parts', selection.length) : nameOf(selected!)));
      return true;
    });
  return {
    copy: copySelected,
    cut: async () => {
      if (selection.length > 0 && (await copySelected())) around.remove();
    },
    paste: async (text: string) =>
      text.trim() ? pasteFrom({ text }, selected, say('common.paste')) : announce(say('reuse.nothingIsCopiedYetSelect'), true),
    place: async (chosen: Place, piece: Piece | undefined) => {
      const bound = piece && (await around.bind(piece));
      if (!piece || !bound) return;
      const label = say('reuse.place', piece.title, describe(chosen, nameOf));
      if (!bound.linked) await pasteFrom({ piece: piece.key, slots: bound.slots }, chosen.target, say('reuse.asCopy', label));
      else selectPiece(await apply(withSlots(chosen.edits, bound.slots), label));
    },
    make: () =>
      attempt(async () => {
        const title = await around.name();
        if (!tree || !title || outermost(tree, selection).length === 0) return;
        const created = await answer(
          api.POST('/api/layouts/{key}/pieces', { params: { path: { key: layout } }, body: { title, nodes: selection, key: null } }),
        );
        // A use of it, each slot bound to the field it was made of, takes the place of what it was made of.
        const slots = Object.fromEntries(created.slots.map((slot) => [slot.slot, slot.slot]));
        const made = inPlace(tree, selection, { kind: 'piece', properties: { piece: created.key, slots } });
        selectPiece(await apply(made, say('reuse.makeThePiece', title)));
      }),
    detach: () =>
      attempt(async () => {
        if (selected) await perform((terms) => detach(layout, selected, terms), say('reuse.makeACopyOfIts', nameOf(selected)));
      }),
  };
}
