import { changing } from '../api/client.ts';
import type { components } from '../api/schema.gen.ts';

type Schema<Name extends keyof components['schemas']> = components['schemas'][Name];

const types = [
  'hello',
  'resync',
  'release',
  'draft',
  'approval',
  'scheduled-release',
  'rollout',
  'comment',
  'person',
  'selection',
] as const;

export interface ServerEvent {
  type: (typeof types)[number];
  /** What is told with any of them. */
  data: Partial<
    Schema<'HelloEvent'> &
      Schema<'ReleaseEvent'> &
      Schema<'DraftEvent'> &
      Schema<'ScheduledReleaseEvent'> &
      Schema<'CommentEvent'> &
      Schema<'PersonEvent'> &
      Schema<'SelectionEvent'>
  >;
}

type Listener = (event: ServerEvent) => void;

/** What tabs send one another: an event with its id, or, from a tab that has just opened, the id of the last one its page knows of. */
type Message = { id: string; event: ServerEvent } | { after: string };

const listeners = new Set<Listener>();
const channel = new BroadcastChannel('bright-tier-events');
/** The stream all tabs share, and what was drawn last in this one. */
let stream: string | undefined;
let drawn = 0;
/** The id of the last event this tab has, or of the last before its page was made. */
let last: string | undefined;

/**
 * How many events the tab that listens keeps for tabs that open; more do not happen between the reading of a page and its first line of
 * code.
 */
const keptEvents = 100;
const recent: { id: string; event: ServerEvent }[] = [];

/** Ids are those of the service's run and a number that grows (docs/api.md). */
function isAfter(id: string, other: string | undefined): boolean {
  const [run, number] = id.split('-');
  const [otherRun, otherNumber] = other?.split('-') ?? [];
  return run !== otherRun || Number(number) > Number(otherNumber);
}

function dispatch(event: ServerEvent): void {
  if (event.data.stream) {
    stream = event.data.stream;
    acknowledge();
  }
  const tell = () => listeners.forEach((listener) => listener(event));
  // Ten thousand forms are not asked for at the same moment.
  const wait = (event.data.within ?? 0) * Math.random();
  if (wait > 0) setTimeout(tell, wait);
  else tell();
}

channel.onmessage = ({ data }: MessageEvent<Message>) => {
  if ('after' in data) {
    for (const message of recent) if (isAfter(message.id, data.after)) channel.postMessage(message);
    return;
  }
  // What a tab that has just opened asked for, this one may have; which stream there is, is not told twice.
  if (!data.event.data.stream && data.id && !isAfter(data.id, last)) return;
  if (data.id) last = data.id;
  dispatch(data.event);
};

/** How long it takes until one no longer waits for the stream, and between two questions then; in milliseconds. */
const patience = 5_000;
let tag: string | undefined;

/** The release of now, where it is another than when this was asked last. */
async function poll(): Promise<number | undefined> {
  const response = await fetch('/api/entities', { headers: tag ? { 'If-None-Match': tag } : {} });
  const before = tag;
  if (response.status !== 200) return undefined;
  tag = response.headers.get('ETag') ?? undefined;
  return before && tag !== before ? Number(/\d+/.exec(tag ?? '')?.[0]) : undefined;
}

/**
 * One stream for all tabs of a browser: the tab that holds the lock listens and passes on what it hears; when it closes, another takes
 * over.
 * @param after The id of the last event before this page read anything: what happened since is heard first.
 */
export function startEvents(after?: string): void {
  last = after;
  if (after) channel.postMessage({ after } satisfies Message);
  void navigator.locks.request(
    'bright-tier-events',
    () =>
      new Promise<void>(() => {
        const source = new EventSource(`/api/events${last ? `?after=${last}` : ''}`);
        // Where something in between holds streams back, the release is asked for by its entity tag until one comes through.
        let asking: ReturnType<typeof setInterval> | undefined;
        let waiting: ReturnType<typeof setTimeout> | undefined = setTimeout(ask, patience);
        source.onopen = () => {
          clearTimeout(waiting);
          clearInterval(asking);
          waiting = asking = undefined;
        };
        source.onerror = () => {
          waiting ??= setTimeout(ask, patience);
        };
        function ask() {
          asking ??= setInterval(
            () =>
              void poll().then(
                (release) => {
                  if (release !== undefined) pass('', { type: 'release', data: { release } });
                },
                () => undefined,
              ),
            patience,
          );
        }
        function pass(id: string, event: ServerEvent) {
          if (id) {
            last = id;
            recent.push({ id, event });
            if (recent.length > keptEvents) recent.shift();
          }
          dispatch(event);
          channel.postMessage({ id, event } satisfies Message);
        }
        for (const type of types) {
          source.addEventListener(type, ({ data, lastEventId }: MessageEvent<string>) =>
            pass(lastEventId, { type, data: JSON.parse(data) as ServerEvent['data'] }),
          );
        }
      }),
  );
}

/** Calls a listener with every event, until it is stopped. */
export function onServerEvent(listener: Listener): () => void {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

/** A form or list of a release stands on the screen: whoever published it is told how many have it. */
export function acknowledgeRelease(release: number): void {
  if (release === drawn) return;
  drawn = release;
  acknowledge();
}

function acknowledge(): void {
  if (!stream || drawn === 0) return;
  void fetch('/api/events/acknowledge', {
    method: 'POST',
    headers: { ...changing(), 'Content-Type': 'application/json' },
    body: JSON.stringify({ stream, release: drawn }),
    keepalive: true,
  }).catch(() => undefined);
}
