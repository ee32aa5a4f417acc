// @vitest-environment node
// @vitest-environment node
import { describe, expect, it } from 'vitest';
import {
  applyOver,
  atWidth,
  find,
  inPlace,
  mostUnits,
  outermost,
  removeAll,
  ungroup,
  unitsOf,
  variantOf,
  walk,
  widen,
  wrap,
  type Edit,
  type TreeNode,
} from '#layout';
import { matching, type Command } from '../src/features/designer/commands.ts';
import { marksOf } from '../src/features/designer/marks.ts';
import { withText } from '../src/shell/localTexts.ts';
import { beginVariant, describeOverride } from '../src/features/designer/variants.ts';

const node = (id: string, kind: TreeNode['kind'], children: TreeNode[] = [], properties: TreeNode['properties'] = {}): TreeNode => ({
  id,
  kind,
  properties,
  children,
});
const field = (id: string) => node(id, 'field', [], { field: id });
const cell = (id: string, items: TreeNode[], span?: number) => node(`${id}-cell`, 'cell', items, span === undefined ? {} : { span });
const tree = (variant?: TreeNode): TreeNode =>
  node('layout', 'layout', [
    node('body', 'body', [
      node('page', 'page', [
        node(
          'one',
          'section',
          [
            node('r1', 'row', [cell('name', [field('name')], 6), cell('code', [field('code')])]),
            node('r2', 'row', [cell('length', [field('length')]), cell('beam', [field('beam')]), cell('draught', [field('draught')])]),
          ],
          { title: 'One' },
        ),
        node('two', 'section', [node('r3', 'row', [cell('notes', [field('notes')])])], { title: 'Two' }),
      ]),
    ]),
    ...(variant ? [variant] : []),
  ]);

/** The edits done one after another, by the code that shows a width's form. */
const done = (from: TreeNode, edits: Edit[]) =>
  atWidth(
    from,
    node(
      'v',
      'variant',
      edits.map((edit, i): TreeNode => {
        const at: Record<string, string> =
          'at' in edit
            ? typeof edit.at === 'string'
              ? { at: edit.at }
              : 'before' in edit.at
                ? { at: 'before', sibling: edit.at.before }
                : { at: 'after', sibling: edit.at.after }
            : {};
        return edit.op === 'set'
          ? node(`c${i}`, 'change', [], {
              op: 'set',
              target: edit.node,
              property: edit.property,
              ...(edit.value === null ? {} : { value: edit.value }),
            })
          : edit.op === 'remove'
            ? node(`c${i}`, 'change', [], { op: 'remove', target: edit.node })
            : edit.op === 'move'
              ? node(`c${i}`, 'change', [], { op: 'move', target: edit.node, parent: edit.parent, ...at })
              : node(`c${i}`, 'change', [edit.node as TreeNode], { op: 'insert', parent: edit.parent, ...at });
      }),
    ),
  );
const fieldsOf = (from: TreeNode) => [...walk(from)].filter((each) => each.kind === 'field').map((each) => each.id);
const rowsOf = (from: TreeNode, section: string) => find(from, section)?.children.map((row) => fieldsOf(row).join(' '));

describe('several at once', () => {
  it('leaves out what stands inside another selected node', () => {
    expect(outermost(tree(), ['beam', 'one', 'notes'])).toEqual(['one', 'notes']);
  });

  it('takes all of a row off and the row with it, once', () => {
    const edits = removeAll(tree(), ['name', 'code']);
    expect(fieldsOf(done(tree(), edits))).toEqual(['length', 'beam', 'draught', 'notes']);
    expect(find(done(tree(), edits), 'r1')).toBeUndefined();
    expect(edits.filter((edit) => edit.op === 'remove' && edit.node === 'r1')).toHaveLength(1);
  });

  it('wraps rows whole and single items in rows of their own, in reading order', () => {
    const wrapped = wrap(tree(), ['name', 'code', 'beam'], 'Papers of hers')!;
    const after = done(tree(), wrapped.edits);
    expect(wrapped.section).toBe('papersOfHers');
    expect(rowsOf(after, 'papersOfHers')).toEqual(['name code', 'beam']);
    expect(rowsOf(after, 'one')).toEqual(['length draught']);
    expect(fieldsOf(after).sort()).toEqual(fieldsOf(tree()).sort());
  });

  it('leaves no empty section behind when everything is wrapped, and none when its frame is taken away', () => {
    expect(find(done(tree(), wrap(tree(), ['notes'], 'Last')!.edits), 'two')).toBeUndefined();
    const after = done(tree(), ungroup(tree(), 'two'));
    expect(find(after, 'two')).toBeUndefined();
    expect(rowsOf(after, 'one')).toEqual(['name code', 'length beam draught', 'notes']);
    // The first one's rows go to the beginning of the one behind.
    expect(rowsOf(done(tree(), ungroup(tree(), 'one')), 'two')).toEqual(['name code', 'length beam draught', 'notes']);
  });
});

describe('widths of cells', () => {
  it('lets written units stand and shares the rest', () => {
    expect(unitsOf(find(tree(), 'r1')!)).toEqual([6, 6]);
    expect(unitsOf(find(tree(), 'r2')!)).toEqual([4, 4, 4]);
    expect(mostUnits(find(tree(), 'r1')!, find(tree(), 'code-cell')!)).toBe(6);
    expect(mostUnits(find(tree(), 'r2')!, find(tree(), 'beam-cell')!)).toBe(10);
  });

  it('widens as far as the row allows and no further', () => {
    expect(widen(tree(), ['beam'], 1)).toEqual([{ op: 'set', node: 'beam-cell', property: 'span', value: 5 }]);
    expect(widen(tree(), ['name', 'beam'], -1).map((edit) => edit.op === 'set' && edit.value)).toEqual([5, 3]);
    const full = tree();
    find(full, 'name-cell')!.properties['span'] = 11;
    expect(widen(full, ['name'], 1)).toEqual([]);
  });
});

describe('the form of a width', () => {
  const variant = () => node('narrow', 'variant', [], { variant: 'narrow' });
  const taken = (from: TreeNode, edits: Edit[]): TreeNode => applyOver(from, edits, { width: 'narrow' }).tree!;

  it('shows the base with its changes, and leaves the base alone', () => {
    const base = tree(variant());
    const edits: Edit[] = [
      { op: 'set', node: 'name-cell', property: 'span', value: 12 },
      { op: 'set', node: 'beam', property: 'hidden', value: true },
      { op: 'move', node: 'r2', parent: 'two', at: 'first' },
    ];
    const changed = taken(base, edits);
    const shown = atWidth(changed, variantOf(changed, 'narrow'));
    expect(find(shown, 'name-cell')!.properties['span']).toBe(12);
    expect(find(shown, 'beam')!.properties['hidden']).toBe(true);
    expect(rowsOf(shown, 'two')).toEqual(['length beam draught', 'notes']);
    expect(changed.children[0]).toEqual(base.children[0]);
  });

  it('keeps one change for a property, and none that says what the base says', () => {
    const base = tree(variant());
    let now = taken(base, [{ op: 'set', node: 'name-cell', property: 'span', value: 12 }]);
    now = taken(now, [{ op: 'set', node: 'name-cell', property: 'span', value: 9 }]);
    expect(variantOf(now, 'narrow')!.children.map((each) => each.properties)).toEqual([
      { op: 'set', target: 'name', property: 'span', value: 9 },
    ]);
    now = taken(now, [{ op: 'set', node: 'name-cell', property: 'span', value: 6 }]);
    expect(variantOf(now, 'narrow')!.children).toEqual([]);
    now = taken(now, [{ op: 'set', node: 'name-cell', property: 'span', value: 12 }]);
    expect(taken(now, [{ op: 'set', node: 'name-cell', property: 'span', value: null }])).toEqual(base);
  });

  it('begins with the required fields only, says what differs, and passes over what is stranded', () => {
    const edit = beginVariant(tree(), 'narrow', (key) => key !== 'name');
    const begun = edit.op === 'insert' ? (edit.node as unknown as TreeNode) : undefined;
    expect(begun!.children).toHaveLength(5);
    const stranded = node('narrow', 'variant', [node('c', 'change', [], { op: 'set', target: 'gone', property: 'hidden', value: true })], {
      variant: 'narrow',
    });
    expect(atWidth(tree(stranded), stranded)).toEqual(tree(stranded));
    expect(describeOverride(stranded.children[0]!, tree(), new Map(), 'en')).toBe('gone (not there any more) is hidden');
    expect(
      describeOverride(
        node('d', 'change', [], { op: 'set', target: 'beam', property: 'hidden', value: true }),
        tree(),
        new Map([['beam', 'Beam']]),
        'en',
      ),
    ).toBe('Beam is hidden');
  });
});

describe('commands', () => {
  const named = (name: string): Command => ({ name, about: 'form', run: () => undefined });

  it('are found by all the words typed, those that begin with them first', () => {
    const all = ['Undo: Move Zone', 'Move up', 'Preview in Dutch', 'Move…'].map(named);
    expect(matching(all, 'move').map((each) => each.name)).toEqual(['Move up', 'Move…', 'Undo: Move Zone']);
    expect(matching(all, 'dutch preview').map((each) => each.name)).toEqual(['Preview in Dutch']);
    expect(matching(all, 'nothing like it')).toEqual([]);
    const [tab, there, back] = ['Add tab', 'Move Findings after Surveyed on', 'Move Surveyed on after Findings'].map(named);
    expect(matching([back!, there!], 'move findings after surveyed on')[0]).toBe(there);
    expect(matching([tab!, named('Add panel of tabs')], 'add a tab')[0]).toBe(tab);
  });
});

describe('texts in several languages', () => {
  it('are changed in one and kept in the others', () => {
    expect(withText({ en: 'Name', nl: 'Naam' }, 'Vessel', 'en', ['en', 'nl'])).toEqual({ en: 'Vessel', nl: 'Naam' });
    expect(withText({ en: 'Name' }, '', 'en', ['en', 'nl'])).toBeNull();
    expect(withText('Name', 'Naam', 'nl', ['en', 'nl'])).toEqual({ '': 'Name', nl: 'Naam' });
    expect(withText(undefined, 'Naam', 'nl', ['en', 'nl'])).toEqual({ nl: 'Naam' });
  });
});

describe('marks of a comparison', () => {
  const tree: TreeNode = {
    id: 'layout',
    kind: 'layout',
    properties: {},
    children: [
      {
        id: 'section',
        kind: 'section',
        properties: {},
        children: [
          {
            id: 'row',
            kind: 'row',
            properties: {},
            children: [
              {
                id: 'oneCell',
                kind: 'cell',
                properties: {},
                children: [{ id: 'one', kind: 'field', properties: { field: 'one' }, children: [] }],
              },
              {
                id: 'twoCell',
                kind: 'cell',
                properties: {},
                children: [{ id: 'two', kind: 'field', properties: { field: 'two' }, children: [] }],
              },
            ],
          },
        ],
      },
    ],
  };

  it('stand on what is drawn: of rows and cells on what is in them', () => {
    const marks = marksOf(
      tree,
      [
        { op: 'set', node: 'oneCell', property: 'span', value: 4 },
        { op: 'move', node: 'two', parent: 'twoCell', at: 'last' },
        { op: 'remove', node: 'gone' },
      ],
      ['wider', 'elsewhere', 'off'],
    );
    expect([...marks]).toEqual([
      ['one', { what: 'changed', words: 'wider' }],
      ['two', { what: 'moved', words: 'elsewhere' }],
    ]);
  });

  it('what is new stays new, whatever else happened to it', () => {
    const marks = marksOf(
      tree,
      [
        { op: 'insert', node: { id: 'row', kind: 'row', children: [{ id: 'one', kind: 'field' }] }, parent: 'section', at: 'last' },
        { op: 'set', node: 'one', property: 'label', value: 'x' },
        { op: 'move', node: 'two', parent: 'row', at: 'last' },
      ],
      ['a', 'b', 'c'],
    );
    expect([marks.get('one')?.what, marks.get('two')?.what]).toEqual(['added', 'moved']);
    expect(marks.get('one')?.words).toBe('a; b');
  });
});

describe('putting a piece in the place of a selection', () => {
  const leaf = (id: string): TreeNode => ({ id, kind: 'field', properties: { field: id }, children: [] });
  const row = (id: string, ...items: string[]): TreeNode => ({
    id,
    kind: 'row',
    properties: {},
    children: items.map((each) => ({ id: `${each}Cell`, kind: 'cell', properties: {}, children: [leaf(each)] })),
  });
  const tree: TreeNode = {
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
            id: 'page',
            kind: 'page',
            properties: {},
            children: [
              { id: 'hull', kind: 'section', properties: {}, children: [row('first', 'a', 'b'), row('second', 'c')] },
              { id: 'rig', kind: 'section', properties: {}, children: [row('third', 'd')] },
            ],
          },
        ],
      },
    ],
  };
  const piece = { kind: 'piece' as const, properties: { piece: 'cover' } };

  it('stands in a row before the first row, or in a section before the first section', () => {
    expect(inPlace(tree, ['b', 'c'], piece)[0]).toMatchObject({
      op: 'insert',
      parent: 'hull',
      at: { before: 'first' },
      node: { kind: 'row' },
    });
    expect(inPlace(tree, ['rig'], piece)[0]).toMatchObject({
      op: 'insert',
      parent: 'page',
      at: { before: 'rig' },
      node: { kind: 'section' },
    });
  });

  it('takes off what was selected and what that leaves empty', () => {
    expect(inPlace(tree, ['c'], piece).slice(1)).toEqual([
      { op: 'remove', node: 'c' },
      { op: 'remove', node: 'second' },
    ]);
    expect(
      inPlace(tree, ['page'], piece)
        .slice(1)
        .map((edit) => edit.op === 'remove' && edit.node),
    ).toEqual(['hull', 'rig']);
  });
});
