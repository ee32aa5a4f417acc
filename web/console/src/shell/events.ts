export interface Happening {
  type: 'hello' | 'look-again' | 'release' | 'draft' | 'comment' | 'person';
  data: { release?: number; kind?: string; key?: string; revision?: number; by?: string; entity?: string; record?: number; person?: string };
}

type Listener = (happening: Happening) => void;

const listeners = new Set<Listener>();
const channel = new BroadcastChannel('bright-tier-events');
const tell = (happening: Happening) => listeners.forEach((listener) => listener(happening));
channel.onmessage = (message) => tell(message.data as Happening);

/** One stream for all tabs of a browser: the tab that holds the lock listens and tells the others; when it closes, another takes over. */
export function startEvents(): void {
  void navigator.locks.request('bright-tier-events', () => new Promise<void>(() => {
    const source = new EventSource('/api/events');
    for (const type of ['hello', 'look-again', 'release', 'draft', 'comment', 'person'] as const) {
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
