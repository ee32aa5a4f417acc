import type { ResolvedForm } from '#form';
import { answer, api, type EditPreview, type PreviewRequest } from '../../api/client.ts';

export type LayoutLength = EditPreview['lengths'][number];

/**
 * A draft as it is drawn: its form, and how long it is. The answer to a change brings both along, so that they are asked for only where
 * nothing was
 * changed: when the designer opens, through another's eyes, or after something the draft rests on became another.
 */
export class PreviewSource {
  /** What a change asks to be answered with: what was drawn last. */
  request: PreviewRequest | null = null;
  private answered: { revision: number; request: string; preview: EditPreview } | undefined;

  constructor(private readonly layout: string) {}

  /** Keeps what a change was answered with. */
  keep(revision: number, request: PreviewRequest | null, preview: EditPreview | null | undefined): void {
    if (request && preview) this.answered = { revision, request: JSON.stringify(request), preview };
  }

  /** Lets go of what was answered: what the draft rests on has changed. */
  forget(): void {
    this.answered = undefined;
  }

  async form(revision: number, request: PreviewRequest): Promise<ResolvedForm> {
    this.request = request;
    const known = this.answered;
    if (known?.revision === revision && known.request === JSON.stringify(request)) return known.preview.form as unknown as ResolvedForm;
    const { role, mode, language, showHidden } = request;
    const query = { ...(role ? { role } : {}), ...(mode ? { mode } : {}), ...(language ? { language } : {}), showHidden };
    return (await answer(
      api.GET('/api/layouts/{key}/preview', { params: { path: { key: this.layout }, query } }),
    )) as unknown as ResolvedForm;
  }

  /** At each width, the widest first. */
  async lengths(revision: number): Promise<readonly LayoutLength[]> {
    return this.answered?.revision === revision
      ? this.answered.preview.lengths
      : answer(api.GET('/api/layouts/{key}/length', { params: { path: { key: this.layout } } }));
  }

  /** As it is published. */
  publishedLengths(): Promise<readonly LayoutLength[]> {
    return answer(api.GET('/api/layouts/{key}/length', { params: { path: { key: this.layout }, query: { released: true } } }));
  }
}
