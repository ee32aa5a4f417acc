import { answer, api, type EditResult } from '../../api/client.ts';

const storageKey = 'clip';

/** Puts nodes on the clipboard as the text of a piece; what the browser keeps from the clipboard is remembered for this window. */
export async function copy(layout: string, nodes: string[]): Promise<void> {
  const text = await answer(
    api.GET('/api/layouts/{key}/clipboard', { params: { path: { key: layout }, query: { nodes: nodes.join(',') } }, parseAs: 'text' }),
  );
  sessionStorage.setItem(storageKey, text);
  await navigator.clipboard?.writeText(text).catch(() => undefined);
}

/** What was copied last in this window. */
export const copied = () => sessionStorage.getItem(storageKey) ?? '';

/** How a change is called, and on which width's own form it is made. */
export interface ChangeTerms {
  label: string;
  width: string | null;
}

/** Puts a text or a piece behind a node; what found no field here is told in the answer. */
export const paste = (
  layout: string,
  from: { text: string } | { piece: string; slots: Record<string, string> },
  at: string | undefined,
  terms: ChangeTerms,
): Promise<EditResult> =>
  answer(
    api.POST('/api/layouts/{key}/paste', {
      params: { path: { key: layout } },
      body: { text: null, piece: null, slots: null, at: at ?? null, ...from, ...terms },
    }),
  );

/** Turns a piece's use into a copy of its own. */
export const detach = (layout: string, use: string, terms: ChangeTerms): Promise<EditResult> =>
  answer(api.POST('/api/layouts/{key}/detach', { params: { path: { key: layout } }, body: { use, ...terms } }));
