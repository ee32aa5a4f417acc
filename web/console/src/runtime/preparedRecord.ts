import { answer, api, type RecordInfo } from '../api/client.ts';
import { takeInitialValues, type InitialValues } from '../shell/newRecord.ts';
import type { Mode } from '#form';
import type { Notice } from './notice.ts';
import { readPublishedForm, type PublishedForm } from './publishedForm.ts';

/** What a record's page draws. */
export interface RecordView extends PublishedForm {
  /** The record as it is stored; nothing for a new one. */
  record: RecordInfo | undefined;
  /** What a new one begins with. */
  given: InitialValues | undefined;
}

export async function open(entity: string, id: number | undefined, mode: Mode): Promise<RecordView> {
  const reading =
    id === undefined ? Promise.resolve(undefined) : answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } }));
  const [served, record] = await Promise.all([readPublishedForm(entity, 'full', mode, id), reading]);
  return { ...served, record, given: id === undefined ? takeInitialValues(entity) : undefined };
}

let prepared: { place: string; opened: RecordView } | undefined;

const placeOf = (entity: string, id: number | undefined) => `${entity}/${id ?? 'new'}`;

/** Opens the record a page begins with before anything is drawn, so that the first picture has it all; a slow one is not waited for. */
export async function prepare([where, entity, record]: string[]): Promise<void> {
  if (where !== 'records' || !entity || !record) return;
  const id = record === 'new' ? undefined : Number(record);
  const opening = open(entity, id, id === undefined ? 'create' : 'view').then(
    (opened) => {
      prepared = { place: placeOf(entity, id), opened };
    },
    () => undefined,
  );
  await Promise.race([opening, new Promise((late) => setTimeout(late, 400))]);
}

/** What was prepared for a place, once. */
export function takePrepared(entity: string, id: number | undefined): RecordView | undefined {
  const taken = prepared?.place === placeOf(entity, id) ? prepared.opened : undefined;
  prepared = undefined;
  return taken;
}

let left: { place: string; notice: Notice } | undefined;

/** Leaves word for the page of a record that is gone to next. */
export function leaveNotice(entity: string, id: number, notice: Notice | undefined): void {
  left = notice && { place: placeOf(entity, id), notice };
}

/** What was left for a place, once. */
export function takeNotice(entity: string, id: number | undefined): Notice | undefined {
  const taken = left?.place === placeOf(entity, id) ? left.notice : undefined;
  left = undefined;
  return taken;
}
