import type { Mode, ResolvedForm } from '#form';
import { asProblem, ApiError } from '../api/client.ts';
import { carried, takeEarly } from '../api/early.ts';

export interface PublishedForm {
  form: ResolvedForm;
  release: number;
}

/** The published form for whoever is signed in; the browser's cache answers when it has not changed. */
export async function readPublishedForm(entity: string, kind: ResolvedForm['kind'], mode: Mode, record?: number): Promise<PublishedForm> {
  const address = `/api/forms/${encodeURIComponent(entity)}?kind=${kind}&mode=${mode}${record === undefined ? '' : `&record=${record}`}`;
  const here = carried(address);
  if (here) return { form: here.body as ResolvedForm, release: Number(here.release) };
  const response = await takeEarly(new Request(address, { headers: { Accept: 'application/json' } }));
  const body: unknown = await response.json();
  if (!response.ok) throw new ApiError(asProblem(body, response));
  return { form: body as ResolvedForm, release: Number(response.headers.get('Bright-Release')) };
}
