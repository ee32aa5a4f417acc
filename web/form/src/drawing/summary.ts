import type { FormStore } from '../state/store.ts';
import { say } from '../model/texts.ts';
import { make } from '../dom/dom.ts';

/** What stands against saving, each entry leading to its field wherever that is. */
export class ErrorSummary {
  readonly element = make('div', { class: 'bt-summary-place' });
  private stop: () => void = () => undefined;
  private said = '';

  constructor(
    private store: FormStore,
    private readonly reveal: (field: string, id?: string) => void,
  ) {
    this.use(store);
  }

  use(store: FormStore): void {
    this.stop();
    this.store = store;
    this.stop = store.watch((keys) => {
      if (!keys || keys.includes('values')) this.show();
    });
    this.show();
  }

  dispose(): void {
    this.stop();
  }

  private show(): void {
    const problems = this.store.problems();
    const text = problems.map(({ field, message }) => `${field} ${message}`).join('\n');
    if (text === this.said) return;
    this.said = text;
    if (problems.length === 0) return this.element.replaceChildren();
    this.element.replaceChildren(
      make(
        'div',
        { class: 'bt-summary', role: 'alert' },
        make('p', { class: 'bt-summary-title' }, say(this.store.form.language, 'attention')),
        make(
          'ul',
          {},
          ...problems.map(({ field, id, message }) =>
            make('li', {}, make('button', { type: 'button', class: 'bt-link', on: { click: () => this.reveal(field, id) } }, message)),
          ),
        ),
      ),
    );
  }
}

/** Moves the focus to a field's editor, once its page is drawn. */
export function focusField(within: HTMLElement, field: string): void {
  requestAnimationFrame(() => {
    const place = `[data-field="${CSS.escape(field)}"]`;
    // Of several with the same name, as in rows, the one that is wrong.
    const control =
      within.querySelector<HTMLElement>(`${place} [aria-invalid]`) ??
      within.querySelector<HTMLElement>(`${place} :is(input, select, textarea, button)`);
    control?.scrollIntoView({ block: 'center' });
    control?.focus();
  });
}
