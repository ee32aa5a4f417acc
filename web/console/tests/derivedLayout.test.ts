// @vitest-environment node
import { describe, expect, it } from 'vitest';
import { applyOver, derived, find, walk, type Edit, type TreeNode } from '#layout';
import { shared } from '../src/features/designer/structuralSharing.ts';
import { carried } from '../src/features/designer/variants.ts';

const node = (kind: TreeNode['kind'], id: string, properties: TreeNode['properties'] = {}, ...children: TreeNode[]): TreeNode => ({
  id,
  kind,
  properties,
  children,
});
const field = (key: string, id = key) => node('field', id, { field: key });
const form = (...fields: TreeNode[]): TreeNode =>
  node(
    'layout',
    'layout',
    { key: 'vessel', title: 'Vessel' },
    node(
      'body',
      'body',
      {},
      node(
        'page',
        'page',
        {},
        node('section', 'section', {}, ...fields.map((each) => node('row', `${each.id}Row`, {}, node('cell', `${each.id}Cell`, {}, each)))),
      ),
    ),
  );
const set = (target: string, property: string, value: string | boolean | number, id = `${target} ${property}`): TreeNode =>
  node('change', id, { op: 'set', target, property, value });

describe('a derived layout', () => {
  const under = form(field('name'), field('mast'));
  const own = node('layout', 'layout', { key: 'yard', extends: 'vessel', title: 'For the yard' }, set('mast', 'label', 'Height'));

  it('is what it extends with its changes over it, under its own name', () => {
    const tree = derived(under, own);
    expect(tree.properties).toMatchObject({ key: 'yard', title: 'For the yard' });
    expect(find(tree, 'mast')!.properties['label']).toBe('Height');
    expect([...walk(tree)].some((each) => each.kind === 'change')).toBe(false);
  });

  it('turns what is done on it into changes of its own; its title stays its own', () => {
    const edits: Edit[] = [
      { op: 'set', node: 'layout', property: 'title', value: 'Yard' },
      { op: 'move', node: 'mastRow', parent: 'section', at: 'first' },
      { op: 'set', node: 'name', property: 'lines', value: 2 },
    ];
    const applied = applyOver(own, edits, { under });
    const [title, move, lines] = applied.tree ? applied.done : [];
    expect(title).toEqual(edits[0]);
    expect(move).toMatchObject({
      op: 'insert',
      node: { kind: 'change', properties: { op: 'move', target: 'mastRow', parent: 'section', at: 'first' } },
      parent: 'layout',
      at: 'last',
    });
    expect(lines).toMatchObject({
      op: 'insert',
      parent: 'layout',
      node: { properties: { op: 'set', target: 'name', property: 'lines', value: 2 } },
    });
  });

  it('takes a difference back when it is set as it is below, and changes it in place when it is set otherwise', () => {
    expect(applyOver(own, [{ op: 'set', node: 'mast', property: 'label', value: null }], { under })).toMatchObject({
      done: [{ op: 'remove', node: 'mast label' }],
    });
    expect(applyOver(own, [{ op: 'set', node: 'mast', property: 'label', value: 'Top' }], { under })).toMatchObject({
      done: [{ op: 'set', node: 'mast label', property: 'value', value: 'Top' }],
    });
  });

  it('takes back what it added itself when that is removed, with what was said about it', () => {
    const added = applyOver(
      own,
      [
        { op: 'insert', node: { id: 'more', kind: 'section' }, parent: 'page', at: 'last' },
        { op: 'set', node: 'more', property: 'title', value: 'More' },
        { op: 'move', node: 'nameRow', parent: 'more', at: 'last' },
      ],
      { under },
    );
    expect(find(derived(under, added.tree!), 'more')).toMatchObject({ properties: { title: 'More' }, children: [{ id: 'nameRow' }] });
    expect(applyOver(added.tree!, [{ op: 'remove', node: 'more' }], { under }).tree).toEqual(own);
  });
});

describe('what a width has differently, for another layout', () => {
  it('is matched by field, and what is not there is named', () => {
    const from = form(field('name'), field('mast', 'mastHeight'), field('photo'));
    const to = form(field('name', 'boatName'), field('mast'));
    const variant = node(
      'variant',
      'narrow',
      { variant: 'narrow' },
      set('name', 'hidden', true),
      set('mastHeight', 'lines', 3),
      set('photo', 'hidden', true),
      set('section', 'frame', 'rule'),
    );
    const { changes, strays } = carried(variant, from, to);
    expect(changes.map((each) => each.properties!['target'])).toEqual(['boatName', 'mast', 'section']);
    expect(strays).toEqual(['photo']);
  });
});

describe('sharing', () => {
  it('keeps every part that is as it was, told by id wherever it stands', () => {
    const before = {
      fields: { a: { type: 'text' } },
      pages: [
        {
          id: 'p',
          rows: [
            { id: 'r1', n: 1 },
            { id: 'r2', n: [1, 2] },
          ],
        },
      ],
    };
    const now = structuredClone(before);
    expect(shared(before, now)).toBe(before);
    now.pages[0]!.rows = [{ id: 'new', n: 0 }, structuredClone(before.pages[0]!.rows[1]!), { id: 'r1', n: 5 }];
    const next = shared(before, now);
    expect(next).toEqual(now);
    expect(next.fields).toBe(before.fields);
    expect(next.pages[0]!.rows[1]).toBe(before.pages[0]!.rows[1]);
    expect(next.pages[0]!.rows[2]).not.toBe(before.pages[0]!.rows[0]);
  });
});
