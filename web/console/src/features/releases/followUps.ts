import type { ReleaseReach, UnroutedLayout } from '../../api/client.ts';
import { putDocument, readDocument } from '../../api/documents.ts';

interface Menu {
  entries?: { key: string; title: string; entity?: string }[];
}

/** Puts an entry that leads to an entity's records at the end of the menu's draft; what is to be published then. */
export async function addMenuEntry({ entity, label }: ReleaseReach): Promise<{ kind: string; key: string; revision: number }> {
  const menu = await readDocument<Menu>('navigation', 'navigation');
  const entries = menu?.value.entries ?? [];
  const key = entries.some((each) => each.key === entity) ? `${entity}-${entries.length + 1}` : entity;
  const revision = await putDocument(
    'navigation',
    'navigation',
    { kind: 'navigation', ...menu?.value, entries: [...entries, { key, title: label, entity }] },
    menu?.revision ?? 0,
  );
  return { kind: 'navigation', key: 'navigation', revision };
}

interface Routing {
  rules?: { entity: string; form?: string; layout: string; roles?: readonly string[]; when?: string }[];
}

/**
 * Gives a layout to roles, to everybody where none is named, in the draft of the rules; what is to be published then. It stands before the
 * rules that are there, or everybody's would come first.
 */
export async function addRoutingRule(
  { layout, entity, kind }: UnroutedLayout,
  roles: readonly string[],
): Promise<{ kind: string; key: string; revision: number }> {
  const routing = await readDocument<Routing>('routing', 'routing');
  const rule = { entity, ...(kind === 'full' ? {} : { form: kind }), layout, ...(roles.length > 0 ? { roles } : {}) };
  const rules = routing?.value.rules ?? [];
  const next = { kind: 'routing', ...routing?.value, rules: roles.length > 0 ? [rule, ...rules] : [...rules, rule] };
  return { kind: 'routing', key: 'routing', revision: await putDocument('routing', 'routing', next, routing?.revision ?? 0) };
}
