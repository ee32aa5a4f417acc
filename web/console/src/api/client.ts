import createClient, { type Middleware } from 'openapi-fetch';
import { takeEarly } from './early.ts';
import type { components, paths } from './schema.gen.ts';

export type Session = components['schemas']['SessionInfo'];
export type EntitySummary = components['schemas']['EntitySummary'];
export type EntityInfo = components['schemas']['EntityInfo'];
export type FieldInfo = components['schemas']['FieldInfo'];
export type TemplateInfo = components['schemas']['TemplateInfo'];
export type TableRequest = components['schemas']['TableRequest'];
export type TableSketch = components['schemas']['TableSketch'];
export type DatabaseInfo = components['schemas']['DatabaseInfo'];
export type DatabaseTableInfo = components['schemas']['DatabaseTableInfo'];
export type DatabaseDifference = components['schemas']['DatabaseDifference'];
export type AttachSketch = components['schemas']['AttachSketch'];
export type TableOutcome = components['schemas']['TableOutcome'];
export type SaveResult = components['schemas']['SaveResult'];
export type LayoutSummary = components['schemas']['LayoutSummary'];
export type Finding = components['schemas']['FindingInfo'];
export type Release = components['schemas']['ReleaseInfo'];
export type Receipt = components['schemas']['Receipt'];
export type RecordInfo = components['schemas']['RecordInfo'];
export type RecordName = components['schemas']['RecordName'];
export type FoundRecords = components['schemas']['FoundRecords'];
export type HistoryEntry = components['schemas']['HistoryEntry'];
export type CommentInfo = components['schemas']['CommentInfo'];
export type MenuEntry = components['schemas']['MenuEntryInfo'];
export type EditResult = components['schemas']['EditResult'];
export type LayoutView = components['schemas']['LayoutView'];
export type ChoiceListSummary = components['schemas']['ChoiceListSummary'];
export type Piece = components['schemas']['PieceInfo'];
export type DocumentHistory = components['schemas']['DocumentHistory'];
export type DocumentChange = components['schemas']['DocumentChange'];
export type UnitInfo = components['schemas']['UnitInfo'];
export type EntityRelations = components['schemas']['EntityRelations'];
export type DocumentSummary = components['schemas']['DocumentSummary'];
export type DocumentFinding = components['schemas']['DocumentFindingInfo'];
export type RoutedLayout = components['schemas']['RoutedInfo'];
export type TableImportReport = components['schemas']['TableImportReport'];
export type TableInfo = components['schemas']['TableInfo'];
export type Person = components['schemas']['Person'];
export type ScheduledRelease = components['schemas']['ScheduledReleaseInfo'];
export type Rollout = components['schemas']['Rollout'];
export type RolloutState = components['schemas']['RolloutState'];
export type SaveCount = components['schemas']['SaveCount'];
export type Holder = components['schemas']['Holder'];
export type Difference = components['schemas']['DocumentDifference'];
export type ReleaseReach = components['schemas']['ReachInfo'];
export type UnroutedLayout = components['schemas']['UnroutedInfo'];
export type ImportReport = components['schemas']['ImportReport'];
export type Approvals = components['schemas']['Approvals'];
export type AuditEntry = components['schemas']['AuditEntry'];
export type TokenInfo = components['schemas']['TokenInfo'];

/** What the service says when it does not do something: problem details (RFC 9457). */
export interface Problem {
  status: number;
  code: string;
  title: string;
  detail?: string;
  problems?: { pointer: string; message: string; code?: string }[];
}

export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail ?? problem.title);
  }
}

let antiforgery = '';

/** Every change made under the session's cookie carries the session's antiforgery value. */
export function setAntiforgery(value: string): void {
  antiforgery = value;
}

export const changing = (): Record<string, string> => ({ 'X-Antiforgery': antiforgery });

const guard: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-Antiforgery', antiforgery);
    return request;
  },
};

export const api = createClient<paths>({ baseUrl: '/', fetch: takeEarly });
api.use(guard);

/** What is said where no service says it, in the language of whoever works here; see shell/words.ts. */
let said = { unreachable: () => '', unexpected: (status: number) => `${status}` };

export function setProblemTexts(texts: typeof said): void {
  said = texts;
}

/** The data of an answer, or the problem as an exception; a service out of reach is a problem like any other. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result;
  try {
    result = await call;
  } catch {
    throw new ApiError({ status: 0, code: 'not-reachable', title: said.unreachable() });
  }
  if (!result.response.ok) throw new ApiError(asProblem(result.error, result.response));
  return result.data as T;
}

export function asProblem(error: unknown, response: Response): Problem {
  const known = typeof error === 'object' && error !== null && 'code' in error ? (error as Problem) : undefined;
  return known ?? { status: response.status, code: 'unexpected', title: said.unexpected(response.status) };
}
