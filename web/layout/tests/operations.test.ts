// @vitest-environment node
// @vitest-environment node
import { describe, expect, it } from 'vitest';
import { apply, balance, find, split, wrap, type TreeNode } from '../src/index.ts';

const node = (kind: TreeNode['kind'], id: string, properties: TreeNode['properties'] = {}, ...children: TreeNode[]): TreeNode => ({
  id,
  kind,
  properties,
  children,
});
const cell = (id: string, span?: number) => node('cell', `${id}Cell`, span === undefined ? {} : { span }, node('field', id, { field: id }));
const row = (id: string, ...cells: TreeNode[]) => node('row', id, {}, ...cells);
const tree = node(
  'layout',
  'layout',
  {},
  node('top', 'top', {}, node('link', 'chart', { link: '/chart' })),
  node(
    'body',
    'body',
    {},
    node(
      'page',
      'page',
      {},
      node(
        'section',
        'hull',
        {},
        row('first', cell('name', 8), cell('code', 4)),
        row('second', cell('length', 6), cell('beam', 6)),
        row('third', cell('draught'), cell('mast', 3)),
        row('fourth', cell('notes', 1)),
      ),
    ),
  ),
);

describe('operations on several cells', () => {
  it('split a cell into two that share its units, and leave its neighbours alone', () => {
    const after = apply(tree, split(tree, 'nameCell')).tree!;
    expect(find(after, 'first')!.children.map((each) => [each.id, each.properties['span']])).toEqual([
      ['nameCell', 4],
      ['cell', 4],
      ['codeCell', 4],
    ]);
    expect(
      find(apply(tree, split(tree, 'draughtCell', 'left')).tree!, 'third')!.children.map((each) => [each.id, each.properties['span']]),
    ).toEqual([
      ['cell', undefined],
      ['draughtCell', undefined],
      ['mastCell', 3],
    ]);
    expect(split(tree, 'notesCell')).toEqual([]);
    expect(split(tree, 'name')).toEqual([]);
  });

  it('share each uneven row evenly, and no other', () => {
    expect(balance(tree, 'hull').map((edit) => (edit.op === 'set' ? [edit.node, edit.value] : edit))).toEqual([
      ['nameCell', null],
      ['codeCell', null],
      ['mastCell', null],
    ]);
    expect(balance(tree, 'page')).toEqual([]);
  });

  it('put what stands in rows into a section; what stands in a band stays there', () => {
    const wrapped = wrap(tree, ['chart', 'length'], 'Measures')!;
    const after = apply(tree, wrapped.edits).tree!;
    expect(find(after, 'top')!.children.map((each) => each.id)).toEqual(['chart']);
    expect(
      find(after, wrapped.section)!.children.flatMap((each) => each.children.flatMap((one) => one.children.map((item) => item.id))),
    ).toEqual(['length']);
  });
});
