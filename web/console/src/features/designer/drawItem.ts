import { FormStore, FormView, type Item, type ResolvedForm, type Values } from '#form';
import type { NewNode } from '#layout';
import { pieceItem } from './pieceForms.ts';
import { partOf, typesOf, type FormSubject } from './resolvedParts.ts';

/** A piece as it is placed: its own form, and what its slots are bound to. */
export interface PlacedPiece {
  form: ResolvedForm;
  slots: Record<string, string>;
}

/**
 * An item that is not on the form yet, as it will be drawn there; nothing where only the service can tell.
 * @param piece the piece it is a use of, where it is one that is known
 */
export function drawItem(
  node: NewNode,
  store: FormStore,
  values: Values,
  known: FormSubject,
  piece?: PlacedPiece,
): HTMLElement | undefined {
  const item = piece ? pieceItem(node, piece.form, piece.slots) : (partOf(node, known) as unknown as Item | undefined);
  if (!item || !('kind' in item)) return undefined;
  const shown = Object.values(piece?.slots ?? {}).map((field): NewNode => ({ kind: 'field', properties: { field } }));
  const { form } = store;
  const rows = [{ id: '-row', cells: [{ id: '-cell', span: 12, items: [item] }] }];
  const sections = [{ id: '-section', frame: 'none' as const, labels: 'above' as const, columns: 1, rows }];
  const alone = {
    ...form,
    variants: undefined,
    arrangement: 'stack' as const,
    fields: { ...form.fields, ...typesOf([node, ...shown], known) },
    pages: [{ id: '-page', title: '', sections }],
  };
  const view = new FormView(new FormStore(alone, values, {}, store.host, { showHidden: true }));
  return view.element.querySelector<HTMLElement>('.bt-item') ?? undefined;
}
