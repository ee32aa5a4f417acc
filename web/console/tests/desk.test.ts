import { screen, waitFor, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { createElement, useState } from 'react';
import { apply, type Edit, type Facts, type TreeNode } from '#layout';
import type { FieldInfo, Finding } from '../src/api/client.ts';
import { stepsDone, type JobState } from '../src/features/designer/jobSteps.ts';
import type { NodeRule } from '../src/features/designer/propertyRules.ts';
import { Calls, show, working } from './pages.ts';

const calls = vi.hoisted(() => ({ now: undefined as unknown }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return (calls.now as { api: unknown }).api;
  },
}));
const { CommandList } = await import('../src/features/designer/CommandList.tsx');
const { FirstJob, wasOffered } = await import('../src/features/designer/FirstJob.tsx');
const { FindingMarks } = await import('../src/features/designer/FindingMarks.tsx');
const { PaneEdge } = await import('../src/features/designer/PaneEdge.tsx');
const { Properties } = await import('../src/features/designer/Properties.tsx');
const { typedMoves } = await import('../src/features/designer/typedMoves.ts');
const { paneRange, usePanes } = await import('../src/features/designer/usePanes.ts');

// The page the tests draw in knows no popovers.
HTMLElement.prototype.showPopover ??= function showPopover() {};
HTMLElement.prototype.hidePopover ??= function hidePopover() {};
Element.prototype.scrollIntoView ??= function scrollIntoView() {};

const node = (kind: TreeNode['kind'], id: string, properties: TreeNode['properties'] = {}, ...children: TreeNode[]): TreeNode => ({
  id,
  kind,
  properties,
  children,
});
const field = (key: string, more: TreeNode['properties'] = {}) =>
  node('row', `${key}Row`, {}, node('cell', `${key}Cell`, {}, node('field', key, { field: key, ...more })));
const tree = node(
  'layout',
  'layout',
  { kind: 'full', key: 'vessel', labels: 'beside' },
  node(
    'body',
    'body',
    {},
    node(
      'page',
      'overview',
      { title: 'Overview' },
      node('section', 'identity', { title: 'Identity' }, field('name'), field('beam', { hint: 'in metres' })),
      node('section', 'rig', { title: 'Rig' }, field('mast')),
    ),
    node('page', 'care', { title: 'Care' }, node('section', 'work', { title: 'Work' })),
  ),
);
const names: Record<string, string> = { name: 'Name', beam: 'Beam', mast: 'Mast height', identity: 'Identity', rig: 'Rig', work: 'Work' };
const nameOf = (id: string) => names[id] ?? id[0]!.toUpperCase() + id.slice(1);
const facts = new Map([
  ['name', { key: 'name', type: 'text', label: 'Name', longestWord: 4 }],
  ['beam', { key: 'beam', type: 'decimal', label: 'Beam', longestWord: 4 }],
  ['mast', { key: 'mast', type: 'decimal', label: 'Mast height', longestWord: 6 }],
]) as unknown as Facts;

beforeEach(() => {
  const made = new Calls();
  calls.now = made;
  localStorage.clear();
  working(['configure']);
});

describe('the list of commands', () => {
  const ran: string[] = [];
  const named = (name: string) => ({ name, about: 'form' as const, run: () => ran.push(name) });
  const open = (more: object = {}) =>
    show(CommandList, {
      title: 'Commands',
      commands: ['Undo', 'Move up', 'Move down'].map(named),
      selected: false,
      onClose: (chosen?: { run: () => void }) => chosen?.run(),
      ...more,
    });
  beforeEach(() => {
    ran.length = 0;
  });

  it('narrows with every letter; arrows choose, Enter does it', async () => {
    open();
    const input = await screen.findByRole('combobox');
    await userEvent.type(input, 'move');
    expect(screen.getAllByRole('option').map((each) => each.textContent)).toEqual(['Move up', 'Move down']);
    await userEvent.keyboard('{ArrowDown}{Enter}');
    expect(ran).toEqual(['Move down']);
  });

  it('does what is clicked, and says where nothing is called so', async () => {
    open();
    await userEvent.click(await screen.findByText('Undo'));
    expect(ran).toEqual(['Undo']);
    open();
    await userEvent.type(await screen.findByRole('combobox'), 'sail');
    expect(screen.queryAllByRole('option')).toEqual([]);
    expect(screen.getByRole('status').textContent).not.toBe('');
  });

  it('has what is only there because of what is typed, and opens where the pointer was', async () => {
    open({ typed: (text: string) => (text === 'sail' ? [named('Sail away')] : []), at: { x: 40, y: 50 } });
    const input = await screen.findByRole('combobox');
    await waitFor(() => expect(input.closest('dialog')!.style.left).toBe('40px'));
    await userEvent.type(input, 'sail{Enter}');
    expect(ran).toEqual(['Sail away']);
  });
});

describe('a move that is typed', () => {
  const placed: string[] = [];
  const moves = (typed: string) =>
    typedMoves({ tree, facts, nameOf, place: ({ target, edge }, subject) => placed.push(JSON.stringify([subject, edge, target])) }, typed);

  it('says what goes and where to, whatever is selected', () => {
    const found = moves('move mast height right of name');
    const after = found.find((each) => each.name === 'Move Mast height in a column after Name')!;
    after.run();
    expect(placed).toEqual([JSON.stringify([{ node: 'mast' }, 'right', 'name'])]);
    expect(found.some((each) => each.name.startsWith('Move Name'))).toBe(true);
  });

  it('leads a section to another tab, and nothing into itself', () => {
    expect(moves('move rig to the tab care').map((each) => each.name)).toContain('Move Rig to the tab Care');
    expect(moves('rig')).toEqual([]);
    expect(moves('')).toEqual([]);
  });
});

describe('findings on the form', () => {
  const finding = (at: string, severity: string, fix?: string) =>
    ({
      code: `code-${at}`,
      node: at,
      severity,
      message: `About ${at}`,
      ...(fix ? { fix: { label: fix, edits: [{ op: 'remove', node: at }] } } : {}),
    }) as unknown as Finding;

  it('stand on what they are about, the worst first; of a row on what is in it', async () => {
    const mended: unknown[] = [];
    show(FindingMarks, {
      sheet: { current: null },
      drawn: '',
      tree,
      findings: [
        finding('beam', 'advice'),
        finding('beamRow', 'error', 'Take it off'),
        finding('rig', 'warning'),
        finding('layout', 'advice'),
      ],
      onSelect: () => undefined,
      onMend: (edits: unknown, label: string) => void mended.push([edits, label]),
    });
    await waitFor(() => expect(document.querySelectorAll('.mark-finding')).toHaveLength(2));
    const marks = [...document.querySelectorAll<HTMLElement>('.mark-finding')].map((each) => [
      each.dataset['for'],
      each.dataset['severity'],
    ]);
    expect(marks).toEqual([
      ['beam', 'error'],
      ['rig', 'warning'],
    ]);
    await userEvent.click(document.querySelector('.mark-finding button')!);
    await userEvent.click(await screen.findByText('Take it off'));
    expect(mended).toEqual([[[{ op: 'remove', node: 'beamRow' }], 'Take it off']]);
  });
});

describe('the edge of a pane', () => {
  const Host = () => PaneEdge({ side: 'start', sizes: usePanes() });
  const edge = () => screen.findByRole('separator');

  it('goes by arrows within its range, and stays as it was left', async () => {
    show(Host, {});
    (await edge()).focus();
    await userEvent.keyboard('{ArrowRight}{ArrowRight}');
    expect((await edge()).getAttribute('aria-valuenow')).toBe('272');
    await userEvent.keyboard('{ArrowLeft>30/}');
    expect((await edge()).getAttribute('aria-valuenow')).toBe(String(paneRange.least));
    expect(JSON.parse(localStorage.getItem('designer:panes')!)).toMatchObject({ start: { width: paneRange.least } });
  });

  it('is folded away by Enter or its button, and back', async () => {
    localStorage.setItem('designer:panes', '{"start":{"width":99999,"folded":false},"end":7}');
    show(Host, {});
    expect((await edge()).getAttribute('aria-valuenow')).toBe(String(paneRange.most));
    (await edge()).focus();
    await userEvent.keyboard('{Enter}');
    expect(screen.queryByRole('separator')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Open the left pane' }));
    await edge();
  });

  it('begins as it was built where what was kept cannot be read', async () => {
    localStorage.setItem('designer:panes', 'sail');
    show(Host, {});
    expect((await edge()).getAttribute('aria-valuenow')).toBe('240');
  });
});

describe('properties', () => {
  const property = (name: string, type: string, more: object = {}) => ({
    name,
    type,
    group: 'words',
    label: `${name[0]!.toUpperCase()}${name.slice(1)}`,
    about: `About ${name}`,
    lines: false,
    required: false,
    inVariants: true,
    ofFields: false,
    often: false,
    inherits: false,
    allByDefault: false,
    ...more,
  });
  const rules = [
    { name: 'layout', root: 'full', about: '', properties: [property('labels', 'word', { words: ['above', 'beside'], default: 'above' })] },
    {
      name: 'field',
      about: 'A field',
      properties: [
        property('label', 'text', { often: true }),
        property('labels', 'word', { words: ['above', 'beside'], inherits: true, often: true }),
        property('modes', 'words', { words: ['create', 'edit', 'view'], allByDefault: true, often: true }),
        property('pattern', 'address', { types: ['text'], often: true }),
        property('hint', 'text'),
        property('note', 'text'),
        property('style', 'text'),
        property('prefix', 'text'),
      ],
    },
    {
      name: 'section',
      about: 'A section',
      properties: [property('columns', 'number', { min: 1, max: 4, default: '1', often: true })],
    },
  ] as unknown as NodeRule[];
  const fields = [
    { key: 'name', label: 'Name', type: 'text' },
    { key: 'beam', label: 'Beam', type: 'decimal' },
  ] as unknown as FieldInfo[];
  const edits: unknown[] = [];
  const open = async (...ids: string[]) => {
    (calls.now as Calls).answers.set('GET /api/grammar', rules);
    const all = (of: TreeNode): TreeNode[] => [of, ...of.children.flatMap(all)];
    show(Properties, {
      nodes: ids.map((id) => all(tree).find((each) => each.id === id)!),
      tree,
      fields,
      findings: [],
      language: 'en',
      languages: ['en'],
      name: 'It',
      onEdit: (made: unknown[]) => void edits.push(...made),
      onTyping: () => undefined,
      onRemove: () => undefined,
      onChoices: () => undefined,
      base: undefined,
    });
    await screen.findByRole('heading', { name: /It|selected/ });
  };
  const shown = () =>
    [...document.querySelectorAll<HTMLElement>('.property')].filter((each) => !each.hidden).map((each) => each.dataset['property']);
  beforeEach(() => {
    edits.length = 0;
  });

  it('are those one sets first, and what is set; the others one press away, and so they stay', async () => {
    await open('beam');
    expect(shown()).toEqual(['label', 'labels', 'modes', 'hint']);
    await userEvent.click(screen.getByRole('button', { name: '3 more properties' }));
    expect(shown()).toEqual(['label', 'labels', 'modes', 'hint', 'note', 'style', 'prefix']);
    expect(localStorage.getItem('properties')).toBe('all');
  });

  it('suit the type of the field', async () => {
    await open('name');
    expect(shown()).toContain('pattern');
  });

  it('show what is inherited as the value it is, with where it comes from', async () => {
    await open('beam');
    const labels = screen.getByLabelText<HTMLSelectElement>('Labels');
    expect(labels.selectedOptions[0]!.textContent).toBe('beside (as Form)');
    expect(screen.getByLabelText<HTMLInputElement>('Label').placeholder).toBe('Beam');
    expect(screen.getByText('As the entity has it')).not.toBeNull();
  });

  it('tick what is so: in every mode where none is named, and never in none', async () => {
    await open('beam');
    const ticks = within(screen.getByRole('group', { name: 'Modes' })).getAllByRole<HTMLInputElement>('checkbox');
    expect(ticks.map((each) => each.checked)).toEqual([true, true, true]);
    await userEvent.click(ticks[0]!);
    expect(edits).toEqual([{ op: 'set', node: 'beam', property: 'modes', value: ['edit', 'view'] }]);
  });

  it('of a few numbers have all in sight', async () => {
    await open('identity');
    const columns = within(await screen.findByRole('radiogroup', { name: 'Columns' })).getAllByRole<HTMLInputElement>('radio');
    expect(columns.map((each) => each.checked)).toEqual([true, false, false, false]);
    await userEvent.click(columns[2]!);
    expect(edits.length).toBeGreaterThan(0);
  });
});

describe('a first job', () => {
  const begun = { tree, trying: false, published: 3 };
  const after = (...edits: Edit[]) => ({ ...begun, tree: apply(tree, edits).tree! });
  const steps = (now: JobState) => [...stepsDone(begun, now)];

  it('is told by what became of the form', () => {
    expect(steps(begun)).toEqual([]);
    expect(steps(after({ op: 'move', node: 'mast', parent: 'beamCell', at: 'last' }))).toEqual(['place']);
    const beside = after(
      { op: 'insert', node: { id: 'more', kind: 'cell' }, parent: 'nameRow', at: 'last' },
      { op: 'move', node: 'mast', parent: 'more', at: 'last' },
    );
    expect(steps(beside)).toEqual(['place', 'pair']);
    expect(steps(after({ op: 'set', node: 'beamCell', property: 'span', value: 6 }))).toEqual(['widen']);
    expect(steps({ ...begun, trying: true })).toEqual(['try']);
    expect(steps({ ...begun, published: 4 })).toEqual(['publish']);
  });

  it('ticks what is done, be it undone since, and is offered once', async () => {
    const closed = vi.fn();
    let change: (now: JobState) => void = () => undefined;
    const Host = () => {
      const [now, setNow] = useState<JobState>(begun);
      change = setNow;
      return createElement(FirstJob, { person: 'ada', now, onClose: closed });
    };
    show(Host, {});
    const current = () => document.querySelector('[aria-current="step"] b')?.textContent;
    await waitFor(() => expect(current()).toBe('Place a field'));
    change(after({ op: 'move', node: 'mast', parent: 'beamCell', at: 'last' }));
    await waitFor(() => expect(current()).toBe('Put two side by side'));
    change(begun);
    expect(current()).toBe('Put two side by side');
    expect(wasOffered('ada')).toBe(false);
    await userEvent.click(screen.getByRole('button', { name: 'Stop' }));
    expect([closed.mock.calls.length, wasOffered('ada')]).toEqual([1, true]);
  });
});
