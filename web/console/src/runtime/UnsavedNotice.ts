import { make, type FormStore, type Mode } from '#form';
import { guardLeaving, isLeaving } from '../shell/location.ts';
import { words } from '../shell/words.ts';
import { keepUnsaved } from './unsavedEntries.ts';

/** Where what is typed belongs. */
export interface EntryContext {
  person: string;
  entity: string;
  id: number | undefined;
  /** The version typed over. */
  version: number;
  mode: Mode;
  /** Something kept before waits to be taken up, or is still looked for, and is not written over. */
  waits: boolean;
}

/** How long after a keystroke what was typed is kept, in milliseconds. */
const patience = 400;

/** Says that something is not saved, asks before it is left, and keeps it meanwhile. */
export class UnsavedNotice {
  readonly element = make('span', { class: 'unsaved', role: 'status' });
  private wait: ReturnType<typeof setTimeout> | undefined;
  private stop: () => void = () => undefined;
  private store: FormStore | undefined;
  private dirty = false;

  /** Left all the same, what was typed is thrown away. */
  constructor(
    private readonly typing: () => EntryContext,
    private readonly thrownAway: () => void,
  ) {}

  /** Follows a form from now on. */
  follow(store: FormStore | undefined): void {
    if (store === this.store) return;
    this.stop();
    this.store = store;
    this.stop = store?.subscribe('values', () => this.look()) ?? (() => undefined);
    this.look();
  }

  /** Looks again, as after something was saved or taken up. */
  look(): void {
    const dirty = this.store?.dirty === true;
    if (dirty !== this.dirty) {
      this.dirty = dirty;
      this.element.textContent = dirty ? words()('notSaved') : '';
      this.guard();
    }
    clearTimeout(this.wait);
    const { mode, waits } = this.typing();
    if (mode !== 'view' && !waits && this.store) this.wait = setTimeout(() => this.keep(), patience);
  }

  close(): void {
    clearTimeout(this.wait);
    this.stop();
    this.dirty = false;
    this.guard();
  }

  private readonly ask = (event: BeforeUnloadEvent) => {
    if (!isLeaving()) event.preventDefault();
  };

  private guard(): void {
    guardLeaving(
      this.dirty
        ? () => {
            const leave = window.confirm(words()('leave'));
            if (leave) this.thrownAway();
            return leave;
          }
        : undefined,
    );
    if (this.dirty) window.addEventListener('beforeunload', this.ask);
    else window.removeEventListener('beforeunload', this.ask);
  }

  /** For the case that it is never saved. */
  private keep(): void {
    const { store } = this;
    const { person, entity, id, version } = this.typing();
    if (!store) return;
    const values = store.changes();
    const names = Object.fromEntries(
      Object.keys(values).flatMap((field) => {
        const name = store.name(field);
        return name ? [[field, name]] : [];
      }),
    );
    void keepUnsaved(
      person,
      entity,
      id,
      store.dirty ? { at: Date.now(), version, values, names, related: store.relatedSaves() } : undefined,
    );
  }
}
