import type { ReleaseReach } from '../../api/client.ts';
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
