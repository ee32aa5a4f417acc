import { make, place } from '#form';
import { address } from '../shell/location.ts';
import { may, session } from '../shell/session.ts';
import { words, type Word } from '../shell/words.ts';
import type { RecordPlace } from './recordRequests.ts';
import type { RecordState } from './recordStates.ts';
import { shownIn } from './recordStates.ts';

/** What the buttons of the bar do. */
export interface RecordActs {
  edit: () => void;
  cancel: () => void;
  save: (close: boolean) => void;
  remove: () => void;
}

const button = (run: () => void, main = false) =>
  make('button', { type: 'button', class: main ? 'button primary' : 'button', on: { click: run } });

/** The bar above a record: the way back, and what can be done with the record in its state. */
export class RecordBar {
  readonly element = make('header', { class: 'record-bar' });
  private readonly cancelling: HTMLButtonElement;
  private readonly savingAndClosing: HTMLButtonElement;
  private readonly saving: HTMLButtonElement;
  private readonly removing: HTMLButtonElement;
  private readonly editing: HTMLButtonElement;

  constructor(
    private readonly at: RecordPlace,
    acts: RecordActs,
    private readonly unsavedNotice: HTMLElement,
  ) {
    this.cancelling = button(() => acts.cancel());
    this.savingAndClosing = button(() => acts.save(true));
    this.saving = button(() => acts.save(false), true);
    this.removing = button(() => acts.remove());
    this.editing = button(() => acts.edit(), true);
  }

  show(state: RecordState, layout: string | undefined): void {
    const say = words();
    const arrow = make('span', { 'aria-hidden': 'true', class: 'back-arrow' }, '←');
    const back = make('a', { class: 'back', href: address('records', this.at.entity) }, arrow, ` ${say('backToList')}`);
    const shown = shownIn(state);
    if (!shown || layout === undefined) return place(this.element, [back]);
    const labels: [HTMLButtonElement, Word][] = [
      [this.cancelling, 'cancel'],
      [this.savingAndClosing, 'saveClose'],
      [this.saving, 'save'],
      [this.removing, 'remove'],
      [this.editing, 'edit'],
    ];
    const busy = state.phase.name !== 'open' && state.phase.name !== 'conflict';
    for (const [each, word] of labels) {
      if (each.textContent !== say(word)) each.textContent = say(word);
      each.disabled = busy;
    }
    const acts = shown.mode === 'view' ? this.whileReading(layout) : [this.cancelling, this.savingAndClosing, this.saving];
    place(this.element, [back, make('span', { class: 'bar-space' }), this.unsavedNotice, ...acts]);
  }

  private whileReading(layout: string): HTMLElement[] {
    const say = words();
    const { entity, id } = this.at;
    const link = (href: string, word: Word) => make('a', { class: 'button', href }, say(word));
    const designing = link(address('design', layout, ...(id === undefined ? [] : ['record', id])), 'designForm');
    // The designer opens where one is: on this record, at the section in view.
    designing.addEventListener('click', () => {
      const at = sectionInView(this.element);
      if (id !== undefined && at) designing.setAttribute('href', address('design', layout, 'record', id, at));
    });
    return [
      ...(may(session(), 'configure') ? [designing] : []),
      ...(id === undefined ? [] : [link(address('print', entity, id), 'print')]),
      ...(may(session(), 'write-records') ? [this.removing, this.editing] : []),
    ];
  }
}

/** The first section of the form that is seen under the bar. */
function sectionInView(bar: HTMLElement): string | undefined {
  const { bottom } = bar.getBoundingClientRect();
  const sections = document.querySelectorAll<HTMLElement>('.bt-form .bt-section[data-node]');
  return [...sections].find((section) => section.getBoundingClientRect().bottom > bottom + 24)?.dataset['node'];
}
