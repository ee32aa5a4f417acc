/**
 * What the page at this address asks for first is asked for before anything is drawn, so that it is on its way while the rest of the page
 * is
 * made ready. Only for somebody who was signed in here before; each answer is taken once.
 */
const requests = new Map<string, Promise<Response>>();

/** What came with the page. */
const came = new Map<string, { text: string; release: string }>();

const seen = 'signed-in';

/** Remembers whether somebody works in this browser. */
export function expectSomebody(is: boolean): void {
  if (is) localStorage.setItem(seen, 'yes');
  else localStorage.removeItem(seen);
}

/** Whether somebody works here: the page says so, or else what is remembered. */
export const expectsSomebody = () => came.size > 0 || localStorage.getItem(seen) !== null;

/** What came with the page in answer to a request, once: a fetch of what is here would cost more than the rest of it. */
export function carried(address: string): { body: unknown; release: string } | undefined {
  const found = came.get(address);
  came.delete(address);
  return found && { body: JSON.parse(found.text), release: found.release };
}

const request = (address: string) => {
  if (came.has(address)) return;
  const answer = fetch(address, { headers: { Accept: 'application/json' } });
  answer.catch(() => undefined);
  requests.set(address, answer);
};

// The page of somebody who works here carries what it would ask for first.
for (const script of document.querySelectorAll<HTMLScriptElement>('script[data-answers]')) {
  const { answers, release } = script.dataset;
  came.set(answers!, { text: script.text, release: release ?? '' });
  script.remove();
}
request('/api/session');
if (expectsSomebody()) {
  const [, where, entity, record] = window.location.pathname.split('/');
  if (where === 'records' && entity && record) {
    const id = record === 'new' ? undefined : record;
    request(`/api/forms/${entity}?kind=full&mode=${id ? `view&record=${id}` : 'create'}`);
    if (id) request(`/api/records/${entity}/${id}`);
  } else request('/api/entities');
  request('/api/navigation');
}

/** The answer to a request: one that was asked for early, or a new one. */
export async function takeEarly(request: Request): Promise<Response> {
  const { pathname, search } = new URL(request.url);
  const early = request.method === 'GET' ? requests.get(pathname + search) : undefined;
  requests.delete(pathname + search);
  const answer = await early?.catch(() => undefined);
  return answer?.ok ? answer : fetch(request);
}
