import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return held.calls!.api;
  },
}));
const { Calls: Made, working } = await import('./pages.ts');
const { may, onSession, readsDrafts, session, formHost } = await import('../src/shell/session.ts');
const { here } = await import('../src/shell/location.ts');

let calls: Calls;
beforeEach(() => {
  calls = held.calls = new Made();
  localStorage.clear();
  vi.stubGlobal('scrollTo', () => undefined);
});

describe('who works here', () => {
  it('is told to whoever listens, and decides what is offered', () => {
    const heard: string[] = [];
    const stop = onSession(() => heard.push(session().person!.name));
    working(['read-records']);
    expect([readsDrafts(session()), may(session(), 'read-records')]).toEqual([false, true]);
    for (const act of ['configure', 'review', 'publish']) {
      working([act]);
      expect(readsDrafts(session()), act).toBe(true);
    }
    stop();
    working([]);
    expect(heard).toHaveLength(4);
    expect(localStorage.getItem('signed-in')).toBe('yes');
  });
});

describe('what forms need of the page', () => {
  it('is the roles of the moment, and what is given over it', () => {
    working([]);
    const around = formHost({ userId: 'somebody-tried' });
    expect([around.userId, around.roles]).toEqual(['somebody-tried', ['administrator']]);
    expect(around.timeZone).toMatch(/\w/);
    expect(around.fileAddress('a1b2/plan of the quay.pdf')).toBe('/api/files/a1b2/plan%20of%20the%20quay.pdf');
  });

  it('looks records up by what is typed, with what narrows it, and remembers the last five that were picked', async () => {
    calls.answers.set('GET /api/records/keeper/lookup', [{ id: 1, title: 'Marit Reed' }]);
    const around = formHost();
    await around.lookUp('keeper', 'Reed', { filter: "record.zone == 'inner'" });
    await around.lookUp('keeper', '', { ids: [3, 4] });
    expect(calls.of('GET /api/records/keeper/lookup')).toEqual([{ q: 'Reed', filter: "record.zone == 'inner'" }, { ids: '3,4' }]);
    for (const id of [1, 2, 3, 4, 5, 6, 3]) around.picked!('keeper', id);
    expect([around.recent!('keeper'), around.recent!('berth')]).toEqual([[3, 6, 5, 4, 2], []]);
    localStorage.setItem('picked:keeper', '{');
    expect(around.recent!('keeper')).toEqual([]);
  });

  it('reads all pages of related records, in their order', async () => {
    const row = (id: number) => ({ id, version: 1, values: { what: `Line ${id}` }, references: {} });
    const pages = [
      { records: [row(1), row(2)], next: 'b' },
      { records: [row(3)], next: null },
    ];
    calls.answers.set('GET /api/records/workLine', undefined);
    const real = calls.api['GET'] as (path: string, init?: never) => Promise<object>;
    calls.api['GET'] = async (path: string, init?: never) => ({
      ...(await real(path, init)),
      data: pages[calls.of('GET /api/records/workLine').length - 1],
      response: new Response(null, { status: 200 }),
    });
    const rows = await formHost().readRelated!('workLine', 'liftOut', 7, ['-at']);
    expect(rows.map((each) => each.id)).toEqual([1, 2, 3]);
    expect(calls.of('GET /api/records/workLine')).toEqual([
      { filter: 'record.liftOut == 7', limit: 200, sort: '-at' },
      { filter: 'record.liftOut == 7', limit: 200, sort: '-at', after: 'b' },
    ]);
  });

  it('stores files, and says in the service’s words why one was not stored', async () => {
    const sent: { address: string; method?: string | undefined }[] = [];
    let status = 201;
    vi.stubGlobal('fetch', async (address: string, how: RequestInit) => {
      sent.push({ address, method: how.method });
      return new Response(
        JSON.stringify(
          status === 201
            ? { value: 'a1/plan.pdf' }
            : { status, code: 'too-large', title: 'Too large', detail: 'A file has at most 20 MB.' },
        ),
        { status },
      );
    });
    const { upload } = formHost();
    expect(await upload(new File(['x'], 'plan & more.pdf'))).toBe('a1/plan.pdf');
    expect(sent).toEqual([{ address: '/api/files?name=plan%20%26%20more.pdf', method: 'POST' }]);
    status = 413;
    await expect(upload(new File(['x'], 'big.pdf'))).rejects.toThrow('A file has at most 20 MB.');
  });

  it('begins another record with what this one gives it', () => {
    formHost().begin!('workLine', 'liftOut', { what: 'Antifouling' }, 7);
    expect(here()).toEqual(['records', 'workLine', 'new']);
  });
});
