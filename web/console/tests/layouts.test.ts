import { screen, waitFor, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { EntitySummary } from '../src/api/client.ts';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined, listeners: new Set<(event: unknown) => void>() }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return held.calls!.api;
  },
}));
vi.mock('../src/shell/events.ts', () => ({
  onServerEvent: (listener: (event: unknown) => void) => {
    held.listeners.add(listener);
    return () => held.listeners.delete(listener);
  },
}));
const { Calls: Made, show, working } = await import('./pages.ts');
const { LayoutsPage } = await import('../src/features/releases/LayoutsPage.tsx');
const { Menu } = await import('../src/runtime/Menu.ts');
const { navigate } = await import('../src/shell/location.ts');

const entities = [
  { key: 'vessel', label: 'Vessel', plural: 'Vessels' },
  { key: 'berth', label: 'Berth', plural: 'Berths' },
] as unknown as EntitySummary[];
const layout = (key: string, more: object = {}) => ({
  key,
  title: `The ${key}`,
  kind: 'full',
  entity: 'vessel',
  revision: 3,
  published: 3,
  errors: 0,
  warnings: 0,
  comments: 0,
  changedAt: '2026-11-27T09:00:00Z',
  changedBy: 'ada',
  ...more,
});

let calls: Calls;

/** Has the service find these layouts, of the entity that is asked for. */
const found = (layouts: ReturnType<typeof layout>[]) =>
  calls.answers.set('GET /api/search/layouts', ({ entity, limit }: { entity: string; limit: number }) => {
    const sought = layouts.filter((each) => entity === '' || each.entity === entity);
    return { layouts: sought.slice(0, limit), found: sought.length, all: layouts.length };
  });

beforeEach(() => {
  calls = held.calls = new Made();
  calls.answers.set('GET /api/people', [{ id: 'ada', name: 'Ada Wader' }]);
  found([
    layout('vessel', { uses: 2, changedAt: '2026-11-28T09:00:00Z' }),
    layout('trial', { published: null, errors: 2, warnings: 1 }),
    layout('berth', { entity: 'berth', published: 1, comments: 4 }),
  ]);
  calls.answers.set('GET /api/documents', [{ kind: 'entity', key: 'vessel' }]);
  calls.answers.set('GET /api/templates', [
    { key: 'register', title: 'A register', about: 'For a yard.', kinds: ['full', 'card', 'list'] },
  ]);
  calls.answers.set('GET /api/entities/{entity}/examples', [{ key: 'tabs', title: 'In tabs' }]);
  calls.answers.set('POST /api/layouts', { key: 'quick-look' });
  vi.stubGlobal('scrollTo', () => undefined);
  vi.stubGlobal('matchMedia', () => ({ matches: false }));
  working(['configure']);
  navigate();
});

describe('the layouts', () => {
  it('are listed with what is published of them, what is wrong and what is said', async () => {
    show(LayoutsPage, { entities });
    await screen.findByText('The trial');
    const rows = screen
      .getAllByRole('row')
      .slice(1)
      .map((row) =>
        within(row)
          .getAllByRole('cell')
          .slice(0, 7)
          .map((cell) => cell.textContent),
      );
    expect(rows).toEqual([
      ['The vessel', 'full', 'Vessel', 'published', 'none', 'none', '2'],
      ['The trial', 'full', 'Vessel', 'never published', '2 errors, 1 warning', 'none', 'none'],
      ['The berth', 'full', 'Berth', '2 not published', 'none', '4 open', 'none'],
    ]);
    expect([screen.getByText('The trial').getAttribute('href'), screen.getByText('4 open').getAttribute('href')]).toEqual([
      '/design/trial',
      '/design/berth/comments',
    ]);
  });

  it('are made only by whoever may', async () => {
    working(['review']);
    show(LayoutsPage, { entities });
    await screen.findByText('The trial');
    expect(screen.queryByText('New layout…')).toBeNull();
  });

  const making = async () => {
    show(LayoutsPage, { entities });
    await userEvent.click(await screen.findByText('New layout…'));
    return within(screen.getByRole('dialog'));
  };

  it('are named before they are made, under a key nobody has', async () => {
    const dialog = await making();
    expect((dialog.getByText('Create') as HTMLButtonElement).disabled).toBe(true);
    await userEvent.type(dialog.getByLabelText('Title'), 'Trial');
    expect(dialog.getByText(/^trial-?\d+$/)).toBeTruthy();
    await userEvent.clear(dialog.getByLabelText('Title'));
    await userEvent.type(dialog.getByLabelText('Title'), 'Quick look');
    await userEvent.click(dialog.getByLabelText(/^Card/, { selector: '[type=radio]' }));
    await userEvent.click(dialog.getByLabelText('List', { selector: '[type=checkbox]' }));
    await userEvent.click(dialog.getByLabelText('Menu entry'));
    await userEvent.click(dialog.getByText('Create'));
    await waitFor(() => expect(window.location.pathname).toBe('/design/quick-look'));
    expect(calls.of('POST /api/layouts')).toEqual([
      {
        entity: 'vessel',
        key: expect.stringMatching(/^quick/),
        from: 'generated',
        kind: 'card',
        title: 'Quick look',
        also: ['list'],
        menuEntry: true,
      },
    ]);
  });

  it('begin with everything, as a copy of one of the same entity, or as a worked example, each in a picture', async () => {
    const dialog = await making();
    await dialog.findByText('Worked example: In tabs');
    await dialog.findByText('Set from A register');
    const offered = () => [...document.querySelectorAll('.picture-choice')].map((each) => each.textContent);
    expect(offered()).toEqual([
      'All fields, in groups',
      'What is required',
      'Nothing',
      'Copy of The vessel',
      'Copy of The trial',
      'Worked example: In tabs',
      'Set from A register',
    ]);
    expect(document.querySelector('.picture-choice img')!.getAttribute('src')).toBe(
      '/api/entities/vessel/picture?from=generated&kind=full',
    );
    await userEvent.click(dialog.getByLabelText('Copy of The vessel'));
    await userEvent.selectOptions(dialog.getByLabelText('Records of'), 'berth');
    await waitFor(() =>
      expect([document.querySelector('.picture-choice[data-on]')!.textContent, offered()[3]]).toEqual([
        'All fields, in groups',
        'Copy of The berth',
      ]),
    );
  });

  it('of a template say what found no place before one goes on', async () => {
    calls.answers.set('POST /api/templates/register/layouts', [
      { key: 'yard', unmatched: [] },
      { key: 'yard-list', unmatched: ['mast', 'sail area'] },
    ]);
    const dialog = await making();
    await userEvent.click(await dialog.findByLabelText('Set from A register'));
    await userEvent.type(dialog.getByLabelText('Title'), 'Yard');
    // Without any of its parts there is nothing to create.
    for (const each of dialog.getAllByRole('checkbox')) await userEvent.click(each);
    expect(dialog.getByText<HTMLButtonElement>('Create').disabled).toBe(true);
    const [full, , list] = dialog.getAllByRole('checkbox');
    await userEvent.click(full!);
    await userEvent.click(list!);
    await userEvent.click(dialog.getByText('Create'));
    expect(calls.of('POST /api/templates/register/layouts')).toEqual([{ entity: 'vessel', key: 'yard', title: 'Yard', without: ['card'] }]);
    expect((await screen.findByText(/mast, sail area/)).textContent).toBe('yard-list: mast, sail area');
    expect(window.location.pathname).toBe('/');
    await userEvent.click(screen.getByText('Open the first one'));
    expect(window.location.pathname).toBe('/design/yard');
  });

  it('that are refused stay in the dialog with the reason', async () => {
    calls.answers.set('POST /api/layouts', new Error('There are 500 layouts; that is as many as there may be.'));
    const dialog = await making();
    await userEvent.type(dialog.getByLabelText('Title'), 'One more{Enter}');
    expect((await dialog.findByRole('alert')).textContent).toContain('as many as there may be');
  });
});

describe('the menu', () => {
  const entry = (key: string, more: object = {}) => ({ key, title: key, icon: null, entity: null, address: null, entries: [], ...more });
  const shown = () =>
    [...document.querySelectorAll('nav a, nav .menu-group')].map((each) => {
      const label = each.firstChild?.nodeName === '#text' ? each.firstChild : each.lastChild!;
      return `${each.getAttribute('href') ?? '–'} ${label.textContent}`;
    });
  const open = async (entries: unknown[], may: string[]) => {
    calls.answers.set('GET /api/navigation', entries);
    working(may);
    const out = vi.fn();
    const menu = new Menu(out);
    document.body.replaceChildren(menu.element);
    menu.show(entities, 2);
    await waitFor(() => expect(calls.of('GET /api/navigation')).toHaveLength(1));
    await new Promise((next) => setTimeout(next));
    return { menu, out };
  };

  it('is what is published, with the pages one may see, and how often one is named', async () => {
    const { menu, out } = await open(
      [
        entry('On the water', {
          entries: [entry('Vessels', { entity: 'vessel' }), entry('Tides', { address: 'https://tides.example.org/' })],
        }),
        entry('Empty', {}),
      ],
      ['configure', 'administer'],
    );
    expect(shown().slice(1, -1)).toEqual([
      '– On the water',
      '/records/vessel Vessels',
      'https://tides.example.org/ Tides',
      '– Design',
      '/layouts Layouts',
      '/data Data',
      '/application Application',
      '/releases Releases',
      '/people People',
      '/audit Audit log',
    ]);
    expect(screen.getByTitle(/name you|told you|mention/i).textContent).toBe('2');
    await userEvent.click(screen.getByText('Sign out'));
    expect(out).toHaveBeenCalledOnce();
    menu.close();
  });

  it('is every entity where none is published, and no more for whoever only works', async () => {
    const { menu } = await open([], ['read-records']);
    expect(shown().slice(1, -1)).toEqual(['/records/vessel Vessels', '/records/berth Berths']);
    menu.close();
  });

  it('marks where one is, keeps the focus, and follows a release', async () => {
    const listening = held.listeners.size;
    const { menu } = await open([entry('Vessels', { entity: 'vessel' })], ['configure']);
    document.querySelector<HTMLElement>('[href="/layouts"]')!.focus();
    navigate('layouts');
    menu.show();
    expect([document.querySelector('[aria-current]')!.getAttribute('href'), document.activeElement!.getAttribute('href')]).toEqual([
      '/layouts',
      '/layouts',
    ]);
    calls.answers.set('GET /api/navigation', [entry('Berths', { entity: 'berth' })]);
    held.listeners.forEach((listener) => listener({ type: 'release', data: { release: 2 } }));
    await waitFor(() => expect(shown()).toContain('/records/berth Berths'));
    menu.close();
    expect(held.listeners.size).toBe(listening);
  });
});

describe('many layouts', () => {
  const many = Array.from({ length: 250 }, (_, i) => layout(`trial${i}`, { title: `Trial ${i}` }));
  // By their elements: asking hundreds of rows for their roles takes seconds.
  const titles = () => [...document.querySelectorAll('tbody tr')].map((row) => row.querySelector('td')!.textContent);
  const asked = () => calls.of('GET /api/search/layouts').at(-1);

  it('are drawn a hundred at a time, as many as one answer has', async () => {
    found([...many, ...many, ...many]);
    show(LayoutsPage, { entities });
    await screen.findByText('Trial 27');
    expect([titles().length, screen.getByRole('status').textContent]).toEqual([100, '750 layouts, 100 shown Show 100 more']);
    for (const shown of [200, 300, 400, 500]) {
      await userEvent.click(screen.getByText('Show 100 more'));
      await waitFor(() => expect(titles().length).toBe(shown));
    }
    expect(screen.getByRole('status').textContent).toBe('750 layouts, 500 shown ');
  });

  it('are sought in the service, by words, entity, kind and state', async () => {
    found(many);
    show(LayoutsPage, { entities });
    await screen.findByText('Trial 27');
    expect(asked()).toEqual({ text: '', entity: '', kind: '', state: 'any', sort: 'changed', limit: 100 });
    await userEvent.selectOptions(screen.getByLabelText('Sort by'), 'by title');
    await userEvent.type(screen.getByLabelText(/Search/, { selector: 'input' }), 'BERTH trial24');
    await userEvent.selectOptions(screen.getByLabelText(/State/), 'not published');
    await userEvent.selectOptions(screen.getByLabelText(/Kind/), 'list');
    await userEvent.selectOptions(screen.getByLabelText(/Entity/), 'Berth');
    await waitFor(() =>
      expect(asked()).toEqual({
        text: 'BERTH trial24',
        entity: 'berth',
        kind: 'list',
        state: 'unpublished',
        sort: 'title',
        limit: 100,
      }),
    );
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('No layout matches.'));
  });
});
