import { changing } from '../api/client.ts';

const types = ['hello', 'resync', 'release', 'draft', 'approval', 'scheduled-release', 'comment', 'person'] as const;

export interface Happening {
  type: (typeof types)[number];
  data: { release?: number; stream?: string; kind?: string; key?: string; revision?: number; by?: string; entity?: string; record?: number; draft?: { kind: string; key: string }; person?: string };
}

type Listener = (happening: Happening) => void;

const listeners = new Set<Listener>();
const channel = new BroadcastChannel('bright-tier-events');
/** The stream all tabs share, and what was drawn last in this one. */
let stream: string | undefined;
let drawn = 0;

const tell = (happening: Happening) => {
  if (happening.data.stream) {
    stream = happening.data.stream;
    acknowledge();
  }
  listeners.forEach((listener) => listener(happening));
};
channel.onmessage = (message) => tell(message.data as Happening);

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

/** One stream for all tabs of a browser: the tab that holds the lock listens and tells the others; when it closes, another takes over. */
export function startEvents(): void {
  void navigator.locks.request('bright-tier-events', () => new Promise<void>(() => {
    const source = new EventSource('/api/events');
    // Where something in between holds streams back, the release is asked for by its entity tag until one comes through.
    let asking: ReturnType<typeof setInterval> | undefined;
    let waiting: ReturnType<typeof setTimeout> | undefined = setTimeout(ask, patience);
    source.onopen = () => {
      clearTimeout(waiting);
      clearInterval(asking);
      waiting = asking = undefined;
    };
    source.onerror = () => { waiting ??= setTimeout(ask, patience); };
    function ask() {
      asking ??= setInterval(() => void poll().then((release) => {
        if (release === undefined) return;
        const happening: Happening = { type: 'release', data: { release } };
        tell(happening);
        channel.postMessage(happening);
      }, () => undefined), patience);
    }
    for (const type of types) {
      source.addEventListener(type, (event) => {
        const happening: Happening = { type, data: JSON.parse((event as MessageEvent<string>).data) as Happening['data'] };
        tell(happening);
        channel.postMessage(happening);
      });
    }
  }));
}

/** Told of everything that happens, until it is stopped. */
export function onHappening(listener: Listener): () => void {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

/** A form or list of a release stands on the screen: whoever published it is told how many have it. */
export function hasDrawn(release: number): void {
  if (release === drawn) return;
  drawn = release;
  acknowledge();
}

function acknowledge(): void {
  if (!stream || drawn === 0) return;
  void fetch('/api/events/acknowledge', { method: 'POST', headers: { ...changing(), 'Content-Type': 'application/json' }, body: JSON.stringify({ stream, release: drawn }), keepalive: true }).catch(() => undefined);
}
