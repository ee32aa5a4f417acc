import type { Item, PanelItem, ResolvedForm, Section } from '#form';
import type { NewNode } from '#layout';
import { answer, api } from '../../api/client.ts';

/** A piece as it is drawn by itself, its slots in the place of fields. */
export const readPieceForm = (key: string, language: string): Promise<ResolvedForm> =>
  answer(
    api.GET('/api/layouts/{key}/preview', { params: { path: { key }, query: { mode: 'edit', language, showHidden: true } } }),
  ) as unknown as Promise<ResolvedForm>;

/** What pieces look like before they are placed: read when one is held over the form, and known a moment later. */
export class PieceForms {
  private readonly known = new Map<string, ResolvedForm | undefined>();

  /** The form of a piece; nothing while it is not known. */
  of(key: string, language: string): ResolvedForm | undefined {
    const name = `${language} ${key}`;
    if (!this.known.has(name)) {
      this.known.set(name, undefined);
      readPieceForm(key, language).then(
        (form) => this.known.set(name, form),
        () => this.known.delete(name),
      );
    }
    return this.known.get(name);
  }
}

/** A piece as an item of a form: its slots bound to fields; what shows a slot that is bound to nothing is left out. */
export function pieceItem(node: NewNode, form: ResolvedForm, slots: Readonly<Record<string, string>>): PanelItem {
  const id = node.id ?? 'new piece';
  const boundItem = (item: Item): Item[] => {
    const named = { ...item, id: `${id}/${item.id}` };
    if (named.kind === 'panel')
      return [{ ...named, pages: named.pages.map((page) => ({ ...page, sections: boundSections(page.sections) })) }];
    if (named.kind !== 'field' || !form.fields[named.field]) return [named];
    const field = slots[named.field];
    return field ? [{ ...named, field }] : [];
  };
  const boundSections = (sections: readonly Section[]): Section[] =>
    sections.map((section) => ({
      ...section,
      id: `${id}/${section.id}`,
      rows: section.rows.map((row) => ({
        ...row,
        id: `${id}/${row.id}`,
        cells: row.cells.map((cell) => ({ ...cell, id: `${id}/${cell.id}`, items: cell.items.flatMap(boundItem) })),
      })),
    }));
  const pages = [{ id: `${id}-page`, title: '', sections: boundSections(form.pages.flatMap((page) => page.sections)) }];
  return { id, kind: 'panel', arrangement: 'stack', pages };
}
