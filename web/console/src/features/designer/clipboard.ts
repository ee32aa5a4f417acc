import type { Edit } from '#layout';
import { answer, api } from '../../api/client.ts';

const kept = 'clip';

/** Puts nodes on the clipboard as the text of a piece; what the browser keeps from the clipboard is remembered for this window. */
export async function copy(layout: string, nodes: string[]): Promise<void> {
  const text = await answer(api.GET('/api/layouts/{key}/clipboard', { params: { path: { key: layout }, query: { nodes: nodes.join(',') } }, parseAs: 'text' }));
  sessionStorage.setItem(kept, text);
  await navigator.clipboard?.writeText(text).catch(() => undefined);
}

/** What was copied last in this window. */
export const copied = () => sessionStorage.getItem(kept) ?? '';

/** The edits that put a text or a piece behind a node, and the fields that are not here. */
export async function paste(layout: string, from: { text: string } | { piece: string; slots: Record<string, string> }, at: string | undefined): Promise<{ edits: Edit[]; unmatched: string[] }> {
  const body = { text: null, piece: null, slots: null, at: at ?? null, ...from };
  const offered = await answer(api.POST('/api/layouts/{key}/paste', { params: { path: { key: layout } }, body }));
  return { edits: offered.edits as unknown as Edit[], unmatched: [...offered.unmatched] };
}

/** The edits that turn a piece's use into a copy of its own. */
export async function detach(layout: string, use: string): Promise<Edit[]> {
  return (await answer(api.GET('/api/layouts/{key}/detach', { params: { path: { key: layout }, query: { use } } }))).edits as unknown as Edit[];
}
