/**
 * What the page at this address asks for first is asked for before anything is drawn, so that it is on its way while the rest of the page is
 * made ready. Only for somebody who was signed in here before; each answer is taken once.
 */
const asked = new Map<string, Promise<Response>>();

const seen = 'signed-in';

/** Remembers whether somebody works in this browser. */
export function expectSomebody(is: boolean): void {
  if (is) localStorage.setItem(seen, 'yes');
  else localStorage.removeItem(seen);
}

export const expectsSomebody = () => localStorage.getItem(seen) !== null;

const ask = (address: string) => {
  const answer = fetch(address, { headers: { Accept: 'application/json' } });
  answer.catch(() => undefined);
  asked.set(address, answer);
};

ask('/api/session');
if (expectsSomebody()) {
  // The form first: what stands round it is small.
  const [, where, entity, record] = window.location.hash.split('/');
  if (where === 'records' && entity && record) {
    const id = record === 'new' ? undefined : record;
    ask(`/api/forms/${entity}?kind=full&mode=${id ? `view&record=${id}` : 'create'}`);
    if (id) ask(`/api/records/${entity}/${id}`);
  } else ask('/api/entities');
  ask('/api/navigation');
}

/** The answer to a request: one that was asked for early, or a new one. */
export async function take(request: Request): Promise<Response> {
  const { pathname, search } = new URL(request.url);
  const early = request.method === 'GET' ? asked.get(pathname + search) : undefined;
  asked.delete(pathname + search);
  const answer = await early?.catch(() => undefined);
  return answer?.ok ? answer : fetch(request);
}
