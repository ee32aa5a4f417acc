import { sayGrammar } from '../../shell/configurator/texts.ts';
import type { LayoutSummary } from '../../api/client.ts';

/** What layouts are sought by. */
export interface LayoutSearch {
  /** Words of the title, the key, the kind or the entity; all of them, whatever their case. */
  text: string;
  state: LayoutState;
  /** Of one entity, of one kind; of any where it is empty. */
  entity: string;
  kind: string;
  sort: 'title' | 'changed';
}

/** The states one looks for, by name, each with what it is called. */
export const layoutStates = {
  any: 'layoutState.any',
  unpublished: 'layoutState.unpublished',
  findings: 'layoutState.findings',
  comments: 'layoutState.comments',
  damaged: 'layoutState.damaged',
  archived: 'layoutState.archived',
} as const;

export type LayoutState = keyof typeof layoutStates;

const holds: Record<LayoutState, (layout: LayoutSummary) => boolean> = {
  any: () => true,
  unpublished: (layout) => layout.published !== layout.revision,
  findings: (layout) => layout.errors > 0 || layout.warnings > 0,
  comments: (layout) => layout.comments > 0,
  damaged: (layout) => Boolean(layout.damaged),
  // Those that are archived are asked for by themselves.
  archived: () => true,
};

const isOf = (one: string, sought: string) => sought === '' || one === sought;

/** The layouts that are sought, by title or the one changed last first. */
export function searchLayouts(
  layouts: readonly LayoutSummary[],
  { text, state, entity, kind, sort }: LayoutSearch,
  entityName: (key: string) => string,
): LayoutSummary[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = layouts.filter((layout) => {
    const about = [layout.title, layout.key, layout.kind, sayGrammar('word', layout.kind), entityName(layout.entity)]
      .join(' ')
      .toLowerCase();
    return isOf(layout.entity, entity) && isOf(layout.kind, kind) && holds[state](layout) && words.every((word) => about.includes(word));
  });
  const titles = new Intl.Collator(undefined, { numeric: true });
  return sort === 'changed'
    ? found.toSorted((one, other) => other.changedAt.localeCompare(one.changedAt))
    : found.toSorted((one, other) => titles.compare(one.title, other.title));
}
