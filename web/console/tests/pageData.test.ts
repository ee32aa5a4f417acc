import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined, served: vi.fn() }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return held.calls!.api;
  },
}));
vi.mock('../src/runtime/publishedForm.ts', () => ({ readPublishedForm: held.served }));
const { Calls: Made } = await import('./pages.ts');
const { copied, copy, paste } = await import('../src/features/designer/clipboard.ts');
const { open, prepare, takePrepared } = await import('../src/runtime/preparedRecord.ts');
const { together } = await import('../src/features/records/tables.ts');
const { inUtf8 } = await import('../src/shell/inUtf8.ts');
const { leaveInitialValues } = await import('../src/shell/newRecord.ts');

let calls: Calls;
beforeEach(() => {
  calls = held.calls = new Made();
  held.served.mockReset().mockResolvedValue({ form: { title: 'Vessel' }, release: 3 });
  calls.answers.set('GET /api/records/vessel/7', { id: 7, version: 2 });
  sessionStorage.clear();
});
afterEach(() => {
  vi.useRealTimers();
});

describe('a record that is opened', () => {
  it('comes with its form and what is stored, or with what a new one begins with, once', async () => {
    expect(await open('vessel', 7, 'view')).toEqual({
      form: { title: 'Vessel' },
      release: 3,
      record: { id: 7, version: 2 },
      given: undefined,
    });
    leaveInitialValues('vessel', { values: { name: 'Curlew' }, names: {} });
    expect((await open('vessel', undefined, 'create')).given).toEqual({ values: { name: 'Curlew' }, names: {} });
    expect((await open('vessel', undefined, 'create')).given).toBeUndefined();
    expect(held.served.mock.calls.map((call) => call.slice(2))).toEqual([
      ['view', 7],
      ['create', undefined],
      ['create', undefined],
    ]);
  });

  it('is there before anything is drawn, for its own place alone, and once', async () => {
    await prepare(['records', 'vessel', '7']);
    expect(takePrepared('vessel', 8)).toBeUndefined();
    await prepare(['records', 'vessel', '7']);
    expect(takePrepared('vessel', 7)).toMatchObject({ record: { id: 7 } });
    expect(takePrepared('vessel', 7)).toBeUndefined();
    await prepare(['records', 'vessel']);
    await prepare(['layouts']);
    expect(held.served).toHaveBeenCalledTimes(2);
  });

  it('is not waited for where the service is slow, nor where it fails', async () => {
    vi.useFakeTimers();
    held.served.mockReturnValueOnce(new Promise(() => undefined));
    const waiting = prepare(['records', 'vessel', 'new']);
    await vi.advanceTimersByTimeAsync(400);
    await waiting;
    expect(takePrepared('vessel', undefined)).toBeUndefined();
    held.served.mockRejectedValueOnce(new Error('gone'));
    await prepare(['records', 'vessel', 'new']);
    expect(takePrepared('vessel', undefined)).toBeUndefined();
  });
});

describe('parts on the clipboard', () => {
  it('are kept for this window where the browser keeps them from the clipboard', async () => {
    calls.answers.set('GET /api/layouts/vessel/clipboard', 'kind: piece');
    vi.stubGlobal('navigator', { clipboard: { writeText: () => Promise.reject(new Error('not allowed')) } });
    expect(copied()).toBe('');
    await copy('vessel', ['name', 'beam']);
    expect([copied(), calls.of('GET /api/layouts/vessel/clipboard')]).toEqual(['kind: piece', [{ nodes: 'name,beam' }]]);
    vi.unstubAllGlobals();
  });

  it('are pasted in one call, named, at a width, and answered with the form', async () => {
    const result = { revision: 4, edits: [], unmatched: ['mast'] };
    calls.answers.set('POST /api/layouts/vessel/paste', result);
    const terms = { label: 'Paste, in narrow', width: 'narrow', preview: { role: null, mode: 'edit', language: 'en', showHidden: true } };
    expect(await paste('vessel', { piece: 'cover', slots: { insurer: 'insuredWith' } }, 'rig', terms)).toEqual(result);
    expect(calls.of('POST /api/layouts/vessel/paste')).toEqual([
      { text: null, piece: 'cover', slots: { insurer: 'insuredWith' }, at: 'rig', ...terms },
    ]);
  });
});

describe('a table from elsewhere', () => {
  const blob = (...bytes: number[]) => ({ arrayBuffer: async () => new Uint8Array(bytes).buffer }) as unknown as Blob;

  it.each([
    ['UTF-8', blob(0x53, 0xc3, 0xb8), false],
    ['Windows-1252', blob(0x53, 0xf8), true],
    ['UTF-16, little end first', blob(0xff, 0xfe, 0x53, 0, 0xf8, 0), false],
    ['UTF-16, big end first', blob(0xfe, 0xff, 0, 0x53, 0, 0xf8), false],
  ])('is read as %s', async (_, file, foreign) => {
    const read = await inUtf8(file);
    expect(read.foreign).toBe(foreign);
    if (read.table !== file)
      expect(
        await new Response(
          await new Promise<ArrayBuffer>((done) => {
            const reader = new FileReader();
            reader.onload = () => done(reader.result as ArrayBuffer);
            reader.readAsArrayBuffer(read.table);
          }),
        ).text(),
      ).toBe('Sø');
  });

  it('has the same mistakes told together with their lines, a hundred at most', () => {
    expect(
      together([
        { line: 2, message: 'no number' },
        { line: 3, message: 'no berth' },
        { line: 9, message: 'no number' },
      ] as never),
    ).toEqual([
      { message: 'no number', lines: [2, 9] },
      { message: 'no berth', lines: [3] },
    ]);
    expect(together(Array.from({ length: 300 }, (_, line) => ({ line, message: `mistake ${line}` })) as never)).toHaveLength(100);
  });
});
