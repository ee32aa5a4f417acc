import { useMemo } from 'react';
import { walk, type Edit, type TreeNode } from '#layout';
import { answer, api, type FieldInfo, type Piece } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { address } from '../../shell/location.ts';
import { say } from '../../shell/configurator/texts.ts';

/** What of a draft the list of pieces tells: where it uses which; of a piece, whatever its slots are made of. */
const usesOf = (tree: TreeNode, revision: number) =>
  tree.properties['kind'] === 'piece'
    ? String(revision)
    : [...walk(tree)].flatMap((node) => (node.kind === 'piece' ? [`${node.id} ${String(node.properties['piece'])}`] : [])).join();

/** Every piece there is, the one changed last first; asked for anew when the draft uses others, or what it rests on has changed. */
export function usePieces(draft: { tree: TreeNode; revision: number } | undefined, reloads: number): Piece[] {
  // What is only shown ahead of its answer nobody else knows of yet: it counts with the revision it comes to.
  const revision = draft?.revision;
  const uses = useMemo(() => draft && usesOf(draft.tree, draft.revision), [revision]); // eslint-disable-line react-hooks/exhaustive-deps
  const ask = uses === undefined ? undefined : () => answer(api.GET('/api/pieces'));
  return useAnswer(['unchanging', 'pieces', uses, reloads], ask, { keeps: true }).data ?? none;
}

const none: Piece[] = [];

/** Where a piece is used: what every change to it reaches once it is published. */
export function PieceUses({ piece }: { piece: Piece }) {
  return (
    <fieldset className="properties-group">
      <legend>{say('pieceUses.whereItIsUsed')}</legend>
      {piece.uses.length === 0 ? <p>{say('pieceUses.notUsedYet')}</p> : <p>{say('pieceUses.showsIn', piece.uses.length)}</p>}
      <ul>
        {piece.uses.map((use) => (
          <li key={use.layout + use.node}>
            <a href={address('design', use.layout)}>{use.title}</a> <code>{use.node}</code>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}

/** A use of a piece on this form: what its slots are bound to, the way to the piece, and out of the link. */
export function PieceUse({
  node,
  piece,
  fields,
  onEdit,
  onDetach,
}: {
  node: TreeNode;
  piece: Piece | undefined;
  fields: FieldInfo[];
  onEdit: (edits: Edit[], label: string) => void;
  onDetach: () => void;
}) {
  const bound = (node.properties['slots'] ?? {}) as Record<string, string>;
  if (!piece) return null;
  const bind = (slot: string, field: string) =>
    onEdit(
      [
        {
          op: 'set',
          node: node.id,
          property: 'slots',
          value: Object.fromEntries(Object.entries({ ...bound, [slot]: field }).filter(([, each]) => each)),
        },
      ],
      say('pieceUses.bindOf', slot, piece.title),
    );
  return (
    <fieldset className="properties-group piece-use">
      <legend>{piece.title}</legend>
      {piece.slots.map((slot) => (
        <div key={slot.slot} className="property">
          <label htmlFor={`bind-${slot.slot}`}>{slot.label}</label>
          <select
            id={`bind-${slot.slot}`}
            className="tool-input"
            value={bound[slot.slot] ?? ''}
            onChange={(event) => bind(slot.slot, event.target.value)}
          >
            <option value="">{say('common.nothing')}</option>
            {fields
              .filter((field) => slot.types.includes(field.type))
              .map((field) => (
                <option key={field.key} value={field.key}>
                  {field.label}
                </option>
              ))}
          </select>
        </div>
      ))}
      <p>{say('pieceUses.usedIn', piece.uses.length)}</p>
      <a className="tool" href={address('design', piece.key)}>
        {say('pieceUses.openThePiece')}
      </a>
      <button type="button" className="tool" onClick={onDetach}>
        {say('common.detachThePiece')}
      </button>
    </fieldset>
  );
}
