import { asProblem, changing, ApiError, type ImportReport } from '../../api/client.ts';
import { nameOf } from '../../shell/configurator/documentNames.ts';

/** What one document of a bundle, or of the application, is known by. */
export interface NamedFile {
  kind: string;
  key: string;
}

/** How a bundle is taken. */
export interface BundleImport {
  /** What is taken of it; everything where nothing is said. */
  only: readonly NamedFile[];
  /** Other keys for some, by kind/key. */
  keys: ReadonlyMap<string, string>;
  /** Whether what was changed here stays, too. */
  merge: boolean;
  /** Who has the say where both changed the same: mine is the bundle, theirs what is here. */
  conflictResolution: 'mine' | 'theirs' | undefined;
}

const bundle = '/api/bundle';

/** Takes a bundle into the drafts, or says what would come of it. */
export async function importBundle(
  file: Blob,
  { only, keys, merge, conflictResolution }: BundleImport,
  dryRun: boolean,
): Promise<ImportReport> {
  const query = new URLSearchParams([
    ...only.map((each) => ['only', nameOf(each)]),
    ...[...keys]
      .filter(([name]) => only.length === 0 || only.some((each) => nameOf(each) === name))
      .map(([name, key]) => ['rename', `${name}:${key}`]),
    ['dryRun', String(dryRun)],
    ['merge', String(merge)],
    ...(merge && conflictResolution ? [['conflictResolution', conflictResolution]] : []),
  ]);
  const response = await fetch(`${bundle}?${query.toString()}`, {
    method: 'POST',
    body: file,
    headers: { ...changing(), 'Content-Type': 'application/zip' },
  });
  const body: unknown = await response.json();
  if (!response.ok) throw new ApiError(asProblem(body, response));
  return body as ImportReport;
}

/** Documents in one archive, as everyone has them or as they are in drafts, with all they rest on or alone. */
export async function makeBundle(documents: readonly NamedFile[], draft: boolean, withoutDependencies: boolean): Promise<Blob> {
  const query = new URLSearchParams([
    ...documents.map((each) => ['document', nameOf(each)]),
    ['draft', String(draft)],
    ['withoutDependencies', String(withoutDependencies)],
  ]);
  const response = await fetch(`${bundle}?${query.toString()}`);
  if (!response.ok) throw new ApiError(asProblem(await response.json(), response));
  return response.blob();
}
