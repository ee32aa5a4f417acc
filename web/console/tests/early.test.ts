import { beforeEach, describe, expect, it, vi } from 'vitest';

/** The module looks at the page once, when it is loaded: each test loads it anew, on a page of its own. */
const load = async (path: string, { somebody = false, carries = {} as Record<string, unknown> } = {}) => {
  window.history.replaceState(null, '', path);
  if (somebody) localStorage.setItem('signed-in', 'yes');
  document.head.replaceChildren(
    ...Object.entries(carries).map(([answers, body]) => {
      const script = document.createElement('script');
      script.type = 'application/json';
      script.dataset['answers'] = answers;
      script.dataset['release'] = '7';
      script.text = JSON.stringify(body);
      return script;
    }),
  );
  vi.resetModules();
  return import('../src/api/early.ts');
};

const asked: string[] = [];
let failing = false;
beforeEach(() => {
  asked.length = 0;
  failing = false;
  localStorage.clear();
  vi.stubGlobal('fetch', async (to: string | Request) => {
    const address = typeof to === 'string' ? to : new URL(to.url).pathname + new URL(to.url).search;
    asked.push(address);
    if (failing) throw new TypeError('Failed to fetch');
    return new Response(address, { status: 200 });
  });
});

const session = '/api/session';
const get = (path: string) => new Request(`http://localhost${path}`);

describe('what a page asks for before it is drawn', () => {
  it.each([
    ['/', false, [session]],
    ['/', true, [session, '/api/entities', '/api/navigation']],
    ['/layouts', true, [session, '/api/entities', '/api/navigation']],
    ['/records/vessel', true, [session, '/api/entities', '/api/navigation']],
    ['/records/vessel/7', true, [session, '/api/forms/vessel?kind=full&mode=view&record=7', '/api/records/vessel/7', '/api/navigation']],
    ['/records/vessel/new', true, [session, '/api/forms/vessel?kind=full&mode=create', '/api/navigation']],
  ])('at %s, somebody here: %s', async (path, somebody, expected) => {
    await load(path, { somebody });
    expect(asked).toEqual(expected);
  });

  it('is not asked for again, once', async () => {
    const { takeEarly } = await load('/');
    expect(await (await takeEarly(get(session))).text()).toBe(session);
    expect(asked).toEqual([session]);
    await takeEarly(get(session));
    expect(asked).toEqual([session, session]);
  });

  it('is asked for again where it failed, and never stands for what changes something', async () => {
    failing = true;
    const { takeEarly } = await load('/');
    failing = false;
    expect((await takeEarly(new Request(`http://localhost${session}`, { method: 'DELETE' }))).status).toBe(200);
    expect((await takeEarly(get(session))).status).toBe(200);
    expect(asked).toEqual([session, session, session]);
  });

  it('is not asked for where it came with the page, which then says that somebody works here', async () => {
    const { carried, expectsSomebody } = await load('/', { carries: { [session]: { person: { id: 'ada' } } } });
    expect([asked.includes(session), expectsSomebody()]).toEqual([false, true]);
    expect(carried(session)).toEqual({ body: { person: { id: 'ada' } }, release: '7' });
    expect(carried(session), 'once').toBeUndefined();
    expect(document.querySelector('script[data-answers]'), 'and is not left lying on the page').toBeNull();
  });

  it('depends on whether somebody signed in and did not sign out', async () => {
    const { expectSomebody, expectsSomebody } = await load('/');
    expect(expectsSomebody()).toBe(false);
    expectSomebody(true);
    expect(expectsSomebody()).toBe(true);
    expectSomebody(false);
    expect(expectsSomebody()).toBe(false);
  });
});
