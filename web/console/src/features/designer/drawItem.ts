import { FormStore, FormView, type Item, type Values } from '#form';
import type { NewNode } from '#layout';
import { partOf, typesOf, type FormSubject } from './resolvedParts.ts';

/** An item that is not on the form yet, as it will be drawn there; nothing where only the service can tell. */
export function drawItem(node: NewNode, store: FormStore, values: Values, known: FormSubject): HTMLElement | undefined {
  const item = partOf(node, known) as unknown as Item | undefined;
  if (!item || !('kind' in item)) return undefined;
  const { form } = store;
  const rows = [{ id: '-row', cells: [{ id: '-cell', span: 12, items: [item] }] }];
  const sections = [{ id: '-section', frame: 'none' as const, labels: 'above' as const, columns: 1, rows }];
  const alone = {
    ...form,
    variants: undefined,
    arrangement: 'stack' as const,
    fields: { ...form.fields, ...typesOf([node], known) },
    pages: [{ id: '-page', title: '', sections }],
  };
  const view = new FormView(new FormStore(alone, values, {}, store.host, { showHidden: true }));
  return view.element.querySelector<HTMLElement>('.bt-item') ?? undefined;
}
