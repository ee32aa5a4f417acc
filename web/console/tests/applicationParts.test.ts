import { screen, waitFor, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { EntitySummary } from '../src/api/client.ts';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return held.calls!.api;
  },
}));
const { Calls: Made, show, working } = await import('./pages.ts');
const { MenuPart } = await import('../src/features/application/MenuPart.tsx');
const { RoutingPart } = await import('../src/features/application/RoutingPart.tsx');
const { StylesPart } = await import('../src/features/application/StylesPart.tsx');
const { WidthsPart } = await import('../src/features/application/WidthsPart.tsx');

const entities = [
  { key: 'vessel', label: 'Vessel', plural: 'Vessels' },
  { key: 'berth', label: 'Berth', plural: 'Berths' },
] as unknown as EntitySummary[];
const layout = (key: string, entity: string, kind = 'full') => ({ key, entity, kind, title: `The ${key}` });

/** A service that keeps one document; each change moves it on. */
const kept = { value: undefined as unknown, revision: 0 };
let calls: Calls;
beforeEach(() => {
  calls = held.calls = new Made();
  Object.assign(kept, { value: undefined, revision: 0 });
  vi.stubGlobal('fetch', async (_: string, how: { method?: string; body?: string }) => {
    if (how.method === 'PUT') Object.assign(kept, { value: JSON.parse(how.body!) as unknown, revision: kept.revision + 1 });
    const found = kept.value !== undefined;
    return new Response(JSON.stringify(found ? kept.value : { status: 404, code: 'not-found', title: 'Not found' }), {
      status: found ? 200 : 404,
      headers: { ETag: `"${kept.revision}"` },
    });
  });
  calls.answers.set('GET /api/findings', []);
  calls.answers.set('GET /api/people', [{ id: 'ada', name: 'Ada Wader', roles: [], language: 'en' }]);
  working(['configure']);
});

const now = <T>() => kept.value as T;
const is = (value: object) => waitFor(() => expect(kept.value).toEqual(value));

describe('routing', () => {
  const open = async (rules?: object[]) => {
    if (rules) Object.assign(kept, { value: { kind: 'routing', rules }, revision: 3 });
    calls.answers.set('GET /api/layouts', [
      layout('vessel', 'vessel'),
      layout('yard', 'vessel'),
      layout('vessel-list', 'vessel', 'list'),
      layout('berth', 'berth'),
    ]);
    calls.answers.set('GET /api/records/{entity}/lookup', [{ id: 7, title: 'Kittiwake' }]);
    calls.answers.set('GET /api/routing', {
      layout: 'yard',
      title: 'The yard',
      generated: false,
      rules: [{ rule: 0, verdict: 'decides' }],
    });
    show(RoutingPart, { entities });
    await waitFor(() => expect(calls.of('GET /api/layouts')).toHaveLength(1));
  };
  const chosen = (name: string | RegExp) => screen.findByRole<HTMLSelectElement>('combobox', { name });

  it('begins with no rule, and the first is of the first layout there is', async () => {
    await open();
    expect(await screen.findByText(/There are no rules/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Add a rule' }));
    await is({ kind: 'routing', rules: [{ entity: 'vessel', layout: 'vessel' }] });
  });

  it('gives another entity or kind a layout of its own, and none where there is none', async () => {
    await open([{ entity: 'vessel', layout: 'yard' }]);
    await userEvent.selectOptions(await chosen(/entity of rule 1/i), 'berth');
    await is({ kind: 'routing', rules: [{ entity: 'berth', layout: 'berth' }] });
    await userEvent.selectOptions(await chosen(/kind of rule 1/i), 'list');
    await is({ kind: 'routing', rules: [{ entity: 'berth', layout: '', form: 'list' }] });
    await userEvent.selectOptions(await chosen(/entity of rule 1/i), 'vessel');
    await userEvent.selectOptions(await chosen(/kind of rule 1/i), 'full');
    await is({ kind: 'routing', rules: [{ entity: 'vessel', layout: 'vessel' }] });
  });

  it('is to roles while something holds, and to everyone always where neither is said', async () => {
    await open([{ entity: 'vessel', layout: 'yard' }]);
    await userEvent.click(await screen.findByRole('checkbox', { name: 'Yard foreman' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Quay hand' }));
    const when = screen.getByRole('textbox', { name: /condition of rule 1/i });
    await userEvent.type(when, 'record.length > 20.0{Escape}');
    expect(now<{ rules: object[] }>().rules[0]).not.toHaveProperty('when');
    await userEvent.type(when, 'record.length > 20.0{Enter}');
    await is({
      kind: 'routing',
      rules: [{ entity: 'vessel', layout: 'yard', roles: ['quay-hand', 'yard-foreman'], when: 'record.length > 20.0' }],
    });
    await userEvent.click(screen.getByRole('checkbox', { name: 'Yard foreman' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Quay hand' }));
    await userEvent.clear(when);
    await userEvent.tab();
    await is({ kind: 'routing', rules: [{ entity: 'vessel', layout: 'yard' }] });
  });

  it('goes up and down and away, and back by one step', async () => {
    await open([
      { entity: 'vessel', layout: 'yard' },
      { entity: 'berth', layout: 'berth' },
    ]);
    await userEvent.click(await screen.findByRole('button', { name: /rule 1 down|move rule 1 down/i }));
    await waitFor(() => expect(now<{ rules: { layout: string }[] }>().rules.map((each) => each.layout)).toEqual(['berth', 'yard']));
    await userEvent.click(screen.getByRole('button', { name: /remove rule 2/i }));
    await waitFor(() => expect(now<{ rules: object[] }>().rules).toHaveLength(1));
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    await waitFor(() => expect(now<{ rules: object[] }>().rules).toHaveLength(2));
  });

  it('is tried with a person and a record, and each rule says what it decides', async () => {
    await open([{ entity: 'vessel', layout: 'yard' }]);
    const trial = await screen.findByRole('region', { name: 'Try it' });
    await waitFor(() => expect(within(trial).getByRole('status').textContent).toContain('The yard'));
    expect(document.querySelector('[data-verdict]')?.getAttribute('data-verdict')).toBe('decides');
    await userEvent.selectOptions(within(trial).getByRole('combobox', { name: 'Record' }), 'Kittiwake');
    await waitFor(() => expect(calls.of('GET /api/routing').at(-1)).toEqual({ entity: 'vessel', kind: 'full', person: 'ada', record: 7 }));
  });
});

describe('widths', () => {
  const widths = [{ name: 'narrow', below: 40 }, { name: 'medium', below: 64 }, { name: 'wide' }];

  it('are cut where one says, but never over the next, and one is taken out or added', async () => {
    Object.assign(kept, { value: { kind: 'application', widths }, revision: 2 });
    show(WidthsPart, {});
    const narrow = await screen.findByRole('spinbutton', { name: /narrow/ });
    await userEvent.clear(narrow);
    await userEvent.type(narrow, '90');
    expect(now<{ widths: { below?: number }[] }>().widths[0]!.below).toBeLessThan(64);
    await userEvent.click(screen.getByRole('button', { name: /remove medium/i }));
    await waitFor(() => expect(now<{ widths: { name: string }[] }>().widths.map((each) => each.name)).toEqual(['narrow', 'wide']));
    expect(screen.queryByRole('button', { name: /remove narrow/i })).toBeNull();
    await userEvent.type(screen.getByRole('textbox', { name: /new width/i }), 'Very wide{Enter}');
    await waitFor(() => expect(now<{ widths: object[] }>().widths).toHaveLength(3));
  });
});

describe('styles and the theme', () => {
  it('are named in a language, coloured, warned about where they cannot be read, and taken out', async () => {
    Object.assign(kept, { value: { kind: 'application', styles: [{ key: 'caution', label: 'Caution', ink: '#eeeeee' }] }, revision: 2 });
    show(StylesPart, {});
    const label = await screen.findByRole('textbox', { name: /caution/i });
    expect(document.querySelector('.styles .style-ratio')!.hasAttribute('data-low')).toBe(true);
    await userEvent.clear(label);
    await userEvent.type(label, 'Take care');
    await waitFor(() => expect(JSON.stringify(now<{ styles: { label: unknown }[] }>().styles[0]!.label)).toContain('Take care'));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Strong' }));
    await waitFor(() => expect(now<{ styles: { strong?: boolean }[] }>().styles[0]!.strong).toBe(true));
    await userEvent.click(screen.getByRole('button', { name: 'Add a style' }));
    await waitFor(() => expect(now<{ styles: object[] }>().styles).toHaveLength(2));
    for (const remove of screen.getAllByRole('button', { name: /^remove/i }).reverse()) await userEvent.click(remove);
    await waitFor(() => expect(now<object>()).not.toHaveProperty('styles'));
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Typeface' }), 'serif');
    await waitFor(() => expect(now<{ theme: object }>().theme).toEqual({ typeface: 'serif' }));
  });
});

describe('the menu', () => {
  const titles = () => now<{ entries: { title: string; entries?: { title: string }[] }[] }>().entries;

  it('is a tree that is added to, moved about and taken from, and shows what somebody sees of it', async () => {
    calls.answers.set('GET /api/icons', { anchor: 'M0 0h24' });
    Object.assign(kept, {
      value: {
        kind: 'navigation',
        entries: [
          { key: 'a', title: 'Vessels', entity: 'vessel' },
          { key: 'b', title: 'Berths', entity: 'berth', roles: ['quay-hand'] },
        ],
      },
      revision: 5,
    });
    show(MenuPart, { entities });
    const line = (name: RegExp) => within(screen.getByRole('region', { name: 'Entries' })).findByRole('button', { name });
    await userEvent.click(await waitFor(() => line(/^Berths/)));
    await userEvent.click(screen.getByRole('button', { name: 'Up' }));
    expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Up' }));
    await waitFor(() => expect(titles().map((each) => each.title)).toEqual(['Berths', 'Vessels']));
    await userEvent.click(await line(/^Berths/));
    await userEvent.keyboard('{Alt>}{ArrowDown}{/Alt}');
    await waitFor(() => expect(titles().map((each) => each.title)).toEqual(['Vessels', 'Berths']));
    await userEvent.click(screen.getByRole('button', { name: 'Further in' }));
    await waitFor(() => expect(titles()[0]!.entries?.map((each) => each.title)).toEqual(['Berths']));
    await userEvent.click(screen.getByRole('button', { name: 'Add inside' }));
    await waitFor(() => expect(JSON.stringify(titles())).toContain('New entry'));
    await userEvent.click(screen.getByRole('button', { name: 'Remove' }));
    await waitFor(() => expect(JSON.stringify(titles())).not.toContain('New entry'));
  });
});
