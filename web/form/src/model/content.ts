import type { Content, Item, Page, ResolvedForm, Section } from './types.ts';

type Part = { id: string; same?: string } & Record<string, unknown>;

/** The base's parts by id: pages, sections, rows and items. */
function parts(form: ResolvedForm): Map<string, Part> {
  const found = new Map<string, Part>();
  const walk = (part: unknown): void => {
    if (Array.isArray(part)) part.forEach(walk);
    else if (typeof part === 'object' && part !== null) {
      if ('id' in part) found.set(String(part.id), part as Part);
      for (const key of ['pages', 'sections', 'rows', 'cells', 'items', 'start', 'end', 'top', 'bottom'])
        walk((part as Record<string, unknown>)[key]);
    }
  };
  walk(form);
  return found;
}

/** What a form shows at a width in rem: the variant whose range it is in, with what it shares with the base put in; otherwise the base. */
export function contentOf(form: ResolvedForm, rem: number): Content {
  const variant = form.variants?.find((each) => rem >= each.from && (each.below === undefined || rem < each.below));
  if (!variant) return form;
  const base = parts(form);
  const whole = (part: unknown): unknown => {
    if (Array.isArray(part)) return part.map(whole);
    if (typeof part !== 'object' || part === null) return part;
    if ('same' in part) return base.get(String(part.same));
    return 'id' in part || 'pages' in part
      ? Object.fromEntries(
          Object.entries(part).map(([key, value]) => [
            key,
            ['pages', 'sections', 'rows', 'cells', 'items', 'start', 'end', 'top', 'bottom'].includes(key) ? whole(value) : value,
          ]),
        )
      : part;
  };
  return whole(variant) as Content;
}

/** The item and everything in it. */
export function* itemsIn(sections: Section[]): Generator<Item> {
  for (const section of sections)
    for (const row of section.rows)
      for (const cell of row.cells)
        for (const item of cell.items) {
          yield item;
          if (item.kind === 'panel') for (const page of item.pages) yield* itemsIn(page.sections);
        }
}

/** The page of a panel a node stands on, however deep. */
export function pageOf(pages: Page[], id: string): string | undefined {
  const holds = (sections: Section[]): boolean =>
    sections.some(
      (section) => section.id === id || section.rows.some((row) => row.id === id || row.cells.some((cell) => cell.id === id)),
    ) || [...itemsIn(sections)].some((item) => item.id === id);
  return pages.find((page) => page.id === id || holds(page.sections))?.id;
}
