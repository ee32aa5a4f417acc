// @vitest-environment node
// @vitest-environment node
import { describe, expect, it } from 'vitest';
import {
  find,
  flow,
  freshId,
  parentOf,
  placeAt,
  places,
  removal,
  step,
  walk,
  type Edit,
  type Facts,
  type NewNode,
  type Subject,
  type TreeNode,
} from '../src/index.ts';

/** Of these fields nothing is known: what needs no more room than there is. */
const facts: Facts = new Map();

/** name | beam draught | notes in one section, mast in another; spans where written. */
const cell = (id: string, ...items: TreeNode[]): TreeNode => ({ id: `${id}Cell`, kind: 'cell', properties: {}, children: items });
const field = (id: string): TreeNode => ({ id, kind: 'field', properties: { field: id }, children: [] });
const row = (...ids: string[]): TreeNode => ({
  id: `${ids[0]!}Row`,
  kind: 'row',
  properties: {},
  children: ids.map((id) => cell(id, field(id))),
});
const section = (id: string, ...rows: TreeNode[]): TreeNode => ({ id, kind: 'section', properties: { title: id }, children: rows });
const tree = (): TreeNode => ({
  id: 'layout',
  kind: 'layout',
  properties: {},
  children: [
    {
      id: 'body',
      kind: 'body',
      properties: {},
      children: [
        {
          id: 'overview',
          kind: 'page',
          properties: {},
          children: [section('identity', row('name'), row('beam', 'draught'), row('notes')), section('rig', row('mast'))],
        },
        { id: 'care', kind: 'page', properties: {}, children: [] },
      ],
    },
  ],
});

/** Does to a copy of a tree what the service does with edits. */
function apply(root: TreeNode, edits: Edit[]): TreeNode {
  const copy = structuredClone(root);
  const full = (node: NewNode): TreeNode => ({
    id: node.id ?? freshId(copy, String(node.properties?.['field'] ?? node.kind)),
    kind: node.kind,
    properties: node.properties ?? {},
    children: (node.children ?? []).map(full),
  });
  const detach = (id: string) => {
    const parent = parentOf(copy, id)!;
    return parent.children.splice(
      parent.children.findIndex((child) => child.id === id),
      1,
    )[0]!;
  };
  for (const edit of edits) {
    if (edit.op === 'remove') detach(edit.node);
    else if (edit.op === 'set') find(copy, edit.node)!.properties[edit.property] = edit.value!;
    else {
      const node = edit.op === 'insert' ? full(edit.node) : detach(edit.node);
      const { children } = find(copy, edit.parent)!;
      const index =
        edit.at === 'first'
          ? 0
          : edit.at === 'last'
            ? children.length
            : 'before' in edit.at
              ? children.findIndex((child) => child.id === (edit.at as { before: string }).before)
              : children.findIndex((child) => child.id === (edit.at as { after: string }).after) + 1;
      expect(index).toBeGreaterThanOrEqual(0);
      children.splice(index, 0, node);
    }
  }
  return copy;
}

const rows = (root: TreeNode) =>
  [...walk(root)]
    .filter((node) => node.kind === 'row')
    .map((each) => each.children.map((one) => one.children.map((item) => item.id).join('+')).join(' '));
const put = (subject: Subject, target: string, edge: 'above' | 'below' | 'left' | 'right' | 'inside') =>
  rows(apply(tree(), placeAt(tree(), subject, { target, edge }, facts)!.edits));

describe('a field goes where the pointer means', () => {
  it.each([
    ['a new row above', { field: 'port' }, 'nameRow', 'above', ['port', 'name', 'beam draught', 'notes', 'mast']],
    ['a column at the right edge', { field: 'port' }, 'nameCell', 'right', ['name port', 'beam draught', 'notes', 'mast']],
    ['stacked under one that has a neighbour', { field: 'port' }, 'beam', 'below', ['name', 'beam+port draught', 'notes', 'mast']],
    ['under one alone in its row, as another row', { field: 'port' }, 'name', 'below', ['name', 'port', 'beam draught', 'notes', 'mast']],
    ['at the end of a section', { field: 'port' }, 'rig', 'inside', ['name', 'beam draught', 'notes', 'mast', 'port']],
    ['onto an empty tab', { field: 'port' }, 'care', 'inside', ['name', 'beam draught', 'notes', 'mast', 'port']],
    ['moved beside another, its row closing behind it', { node: 'name' }, 'mastCell', 'left', ['beam draught', 'notes', 'name mast']],
    ['moved within its row', { node: 'draught' }, 'beamCell', 'left', ['name', 'draught beam', 'notes', 'mast']],
    ['moved out of a row', { node: 'draught' }, 'notesRow', 'below', ['name', 'beam', 'notes', 'draught', 'mast']],
  ] as const)('%s', (_, subject, target, edge, expected) => {
    expect(put(subject as Subject, target, edge)).toEqual(expected);
  });

  it('has no place where it is already', () => {
    expect(placeAt(tree(), { node: 'name' }, { target: 'nameRow', edge: 'above' }, facts)).toBeUndefined();
    expect(placeAt(tree(), { node: 'beam' }, { target: 'draughtCell', edge: 'left' }, facts)).toBeUndefined();
    expect(placeAt(tree(), { node: 'identity' }, { target: 'name', edge: 'above' }, facts)).toBeUndefined();
  });

  it('takes free units, then what others have beyond what they need, and a row of its own where there is no more', () => {
    const figure = { type: 'decimal', longestWord: 7 };
    const known: Facts = new Map([
      ...['beam', 'draught'].map((key) => [key, figure] as const),
      ['port', { type: 'reference', longestWord: 4 }],
      ['notes', { type: 'longText', longestWord: 5 }],
    ]);
    const beside = (field: string, beam: number, draught: number) => {
      const form = tree();
      find(form, 'beamCell')!.properties['span'] = beam;
      find(form, 'draughtCell')!.properties['span'] = draught;
      const place = placeAt(form, { field }, { target: 'beamCell', edge: 'right' }, known)!;
      const after = apply(form, place.edits);
      return [
        find(after, 'beamRow')!
          .children.map((each) => each.properties['span'])
          .join(' '),
        place.full ?? false,
      ];
    };
    expect(beside('port', 3, 3)).toEqual(['3 6 3', false]);
    expect(beside('port', 6, 6)).toEqual(['3 6 3', false]);
    expect(beside('port', 4, 4)).toEqual(['4 4 4', false]);
    expect(beside('port', 5, 5)).toEqual(['3 6 3', false]);
    expect(beside('notes', 5, 5)).toEqual(['3 6 3', false]);
    const notes = [...beside('notes', 2, 12)];
    expect(notes[1]).toBe(false);
    const full = tree();
    find(full, 'beamCell')!.properties['span'] = 3;
    find(full, 'draughtCell')!.properties['span'] = 9;
    const crowded = placeAt(
      full,
      { node: 'notes' },
      { target: 'beamCell', edge: 'right' },
      new Map([...known, ['draught', { type: 'longText', longestWord: 7 }]]),
    );
    expect([crowded!.full, rows(apply(full, crowded!.edits))]).toEqual([true, ['name', 'beam draught', 'notes', 'mast']]);
  });

  it('leaves its neighbours in their columns where a section has columns', () => {
    const columns = tree();
    find(columns, 'identity')!.properties['columns'] = 2;
    expect(rows(apply(columns, placeAt(columns, { node: 'beam' }, { target: 'mastRow', edge: 'below' }, facts)!.edits))).toEqual([
      'name',
      ' draught',
      'notes',
      'mast',
      'beam',
    ]);
  });
});

it('goes round the legal places by keyboard, each of which really is one', () => {
  for (const subject of [{ field: 'port' }, { node: 'draught' }, { part: 'section' }, { node: 'rig' }, { part: 'page' }] as Subject[]) {
    const legal = places(tree(), subject, facts);
    expect(legal.length).toBeGreaterThan(1);
    for (const place of legal) expect(() => apply(tree(), place.edits)).not.toThrow();
  }
  expect(places(tree(), { field: 'port' }, facts).length).toBeGreaterThan(10);
});

it('takes a field off with the row it leaves empty', () => {
  expect(rows(apply(tree(), removal(tree(), 'name')))).toEqual(['beam draught', 'notes', 'mast']);
  expect(rows(apply(tree(), removal(tree(), 'beam')))).toEqual(['name', 'draught', 'notes', 'mast']);
  expect(removal(tree(), 'body')).toEqual([]);
});

it('moves by single steps', () => {
  expect(rows(apply(tree(), step(tree(), 'draught', 'left', facts)))).toEqual(['name', 'draught beam', 'notes', 'mast']);
  expect(rows(apply(tree(), step(tree(), 'name', 'down', facts)))).toEqual(['beam draught', 'name', 'notes', 'mast']);
  expect(rows(apply(tree(), step(tree(), 'notes', 'down', facts)))).toEqual(['name', 'beam draught', 'notes', 'mast']);
  expect(find(apply(tree(), step(tree(), 'notes', 'down', facts)), 'rig')!.children.length).toBe(2);
  expect(step(tree(), 'name', 'up', facts)).toEqual([]);
});

it('flows a section into columns, keeping the reading order, wide ones on their own', () => {
  const after = apply(
    tree(),
    flow(tree(), 'identity', 2, (item) => item.id === 'notes'),
  );
  expect(rows(after)).toEqual(['name beam', 'draught ', 'notes', 'mast']);
  expect(
    rows(
      apply(
        after,
        flow(after, 'identity', 1, () => false),
      ),
    ),
  ).toEqual(['name', 'beam', 'draught', 'notes', 'mast']);
});

describe('the columns of a list', () => {
  const column = (id: string): TreeNode => ({ id, kind: 'column', properties: { column: id }, children: [] });
  const list = (...ids: string[]): TreeNode => ({
    id: 'layout',
    kind: 'layout',
    properties: { kind: 'list' },
    children: [...ids.map(column), { id: 'narrow', kind: 'variant', properties: {}, children: [] }],
  });
  const order = (root: TreeNode) => root.children.filter((child) => child.kind === 'column').map((child) => child.id);

  it('take a field before, between and behind them, and in an empty list', () => {
    expect(places(list('name', 'beam'), { field: 'mast' }, facts).map((place) => order(apply(list('name', 'beam'), place.edits)))).toEqual([
      ['mast', 'name', 'beam'],
      ['name', 'mast', 'beam'],
      ['name', 'beam', 'mast'],
    ]);
    expect(order(apply(list(), places(list(), { field: 'mast' }, facts)[0]!.edits))).toEqual(['mast']);
  });

  it('are moved among each other, never to where they are', () => {
    expect(placeAt(list('name', 'beam'), { node: 'name' }, { target: 'beam', edge: 'left' }, facts)).toBeUndefined();
    expect(
      order(
        apply(
          list('name', 'beam', 'mast'),
          placeAt(list('name', 'beam', 'mast'), { node: 'mast' }, { target: 'name', edge: 'left' }, facts)!.edits,
        ),
      ),
    ).toEqual(['mast', 'name', 'beam']);
    expect(order(apply(list('name', 'beam'), step(list('name', 'beam'), 'name', 'right', facts)))).toEqual(['beam', 'name']);
    expect(step(list('name', 'beam'), 'beam', 'right', facts)).toEqual([]);
    expect(placeAt(list('name'), { part: 'section' }, { target: 'name', edge: 'left' }, facts)).toBeUndefined();
  });
});
