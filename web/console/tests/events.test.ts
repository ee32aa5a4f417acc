import { beforeEach, describe, expect, it, vi } from 'vitest';

/** What a browser has and jsdom has not: a stream of events, and locks. */
class Stream {
  static opened: Stream[] = [];
  readonly listeners = new Map<string, (event: { data: string; lastEventId: string }) => void>();
  onopen?: () => void;
  onerror?: () => void;
  constructor(readonly address: string) {
    Stream.opened.push(this);
  }
  addEventListener(type: string, listener: (event: { data: string; lastEventId: string }) => void) {
    this.listeners.set(type, listener);
  }
  tell(type: string, data: unknown, lastEventId = `run-${++told}`) {
    this.listeners.get(type)!({ data: JSON.stringify(data), lastEventId });
  }
}
class Channel {
  static said: unknown[] = [];
  static last: Channel;
  onmessage?: (message: { data: unknown }) => void;
  constructor() {
    Channel.last = this;
  }
  postMessage(data: unknown) {
    Channel.said.push(data);
  }
}

let told = 0;
const asked: { path: string; body?: unknown; tag?: string }[] = [];
let tag = '"1-a"';

beforeEach(() => {
  vi.resetModules();
  vi.useFakeTimers();
  Stream.opened = [];
  told = 0;
  Channel.said = [];
  asked.length = 0;
  vi.stubGlobal('EventSource', Stream);
  vi.stubGlobal('BroadcastChannel', Channel);
  vi.stubGlobal('fetch', async (path: string, how: { body?: string; headers?: Record<string, string> } = {}) => {
    const held = how.headers?.['If-None-Match'];
    asked.push({ path, ...(how.body ? { body: JSON.parse(how.body) } : {}), ...(held ? { tag: held } : {}) });
    return new Response(held === tag ? null : '[]', { status: held === tag ? 304 : 200, headers: { ETag: tag } });
  });
  Object.defineProperty(navigator, 'locks', { configurable: true, value: { request: (_: string, hold: () => unknown) => hold() } });
});

const begin = async (after?: string) => {
  const events = await import('../src/shell/events.ts');
  const heard: unknown[] = [];
  const stop = events.onServerEvent((event) => heard.push(event));
  events.startEvents(after);
  return { events, heard, stop, stream: Stream.opened[0]! };
};
const questions = () => asked.filter((each) => each.path === '/api/entities');
const acknowledged = () => asked.filter((each) => each.path === '/api/events/acknowledge').map((each) => each.body);

describe('what happens', () => {
  it('is told to this tab and to the others', async () => {
    const { heard, stop, stream } = await begin();
    stream.tell('release', { release: 2 });
    expect(heard).toEqual([{ type: 'release', data: { release: 2 } }]);
    expect(Channel.said).toEqual([{ id: 'run-1', event: heard[0] }]);
    stop();
    stream.tell('release', { release: 3 });
    expect(heard).toHaveLength(1);
  });

  it('is heard from the tab that listens', async () => {
    const { heard } = await begin();
    Channel.last.onmessage!({ data: { id: 'run-1', event: { type: 'draft', data: { key: 'vessel' } } } });
    expect(heard).toEqual([{ type: 'draft', data: { key: 'vessel' } }]);
    expect(Channel.said, 'and not told again').toEqual([]);
  });

  it('begins after what the page was made with, and goes on after what was heard', async () => {
    const { stream } = await begin('run-7');
    expect(stream.address).toBe('/api/events?after=run-7');
    expect(Channel.said, 'the tab that listens is asked for what came since').toEqual([{ after: 'run-7' }]);
  });

  it('is told again to a tab that opens, and to that one alone', async () => {
    const { heard, stream } = await begin();
    for (const release of [2, 3, 4]) stream.tell('release', { release });
    Channel.said = [];
    Channel.last.onmessage!({ data: { after: 'run-2' } });
    expect(Channel.said).toEqual([{ id: 'run-3', event: { type: 'release', data: { release: 4 } } }]);
    Channel.last.onmessage!({ data: Channel.said[0] });
    expect(heard, 'what one has is not heard twice').toHaveLength(3);
    Channel.last.onmessage!({ data: { id: 'other-1', event: { type: 'release', data: { release: 5 } } } });
    expect(heard, 'numbers begin anew with the service').toHaveLength(4);
  });

  it('says under which stream a release was drawn, once, and again when the stream is another', async () => {
    const { events, stream } = await begin();
    events.acknowledgeRelease(4);
    expect(acknowledged(), 'without a stream there is nobody to count').toEqual([]);
    stream.tell('hello', { stream: 'one', release: 4 });
    events.acknowledgeRelease(4);
    events.acknowledgeRelease(5);
    stream.tell('hello', { stream: 'two', release: 5 });
    expect(acknowledged()).toEqual([
      { stream: 'one', release: 4 },
      { stream: 'one', release: 5 },
      { stream: 'two', release: 5 },
    ]);
  });

  it('is asked for by entity tag while no stream comes through, and no longer once one does', async () => {
    const { heard, stream } = await begin();
    await vi.advanceTimersByTimeAsync(9_000);
    expect(questions(), 'patience first').toEqual([]);
    await vi.advanceTimersByTimeAsync(6_000);
    expect([questions().length, heard]).toEqual([2, []]);
    expect(questions().map((each) => each.tag)).toEqual([undefined, '"1-a"']);
    tag = '"2-a"';
    await vi.advanceTimersByTimeAsync(5_000);
    expect(heard).toEqual([{ type: 'release', data: { release: 2 } }]);
    stream.onopen!();
    const before = questions().length;
    await vi.advanceTimersByTimeAsync(60_000);
    expect(questions()).toHaveLength(before);
    stream.onerror!();
    await vi.advanceTimersByTimeAsync(11_000);
    expect(questions().length).toBeGreaterThan(before);
  });
});
