import { act } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { settle, using } from './hooks.ts';

const held = vi.hoisted(() => ({ listeners: new Set<(event: unknown) => void>() }));
vi.mock('../src/shell/events.ts', () => ({
  onServerEvent: (listener: (event: unknown) => void) => {
    held.listeners.add(listener);
    return () => held.listeners.delete(listener);
  },
}));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  api: { GET: async () => ({ data: [], response: new Response(null, { status: 200 }) }) },
}));
const { useDocument, arrived } = await import('../src/features/documents/useDocument.ts');

interface Doc {
  widths: string[];
  ink: string;
}

/** A service that keeps one document under its revision, and can be slow to take a change in. */
const service = { value: undefined as Doc | undefined, revision: 0, slow: [] as (() => void)[], hold: false };
const answer = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { ETag: `"${service.revision}"` } });

beforeEach(() => {
  Object.assign(service, { value: { widths: ['narrow', 'wide'], ink: 'black' }, revision: 4, slow: [], hold: false });
  vi.stubGlobal('fetch', async (_: string, how: { method?: string; body?: string; headers: Record<string, string> }) => {
    if (how.method !== 'PUT')
      return service.value ? answer(200, service.value) : answer(404, { status: 404, code: 'not-found', title: 'Not found' });
    if (service.hold) await new Promise<void>((go) => service.slow.push(go));
    const expected = how.headers['If-Match'] ?? '';
    if (service.value ? expected !== `"${service.revision}"` : how.headers['If-None-Match'] !== '*')
      return answer(412, { status: 412, code: 'outdated', title: 'Outdated', detail: 'Somebody else changed it meanwhile.' });
    service.value = JSON.parse(how.body!) as Doc;
    service.revision++;
    return answer(200, {});
  });
});

const open = async () => {
  const hook = await using(() => useDocument<Doc>('application', 'application', { widths: [], ink: '' }));
  await settle();
  return hook;
};
const does = async (what: () => void) => {
  await act(async () => what());
  await settle();
};
const elsewhere = async (value: Doc) => {
  service.value = value;
  service.revision++;
  await does(() =>
    held.listeners.forEach((listener) =>
      listener({ type: 'draft', data: { kind: 'application', key: 'application', revision: service.revision } }),
    ),
  );
};

describe('a document of the application', () => {
  it('is kept by the service with every change, and undone step by step', async () => {
    const { now, leave } = await open();
    await does(() => now().change({ ...now().value!, ink: 'blue' }));
    await does(() => now().change({ ...now().value!, ink: 'green' }));
    expect([service.value!.ink, service.revision, now().revision, now().problem]).toEqual(['green', 6, 6, undefined]);
    await does(() => now().undo!());
    expect([service.value!.ink, now().value!.ink]).toEqual(['blue', 'blue']);
    await does(() => now().undo!());
    expect([service.value!.ink, now().undo]).toEqual(['black', undefined]);
    await leave();
  });

  it('is read by another part only once what this one changed has arrived', async () => {
    service.hold = true;
    const widths = await open();
    await does(() => widths.now().change({ ...widths.now().value!, widths: ['narrow', 'medium', 'wide'] }));
    await widths.leave();
    const styles = await open();
    expect(styles.now().value, 'not the one from before').toBeUndefined();
    service.hold = false;
    service.slow.forEach((go) => go());
    await act(arrived);
    await settle();
    expect(styles.now().value!.widths).toEqual(['narrow', 'medium', 'wide']);
    await does(() => styles.now().change({ ...styles.now().value!, ink: 'blue' }));
    await does(() => styles.now().undo!());
    expect([service.value, styles.now().problem]).toEqual([{ widths: ['narrow', 'medium', 'wide'], ink: 'black' }, undefined]);
    await styles.leave();
  });

  it('is not read half way when the part before announces the first of its changes', async () => {
    const widths = await open();
    await does(() => widths.now().change({ ...widths.now().value!, widths: ['narrow'] }));
    service.hold = true;
    await does(() => widths.now().change({ ...widths.now().value!, widths: ['narrow', 'huge'] }));
    await widths.leave();
    const styles = await open();
    await does(() =>
      held.listeners.forEach((listener) =>
        listener({ type: 'draft', data: { kind: 'application', key: 'application', revision: service.revision } }),
      ),
    );
    expect(styles.now().value, 'the second is still on its way').toBeUndefined();
    service.hold = false;
    service.slow.forEach((go) => go());
    await act(arrived);
    await settle();
    await does(() => styles.now().change({ ...styles.now().value!, ink: 'blue' }));
    expect([service.value, styles.now().problem]).toEqual([{ widths: ['narrow', 'huge'], ink: 'blue' }, undefined]);
    await styles.leave();
  });

  it('follows what others do, and undoing here does not take it back', async () => {
    const { now, leave } = await open();
    await does(() => now().change({ ...now().value!, ink: 'blue' }));
    await elsewhere({ widths: ['one'], ink: 'blue' });
    expect([now().value!.widths, now().undo]).toEqual([['one'], undefined]);
    await does(() => now().change({ ...now().value!, ink: 'red' }));
    await does(() => now().undo!());
    expect(service.value).toEqual({ widths: ['one'], ink: 'blue' });
    await leave();
  });

  it('says when somebody else was first, and shows what they did', async () => {
    const { now, leave } = await open();
    service.value = { widths: ['one'], ink: 'black' };
    service.revision++;
    await does(() => now().change({ ...now().value!, ink: 'blue' }));
    expect([now().problem, now().value, now().undo]).toEqual([
      'Somebody else changed it meanwhile.',
      { widths: ['one'], ink: 'black' },
      undefined,
    ]);
    await does(() => now().change({ ...now().value!, ink: 'blue' }));
    expect([service.value, now().problem]).toEqual([{ widths: ['one'], ink: 'blue' }, undefined]);
    await leave();
  });

  it('begins where there is none yet', async () => {
    Object.assign(service, { value: undefined, revision: 0 });
    const { now, leave } = await open();
    expect(now().value).toEqual({ widths: [], ink: '' });
    await does(() => now().change({ widths: ['all'], ink: '' }));
    expect([service.value, service.revision]).toEqual([{ widths: ['all'], ink: '' }, 1]);
    await leave();
  });
});
