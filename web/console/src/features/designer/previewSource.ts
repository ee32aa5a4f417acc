import { answer, api, type LayoutView } from '../../api/client.ts';

export type LayoutLength = LayoutView['lengths'][number];

/** Through whose eyes a draft is looked at. */
export interface ViewRequest {
  role: string | null;
  mode: string;
  language: string;
  showHidden: boolean;
}

/**
 * A draft as it is looked at: its form, how long it is, and what the checks find. Asked for once for each revision and each pair of eyes,
 * whoever needs it.
 */
export class PreviewSource {
  private asked: { revision: number; request: ViewRequest; view: Promise<LayoutView> } | undefined;

  constructor(private readonly layout: string) {}

  /** Lets go of what was answered: what the draft rests on has changed. */
  forget(): void {
    this.asked = undefined;
  }

  view(revision: number, request: ViewRequest): Promise<LayoutView> {
    const known = this.asked;
    if (known?.revision === revision && same(known.request, request)) return known.view;
    const { role, ...query } = request;
    const view = answer(
      api.GET('/api/layouts/{key}/view', { params: { path: { key: this.layout }, query: { ...query, ...(role ? { role } : {}) } } }),
    );
    const asked = { revision, request, view };
    this.asked = asked;
    // What was not answered is asked for again.
    view.catch(() => {
      if (this.asked === asked) this.asked = undefined;
    });
    return view;
  }

  /** As it is published: at each width, the widest first. */
  publishedLengths(): Promise<readonly LayoutLength[]> {
    return answer(api.GET('/api/layouts/{key}/length', { params: { path: { key: this.layout }, query: { released: true } } }));
  }
}

const same = (one: ViewRequest, other: ViewRequest) =>
  one.role === other.role && one.mode === other.mode && one.language === other.language && one.showHidden === other.showHidden;
