/** Where one is: the parts of the address. */
export type Place = string[];

/** What the console has places for; everything else at this address belongs to the service. */
const places = ['records', 'design', 'print', 'layouts', 'data', 'application', 'releases', 'people', 'audit', 'account'];

const read = () => window.location.pathname.replace(/^\/|\/$/g, '');

let guard: (() => boolean) | undefined;

/** While set, leaving the place asks first; used where something typed would be lost. */
export function guardLeaving(mayLeave: (() => boolean) | undefined): void {
  guard = mayLeave;
}

let leaving = false;

/** Leaves everything behind, as signing out does, unless something typed keeps one here; from then on nothing asks again. */
export function leaveAll(): boolean {
  if (guard && !guard()) return false;
  guard = undefined;
  leaving = true;
  return true;
}

/** Whether everything is being left, so that the browser need not ask. */
export const isLeaving = () => leaving;

let current = read();
const listeners = new Set<() => void>();

function arrive(): void {
  current = read();
  for (const listener of listeners) listener();
}

window.addEventListener('popstate', () => {
  if (read() === current) return;
  if (guard && !guard()) window.history.pushState(null, '', `/${current}`);
  else arrive();
});

// Links within the console change the place and fetch nothing; the browser's own ways of opening a link stay as they are.
document.addEventListener('click', (event) => {
  const link = event.target instanceof Element ? event.target.closest<HTMLAnchorElement>('a[href]') : null;
  if (
    !link ||
    event.defaultPrevented ||
    event.button !== 0 ||
    event.ctrlKey ||
    event.metaKey ||
    event.shiftKey ||
    event.altKey ||
    link.target ||
    link.hasAttribute('download')
  )
    return;
  const [, first = ''] = link.pathname.split('/');
  if (link.origin !== window.location.origin || link.getAttribute('href')!.startsWith('#') || !(first === '' || places.includes(first)))
    return;
  event.preventDefault();
  to(link.pathname);
});

function to(path: string): void {
  if (path.replace(/^\/|\/$/g, '') === current || (guard && !guard())) return;
  window.history.pushState(null, '', path);
  window.scrollTo(0, 0);
  arrive();
}

/** Told whenever one is somewhere else. */
export function onPlace(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** A part of an address as it was meant; one that is no whole encoding, as typed by hand, stays what it is. */
function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/** Where one is. */
export const here = (): Place => current.split('/').filter(Boolean).map(decoded);

export const address = (...parts: (string | number)[]) => `/${parts.map((part) => encodeURIComponent(part)).join('/')}`;

export const navigate = (...parts: (string | number)[]): void => to(address(...parts));
