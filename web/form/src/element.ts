import { make } from './dom/dom.ts';
import { FormView } from './drawing/FormView.ts';
import { ErrorSummary, focusField } from './drawing/summary.ts';
import { FormStore } from './state/store.ts';
import styles from './form.css?inline';
import { say } from './model/texts.ts';
import tokens from './tokens.css?inline';
import { writeAsIn } from './values/locale.ts';
import type { Mode, RecordName, ResolvedForm, FormHost, Values } from './model/types.ts';

interface SaveResult {
  id: number;
  version: number;
  title: string;
  values: Values;
  references: Record<string, RecordName>;
}

/** What the service says when it does not do something (RFC 9457). */
class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly problem: { detail?: string; title?: string; code?: string; problems?: { pointer: string; message: string }[] },
  ) {
    super(problem.detail ?? problem.title ?? `Status ${status}`);
  }
}

/**
 * <bright-form service="https://quay.example.org" entity="vessel" record="1" mode="edit"></bright-form>
 *
 * A published form in any page. Attributes: service (the address of Bright Tier; the page's own without one), entity, record (none for a
 * new one), mode (create, edit or view), kind, language, region (whose dates and numbers are written, ISO 3166-1; for all forms of the
 * page). The property token is a personal token. Events, which bubble: bright-load, bright-change (detail: field values that differ),
 * bright-save (detail: the saved record), bright-error (detail: message, problem). save() saves, and answers whether it did.
 */
export class BrightForm extends HTMLElement {
  static readonly observedAttributes = ['service', 'entity', 'record', 'mode', 'kind', 'language', 'region'];

  private readonly frame = make('div');
  private drawn: (FormView | ErrorSummary)[] = [];
  private store: FormStore | undefined;
  private release = 0;
  private version = 0;
  private secret = '';
  private asked = 0;
  private waiting = false;

  /** A personal token, by which the service knows who looks. */
  set token(value: string) {
    this.secret = value;
    this.reload();
  }

  get token(): string {
    return this.secret;
  }

  /** Values that differ from what is saved. */
  get changes(): Values {
    return this.store?.changes() ?? {};
  }

  connectedCallback(): void {
    const shadow = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    if (!this.frame.isConnected) {
      const sheet = new CSSStyleSheet();
      // Custom properties of a page stand at its root; in here they stand at the host.
      sheet.replaceSync(`${tokens.replaceAll(':root', ':host')}\n:host { display: block; font-family: var(--font); }\n${styles}`);
      shadow.adoptedStyleSheets = [sheet];
      shadow.append(this.frame);
    }
    this.reload();
  }

  disconnectedCallback(): void {
    this.asked++;
    this.draw();
    this.shadowRoot?.replaceChildren();
  }

  attributeChangedCallback(): void {
    this.reload();
  }

  /** Saves what was typed; false when something stands against it, which is then shown. */
  async save(): Promise<boolean> {
    const { store } = this;
    if (!store) return false;
    if (!store.validate()) {
      this.toFirst();
      return false;
    }
    const related = store.relatedSaves();
    const values = store.toSave();
    const body = JSON.stringify({
      values,
      form: { release: this.release, mode: this.formMode, kind: this.kind },
      ...(related.length > 0 ? { related } : {}),
    });
    const path = `api/records/${encodeURIComponent(this.entity)}`;
    try {
      const saved = await (store.record === undefined
        ? this.ask<SaveResult>(path, { method: 'POST', body })
        : this.ask<SaveResult>(`${path}/${store.record}`, { method: 'PATCH', body, headers: { 'If-Match': `"${this.version}"` } }));
      this.version = saved.version;
      store.replaceRecord(saved.values, saved.references, saved.id);
      this.tell('bright-save', saved);
      return true;
    } catch (error) {
      if (error instanceof Refusal)
        store.showProblems((error.problem.problems ?? []).map((part) => ({ field: part.pointer, message: part.message })));
      this.fail(error);
      this.toFirst();
      return false;
    }
  }

  private get entity(): string {
    return this.getAttribute('entity') ?? '';
  }

  private get kind(): string {
    return this.getAttribute('kind') ?? 'full';
  }

  private get formMode(): Mode {
    const asked = this.getAttribute('mode');
    return asked === 'create' || asked === 'view' || asked === 'edit' ? asked : this.hasAttribute('record') ? 'edit' : 'create';
  }

  /** Several attributes set at once are one loading. */
  private reload(): void {
    if (!this.isConnected || this.waiting) return;
    this.waiting = true;
    queueMicrotask(() => {
      this.waiting = false;
      if (this.isConnected && this.entity) void this.load();
    });
  }

  private async load(): Promise<void> {
    const ask = ++this.asked;
    const id = this.getAttribute('record');
    const language = this.getAttribute('language');
    writeAsIn(this.getAttribute('region'));
    try {
      const [form, record] = await Promise.all([
        this.fetch(
          `api/forms/${encodeURIComponent(this.entity)}${queryOf({ kind: this.kind, mode: this.formMode, record: id, language })}`,
        ),
        id ? this.ask<SaveResult>(`api/records/${encodeURIComponent(this.entity)}/${id}`) : undefined,
      ]);
      // Answers may overtake each other; only the last question counts.
      if (ask !== this.asked) return;
      this.release = Number(form.headers.get('Bright-Release') ?? 0);
      this.version = record?.version ?? 0;
      const store = new FormStore(
        (await form.json()) as ResolvedForm,
        record?.values ?? {},
        record?.references ?? {},
        this.host(),
        record ? { record: record.id } : {},
      );
      store.subscribe('values', () => this.tell('bright-change', store.changes()));
      this.store = store;
      this.draw(new ErrorSummary(store, (field) => this.focusOn(field)), new FormView(store));
      this.tell('bright-load', { release: this.release });
    } catch (error) {
      if (ask !== this.asked) return;
      this.draw();
      this.frame.append(
        make('p', { role: 'alert', class: 'bt-error' }, error instanceof Error ? error.message : say(language ?? 'en', 'rowsFailed')),
      );
      this.fail(error);
    }
  }

  /** Shows these and nothing else. */
  private draw(...drawn: (FormView | ErrorSummary)[]): void {
    for (const each of this.drawn) each.dispose();
    this.drawn = drawn;
    this.frame.replaceChildren(...drawn.map((each) => each.element));
  }

  private focusOn(field: string): void {
    focusField(this.frame, field);
  }

  private toFirst(): void {
    const [first] = this.store?.problems() ?? [];
    if (first) this.focusOn(first.field);
  }

  private tell(name: string, detail: unknown): void {
    this.dispatchEvent(new CustomEvent(name, { detail, bubbles: true, composed: true }));
  }

  private fail(error: unknown): void {
    this.tell('bright-error', {
      message: error instanceof Error ? error.message : String(error),
      problem: error instanceof Refusal ? error.problem : undefined,
    });
  }

  private address(path: string): string {
    return new URL(path, `${(this.getAttribute('service') ?? window.location.origin).replace(/\/$/, '')}/`).href;
  }

  private async fetch(path: string, init: RequestInit = {}): Promise<Response> {
    const headers = new Headers(init.headers);
    headers.set('Accept', 'application/json');
    const language = this.getAttribute('language');
    if (language) headers.set('Accept-Language', language);
    if (typeof init.body === 'string') headers.set('Content-Type', 'application/json');
    if (this.secret) headers.set('Authorization', `Bearer ${this.secret}`);
    const response = await fetch(this.address(path), { ...init, headers });
    if (!response.ok) throw new Refusal(response.status, (await response.json().catch(() => ({}))) as Refusal['problem']);
    return response;
  }

  private async ask<T>(path: string, init?: RequestInit): Promise<T> {
    return (await this.fetch(path, init)).json() as Promise<T>;
  }

  private host(): FormHost {
    const records = (entity: string) => `api/records/${encodeURIComponent(entity)}`;
    return {
      userId: '',
      roles: [],
      timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
      now: () => new Date(),
      lookUp: (entity, text, how) =>
        this.ask(`${records(entity)}/lookup${queryOf({ q: text, filter: how?.filter, display: how?.display, ids: how?.ids?.join(',') })}`),
      read: async (entity, id) => (await this.ask<SaveResult>(`${records(entity)}/${id}`)).values,
      readRelated: async (entity, through, id, sort) =>
        (
          await this.ask<{ records: SaveResult[] }>(
            `${records(entity)}${queryOf({ filter: `record.${through} == ${id}`, limit: '200', sort: sort.join(',') })}`,
          )
        ).records,
      upload: async (file) =>
        (
          (await (
            await this.fetch(`api/files?name=${encodeURIComponent(file.name)}`, {
              method: 'POST',
              body: file,
              headers: { 'Content-Type': 'application/octet-stream' },
            })
          ).json()) as { value: string }
        ).value,
      fileAddress: (value) => this.address(`api/files/${value.split('/').map(encodeURIComponent).join('/')}`),
    };
  }
}

if (!customElements.get('bright-form')) customElements.define('bright-form', BrightForm);

/** A query of what is said; what is empty is left out. */
const queryOf = (parts: Record<string, string | null | undefined>): string =>
  `?${new URLSearchParams(Object.entries(parts).filter((part): part is [string, string] => Boolean(part[1])))}`;
