import { asProblem, changing, ApiError } from './client.ts';

const addressOf = (kind: string, key: string) => `/api/documents/${kind}/${key}`;

const revisionOf = (response: Response) => Number(/\d+/.exec(response.headers.get('ETag') ?? '')?.[0] ?? 0);

async function answerOf(response: Response): Promise<unknown> {
  const body: unknown = await response.json();
  if (!response.ok) throw new ApiError(asProblem(body, response));
  return body;
}

/** The draft of a document that is no layout, as JSON, with its revision; nothing where there is none. */
export async function readDocument<T>(kind: string, key: string): Promise<{ value: T; revision: number } | undefined> {
  const response = await fetch(addressOf(kind, key), { headers: { Accept: 'application/json' } });
  return response.status === 404 ? undefined : { value: (await answerOf(response)) as T, revision: revisionOf(response) };
}

/** Puts a document in the place of its draft at `revision`, 0 where there is none; the revision it is at then. */
export async function putDocument(kind: string, key: string, value: object, revision: number): Promise<number> {
  const response = await fetch(addressOf(kind, key), {
    method: 'PUT',
    body: JSON.stringify(value),
    headers: {
      ...changing(),
      'Content-Type': 'application/json',
      ...(revision > 0 ? { 'If-Match': `"${revision}"` } : { 'If-None-Match': '*' }),
    },
  });
  await answerOf(response);
  return revisionOf(response);
}
