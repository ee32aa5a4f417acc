import { beforeEach, describe, expect, it, vi } from 'vitest';
import { address, navigate, guardLeaving, here, isLeaving, leaveAll, onPlace } from '../src/shell/location.ts';

const link = (href: string, more: Record<string, string> = {}) => {
  const made = document.createElement('a');
  made.setAttribute('href', href);
  for (const [name, value] of Object.entries(more)) made.setAttribute(name, value);
  made.append(document.createElement('b'));
  document.body.replaceChildren(made);
  return made.firstElementChild!;
};
/** Whether the console took the click; the browser would follow the link otherwise. */
const click = (on: Element, how: MouseEventInit = {}) => {
  const event = new MouseEvent('click', { bubbles: true, cancelable: true, ...how });
  on.dispatchEvent(event);
  return event.defaultPrevented;
};

beforeEach(() => {
  vi.stubGlobal('scrollTo', () => undefined);
  guardLeaving(undefined);
  navigate();
});

describe('where one is', () => {
  it('is the parts of the address, whatever is in them', () => {
    navigate('records', 'vessel', 'Håndværk / 7 %');
    expect(window.location.pathname).toBe('/records/vessel/H%C3%A5ndv%C3%A6rk%20%2F%207%20%25');
    expect(here()).toEqual(['records', 'vessel', 'Håndværk / 7 %']);
    window.history.pushState(null, '', '/records/7%zz');
    window.dispatchEvent(new PopStateEvent('popstate'));
    expect(here()).toEqual(['records', '7%zz']);
    expect(address('design', 'vessel')).toBe('/design/vessel');
  });

  it.each(['/', '/records/vessel', '/design/vessel', '/layouts', '/application', '/releases', '/people', '/audit', '/account'])(
    'changes by a link to %s without a page being loaded',
    (href) => {
      if (href === '/') navigate('layouts');
      expect(click(link(href))).toBe(true);
      expect(window.location.pathname).toBe(href);
    },
  );

  it.each([
    ['/api/openapi', {}, {}],
    ['https://example.org/records', {}, {}],
    ['#content', {}, {}],
    ['/records/vessel', { target: '_blank' }, {}],
    ['/records/vessel', { download: '' }, {}],
    ['/records/vessel', {}, { ctrlKey: true }],
    ['/records/vessel', {}, { shiftKey: true }],
    ['/records/vessel', {}, { button: 1 }],
  ])('leaves %s %j %j to the browser', (href, more, how) => {
    const on = link(href, more as Record<string, string>);
    let taken: boolean | undefined;
    // jsdom goes nowhere, and says so on the console; what is asked here is only whether we kept out of it.
    window.addEventListener(
      'click',
      (event) => {
        taken = event.defaultPrevented;
        event.preventDefault();
      },
      { once: true },
    );
    click(on, how as MouseEventInit);
    expect(taken).toBe(false);
    expect(here()).toEqual([]);
  });

  it('is told to whoever listens, once for each change', () => {
    const places: string[][] = [];
    const stop = onPlace(() => places.push(here()));
    navigate('releases');
    navigate('releases');
    stop();
    navigate('layouts');
    expect(places).toEqual([['releases']]);
  });

  it('is not left while something typed would be lost, by link, by call or by the button for back', () => {
    navigate('records', 'vessel', 1);
    guardLeaving(() => false);
    navigate('layouts');
    click(link('/releases'));
    window.history.replaceState(null, '', '/layouts');
    window.dispatchEvent(new PopStateEvent('popstate'));
    expect([here(), window.location.pathname]).toEqual([['records', 'vessel', '1'], '/records/vessel/1']);
    expect([leaveAll(), isLeaving()]).toEqual([false, false]);
    guardLeaving(() => true);
    expect([leaveAll(), isLeaving()]).toEqual([true, true]);
  });
});
