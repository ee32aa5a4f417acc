import { beforeEach, describe, expect, it, vi } from 'vitest';
import { placeAt, without, type Edit, type TreeNode } from '#layout';
import type { EditResult, Piece } from '../src/api/client.ts';
import type { ChangeTerms } from '../src/features/designer/clipboard.ts';

const clipboard = vi.hoisted(() => ({ copied: [] as string[][], pasted: [] as unknown[], strays: [] as string[], fails: '' }));
vi.mock('../src/features/designer/clipboard.ts', () => ({
  copy: async (_: string, nodes: string[]) => {
    if (clipboard.fails) throw new Error(clipboard.fails);
    clipboard.copied.push(nodes);
  },
  paste: async (_: string, from: unknown, at: string | undefined) => {
    if (clipboard.fails) throw new Error(clipboard.fails);
    clipboard.pasted.push({ from, at });
    return {
      edits: [{ op: 'insert', node: { id: 'pasted', kind: 'row', children: [] }, parent: 'identity', at: 'last' }],
      unmatched: clipboard.strays,
    };
  },
  detach: async (_: string, use: string) => {
    if (clipboard.fails) throw new Error(clipboard.fails);
    return { edits: [{ op: 'remove', node: use }] };
  },
}));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  api: { POST: async () => ({ response: new Response(null, { status: 201 }), data: { key: 'cover', slots: [{ slot: 'insurer' }] } }) },
}));
const { reusing } = await import('../src/features/designer/reuse.ts');
const { rearranging } = await import('../src/features/designer/operations.ts');

const node = (kind: TreeNode['kind'], id: string, properties: TreeNode['properties'] = {}, ...children: TreeNode[]): TreeNode => ({
  id,
  kind,
  properties,
  children,
});
const row = (...keys: string[]) =>
  node('row', `${keys[0]!}Row`, {}, ...keys.map((key) => node('cell', `${key}Cell`, {}, node('field', key, { field: key }))));
const tree = node(
  'layout',
  'layout',
  { key: 'vessel' },
  node(
    'body',
    'body',
    {},
    node(
      'page',
      'overview',
      { title: 'Overview' },
      node('section', 'identity', { title: 'Identity' }, row('name'), row('beam', 'draught')),
      node('section', 'rig', { title: 'Rig' }, row('mast')),
    ),
    node('page', 'care', { title: 'Care' }),
  ),
);
const piece = { key: 'cover', title: 'Cover', slots: [{ slot: 'insurer' }] } as unknown as Piece;

const done: { edits: Edit[]; label: string }[] = [];
const said: string[] = [];
const selected: string[][] = [];
let removed = 0;
const around = {
  layout: 'vessel',
  tree,
  nameOf: (id: string) => id,
  announce: (text: string) => {
    said.push(text);
  },
  select: (ids: string[]) => {
    selected.push(ids);
  },
  remove: () => {
    removed++;
  },
  // As the service does them: every new node with all it has.
  perform: async (call: (terms: ChangeTerms) => Promise<EditResult>, label: string) => {
    const result = await call({ label, width: null });
    done.push({ edits: result.edits as unknown as Edit[], label });
    return result;
  },
  apply: async (edits: Edit[], label: string) => {
    done.push({ edits, label });
    return edits.map((edit) =>
      edit.op === 'insert' ? { ...edit, node: { id: 'new', properties: {}, children: [], ...edit.node } } : edit,
    );
  },
};
const reuse = (selection: string[], more: Partial<Parameters<typeof reusing>[0]> = {}) =>
  reusing({
    ...around,
    selection,
    bind: async () => ({ linked: true, slots: ['insurer=insuredWith'] }) as never,
    name: async () => 'Cover',
    ...more,
  });
const rearrange = (selection: string[], more: Partial<Parameters<typeof rearranging>[0]> = {}) =>
  rearranging({
    ...around,
    selection,
    fields: [],
    facts: new Map(),
    fresh: undefined,
    showPage: () => undefined,
    language: 'en',
    languages: ['en', 'nl'],
    base: undefined,
    name: async () => 'Sails',
    place: () => undefined,
    ...more,
  });

beforeEach(() => {
  done.length = said.length = selected.length = clipboard.copied.length = clipboard.pasted.length = 0;
  clipboard.strays = [];
  clipboard.fails = '';
  removed = 0;
});

describe('parts used elsewhere', () => {
  it('are copied and cut, and what cannot be copied is not taken off', async () => {
    await reuse(['name']).copy();
    await reuse(['name', 'beam']).cut();
    expect([clipboard.copied, said, removed]).toEqual([[['name'], ['name', 'beam']], ['Copied name.', 'Copied 2 parts.'], 1]);
    clipboard.fails = 'The browser gave no leave to copy.';
    await reuse(['name']).cut();
    expect([said.at(-1), removed]).toEqual(['The browser gave no leave to copy.', 1]);
  });

  it('are pasted at what is selected, chosen then, and what found no field is named', async () => {
    clipboard.strays = ['mast', 'boom'];
    await reuse(['beam']).paste('kind: clip');
    expect(clipboard.pasted).toEqual([{ from: { text: 'kind: clip' }, at: 'beam' }]);
    expect([selected, said]).toEqual([[['pasted']], ['Pasted without mast, boom: there is no such field here.']]);
    await reuse([]).paste('  ');
    expect(said.at(-1)).toContain('Nothing is copied yet');
  });

  it('are placed as a piece with its slots bound, or as a copy', async () => {
    const use = { node: { id: 'use', kind: 'piece', properties: { piece: 'cover' }, children: [] } } as never;
    const chosen = placeAt(tree, use, { target: 'rig', edge: 'inside' }, new Map());
    const place = chosen ?? {
      edits: [
        {
          op: 'insert' as const,
          node: { kind: 'piece' as const, properties: { piece: 'cover' } },
          parent: 'mastCell',
          at: 'last' as const,
        },
      ],
      target: 'rig',
      edge: 'inside' as const,
    };
    await reuse([]).place(
      {
        ...place,
        edits: [{ op: 'insert', node: { kind: 'piece', properties: { piece: 'cover' } }, parent: 'mastCell', at: 'last' }],
      } as never,
      piece,
    );
    expect(done[0]!.edits[0]).toMatchObject({ op: 'insert', node: { properties: { piece: 'cover', slots: ['insurer=insuredWith'] } } });
    await reuse([], { bind: async () => ({ linked: false, slots: [] }) as never }).place(place as never, piece);
    expect(clipboard.pasted).toMatchObject([{ from: { piece: 'cover' } }]);
    expect(done[1]!.label).toMatch(/^Place Cover .*, as a copy$/);
    await reuse([], { bind: async () => undefined }).place(place as never, piece);
    expect(done, 'who changes her mind has placed nothing').toHaveLength(2);
  });

  it('become a piece of which a use stands in their place, and a use a copy of its own', async () => {
    await reuse(['mastRow']).make();
    expect(done[0]!.label).toBe('Make the piece Cover');
    expect(done[0]!.edits.some((edit) => edit.op === 'insert' && JSON.stringify(edit.node).includes('"piece":"cover"'))).toBe(true);
    expect(done[0]!.edits).toContainEqual({ op: 'remove', node: 'mastRow' });
    await reuse(['rig']).detach();
    expect(done[1]).toEqual({ edits: [{ op: 'remove', node: 'rig' }], label: 'Make rig a copy of its own' });
    await reuse(['mastRow'], { name: async () => undefined }).make();
    expect(done).toHaveLength(2);
  });
});

describe('parts rearranged where they stand', () => {
  it('are named in one language, and not when nothing was changed', () => {
    const of = rearrange(['identity']);
    expect([of.written, of.nameable]).toEqual(['Identity', true]);
    of.rename('Identity');
    of.rename(undefined);
    of.rename('  Who it is ');
    expect(done).toEqual([{ edits: [{ op: 'set', node: 'identity', property: 'title', value: 'Who it is' }], label: 'Name of identity' }]);
    expect(rearrange(['identity', 'rig']).nameable).toBe(false);
  });

  it('are taken off, and hidden where only a width has its own form', () => {
    rearrange(['name', 'identity']).remove();
    expect(done[0]).toMatchObject({ label: 'Remove 2 parts', edits: [{ op: 'remove', node: 'identity' }] });
    rearrange(['rig'], { base: around.tree }).remove();
    expect(done[1]).toEqual({ edits: [{ op: 'set', node: 'rig', property: 'hidden', value: true }], label: 'Hide rig' });
    // What stands at this width alone is taken back.
    rearrange(['rig'], { base: without(around.tree, 'rig') }).remove();
    expect(done[2]).toMatchObject({ edits: [{ op: 'remove', node: 'rig' }], label: 'Remove rig' });
    expect(selected).toEqual([[], [], []]);
  });

  it('announce so where they cannot be made wider', () => {
    rearrange(['rig']).widen(1);
    expect([said, done]).toEqual([['It cannot be made wider or narrower there.'], []]);
    rearrange(['beam']).widen(1);
    expect(done).toMatchObject([{ label: 'Width of beam' }]);
  });

  it('are put into a section that is asked for by name, flow into columns and lose their frame', async () => {
    await rearrange(['beam', 'draught']).wrap();
    expect(done[0]!.label).toBe('Put 2 parts into Sails');
    expect(selected[0]).toHaveLength(1);
    await rearrange(['beam'], { name: async () => undefined }).wrap();
    rearrange(['identity']).columns(2);
    rearrange(['rig']).ungroup();
    expect(done.slice(1).map((each) => each.label)).toEqual(['Flow identity into 2 columns', 'Remove the frame of rig']);
  });

  it('move by one step, and into another tab', () => {
    rearrange(['rig']).move('up');
    expect(done).toMatchObject([{ label: 'Move rig up' }]);
    const placed: unknown[] = [];
    rearrange(['rig'], { place: (chosen, subject) => placed.push([chosen.target, subject]) }).toTab('care');
    expect(placed).toEqual([['care', { node: 'rig' }]]);
  });
});
