import type { FormStore, Mode } from '#form';
import { answer, api, ApiError, type EntityInfo, type RecordInfo } from '../api/client.ts';
import { address } from '../shell/location.ts';
import { open } from './preparedRecord.ts';
import { readPublishedForm, type PublishedForm } from './publishedForm.ts';
import type { Notice } from './notice.ts';
import type { RecordEvent, OpenForm } from './recordStates.ts';

/** Which record a page is about; a new one has no number. */
export interface RecordPlace {
  entity: string;
  id: number | undefined;
}

const byEntity = '/api/records/{entity}';
const byId = '/api/records/{entity}/{id}';
const says = (error: unknown) => (error as Error).message;

/** Fetches the record and its form. */
export async function requestRecord({ entity, id }: RecordPlace, mode: Mode, ticket: number): Promise<RecordEvent> {
  try {
    return { type: 'opened', ticket, view: await open(entity, id, mode) };
  } catch (error) {
    const missing = error instanceof ApiError && error.problem.status === 404;
    const notice: Notice = {
      says: missing ? { word: 'nothingAt', values: [address('records', entity, id ?? 'new')] } : { text: says(error) },
      tone: 'bad',
    };
    return { type: 'open-failed', ticket, notice, missing };
  }
}

/** Sends what was typed, over the version it was typed over. */
export async function requestSave({ entity, id }: RecordPlace, store: FormStore, shown: OpenForm): Promise<RecordEvent> {
  const related = store.relatedSaves();
  const body = {
    values: store.toSave(),
    form: { release: shown.release, mode: shown.mode, kind: 'full' },
    ...(related.length > 0 ? { related } : {}),
  };
  try {
    const record =
      id === undefined
        ? await answer(api.POST(byEntity, { params: { path: { entity } }, body }))
        : await answer(api.PATCH(byId, { params: { path: { entity, id } }, body, headers: { 'If-Match': `"${shown.record!.version}"` } }));
    return { type: 'saved', record };
  } catch (error) {
    return refusal({ entity, id }, error);
  }
}

/** What a refused save means: somebody else saved meanwhile, or something is wrong. */
async function refusal({ entity, id }: RecordPlace, error: unknown): Promise<RecordEvent> {
  if (!(error instanceof ApiError)) return { type: 'failed', message: says(error) };
  const { code, problems } = error.problem;
  if (code === 'record-changed' && id !== undefined) {
    try {
      return { type: 'changed-by-others', theirs: await answer(api.GET(byId, { params: { path: { entity, id } } })) };
    } catch (unread) {
      return { type: 'failed', message: says(unread) };
    }
  }
  return {
    type: 'refused',
    message: error.message,
    problems: (problems ?? []).map((part) => ({ field: part.pointer, message: part.message })),
    formMoved: code === 'form-changed',
  };
}

/** Tells the service that the form of an entity refused what was entered. Nobody waits for it. */
export function noteRefusal(entity: string): void {
  answer(api.POST('/api/records/{entity}/refused', { params: { path: { entity } } })).catch(() => undefined);
}

/** Deletes the record as it was looked at. */
export async function requestRemoval(entity: string, { id, version }: RecordInfo): Promise<RecordEvent> {
  try {
    await answer(api.DELETE(byId, { params: { path: { entity, id } }, headers: { 'If-Match': `"${version}"` } }));
    return { type: 'removed' };
  } catch (error) {
    return { type: 'failed', message: says(error) };
  }
}

/** Brings a deleted record back. */
export const requestRestore = (entity: string, id: number) =>
  answer(api.POST('/api/records/{entity}/{id}/restore', { params: { path: { entity, id } } }));

/** The form as it is published now, and the fields as whoever looks may see and write them. */
export async function requestForm({ entity, id }: RecordPlace, mode: Mode): Promise<[PublishedForm, EntityInfo]> {
  return Promise.all([
    readPublishedForm(entity, 'full', mode, id),
    answer(api.GET('/api/entities/{key}', { params: { path: { key: entity } } })),
  ]);
}

/** Gives a form that is being filled in what is published now; typed values stay. Answers what is to be said of it. */
export function renewForm(store: FormStore, [served, known]: [PublishedForm, EntityInfo], before: number): Notice | undefined {
  const typed = store.dirty;
  const [readable, writable] = [known.fields, known.fields.filter((field) => field.writable)];
  const barred = store.heed(new Set(readable.map((field) => field.key)), new Set(writable.map((field) => field.key)));
  if (JSON.stringify(served.form) === JSON.stringify(store.form)) return undefined;
  store.replaceForm(served.form);
  const labels = readable.filter((field) => barred.includes(field.key)).map((field) => field.label);
  if (labels.length > 0) return { says: { word: 'formBarred', values: [labels.join(', ')] }, tone: 'bad' };
  const word = served.release === before ? 'formRights' : typed ? 'formChangedTyped' : 'formChanged';
  return { says: { word, values: [served.release] }, tone: 'quiet' };
}
