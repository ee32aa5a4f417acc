import type { FormHost, FormStore, RecordName } from '#form';
import type { RecordInfo } from '../api/client.ts';
import type { Island } from '../shell/island.ts';
import { may, session } from '../shell/session.ts';
import type { ConflictProps, RecordCommentsProps, RecordParts, SideSheetProps } from './parts.ts';
import { notice, offer } from './recordNotices.ts';
import type { RecordEvent, RecordState } from './recordStates.ts';
import type { UnsavedEntries } from './unsavedEntries.ts';

/** What the surroundings report to the page. */
interface Reports {
  dispatch: (event: RecordEvent) => void;
  redraw: () => void;
  restore: () => void;
  looked: () => void;
}

/**
 * What stands around a record's form: notices, the conflict of two savings, comments, a sheet beside. Each is kept while what it shows is
 * the same.
 */
export class RecordSurroundings {
  private told: { of: RecordState['notice']; element: HTMLElement } | undefined;
  private offered: { of: UnsavedEntries; element: HTMLElement } | undefined;
  private commentsPart: { of: string; part: Island<RecordCommentsProps> } | undefined;
  private conflictPart: Island<ConflictProps> | undefined;
  private sheet: Island<SideSheetProps> | undefined;

  constructor(
    private readonly entity: string,
    private readonly parts: RecordParts,
    private readonly reports: Reports,
  ) {}

  notice({ notice: of }: RecordState): HTMLElement | undefined {
    if (!of) this.told = undefined;
    else if (this.told?.of !== of) {
      const dismiss = () => this.reports.dispatch({ type: 'dismiss' });
      this.told = { of, element: notice(of, { dismiss, restore: this.reports.restore }) };
    }
    return this.told?.element;
  }

  offer({ unsaved }: RecordState, store: FormStore): HTMLElement[] {
    if (!unsaved || !may(session(), 'write-records')) return [];
    if (this.offered?.of !== unsaved) {
      const restore = () => this.reports.dispatch({ type: 'restore-entries' });
      const discard = () => this.reports.dispatch({ type: 'discard-entries' });
      this.offered = { of: unsaved, element: offer(unsaved, store.form.language, { restore, discard }) };
    }
    return [this.offered.element];
  }

  /** Somebody else saved meanwhile: both are shown, and a choice made for each field. */
  conflict({ phase }: RecordState, store: FormStore): HTMLElement[] {
    if (phase.name === 'conflict' && phase.shown.record)
      this.conflictPart ??= this.parts.conflict({
        store,
        before: phase.shown.record,
        theirs: phase.theirs,
        onDone: (theirs) => this.reports.dispatch({ type: 'resolve', theirs }),
        onCancel: () => this.reports.dispatch({ type: 'leave-conflict' }),
      });
    else {
      this.conflictPart?.close();
      this.conflictPart = undefined;
    }
    return this.conflictPart ? [this.conflictPart.element] : [];
  }

  /** What people say about the record, under it; it follows what becomes of the record. */
  comments(record: RecordInfo, store: FormStore): HTMLElement {
    const of = `${record.id} ${record.version}`;
    const props = { entity: this.entity, record, form: store.form, onLooked: this.reports.looked };
    if (!this.commentsPart) this.commentsPart = { of, part: this.parts.comments(props) };
    else if (this.commentsPart.of !== of) this.commentsPart.part.show(props);
    this.commentsPart.of = of;
    return this.commentsPart.part.element;
  }

  beside(): HTMLElement[] {
    return this.sheet ? [this.sheet.element] : [];
  }

  /** Opens a sheet beside the form: a record, or without its number a new one. */
  openBeside(entity: string, id: number | undefined, host: FormHost, done?: (made: RecordName | undefined) => void): void {
    this.sheet?.close();
    const onClose = (made?: RecordName) => {
      this.sheet?.close();
      this.sheet = undefined;
      this.reports.redraw();
      done?.(made);
    };
    this.sheet = this.parts.sideSheet({ entity, id, host, onClose });
    this.reports.redraw();
  }

  close(): void {
    for (const part of [this.commentsPart?.part, this.conflictPart, this.sheet]) part?.close();
  }
}
