// @vitest-environment node
// @vitest-environment node
import { describe, expect, it } from 'vitest';
import { placeAt, places, removal, step, type TreeNode } from '#layout';
import type { EntityInfo } from '../src/api/client.ts';
import { partsFor } from '../src/features/designer/parts.ts';

const node = (id: string, kind: TreeNode['kind'], children: TreeNode[] = [], properties: TreeNode['properties'] = {}): TreeNode => ({
  id,
  kind,
  properties,
  children,
});
const tree = node(
  'layout',
  'layout',
  [
    node('top', 'top', [node('open', 'action'), node('more', 'link')]),
    node('body', 'body', [
      node('page', 'page', [node('section', 'section', [node('row', 'row', [node('cell', 'cell', [node('map', 'link')])])])]),
    ]),
  ],
  { kind: 'full' },
);
const entity = { related: [{ entity: 'inspection', through: 'vessel', label: 'Inspections' }] } as unknown as EntityInfo;

describe('parts', () => {
  it('are offered once where a form has them once, and connected records by what points at them', () => {
    const names = (of: TreeNode) => partsFor(of, entity).flatMap((group) => group.parts.map((part) => part.name));
    expect(names(tree)).toContain('Inspections');
    expect(names(tree)).toContain('Bottom band');
    expect(names(tree)).not.toContain('Top band');
    expect(names({ ...tree, properties: { kind: 'short' } })).not.toContain('Bottom band');
    expect(partsFor({ ...tree, properties: { kind: 'list' } }, entity)).toEqual([]);
  });

  it('stand in a band in an order, and only what a band can hold', () => {
    expect(placeAt(tree, { part: 'action', title: 'Print it' }, { target: 'top', edge: 'inside' }, new Map())?.edits).toEqual([
      {
        op: 'insert',
        node: { kind: 'action', properties: { action: 'open', address: '/', label: 'Print it' } },
        parent: 'top',
        at: 'last',
      },
    ]);
    expect(placeAt(tree, { node: 'map' }, { target: 'more', edge: 'left' }, new Map())?.edits).toEqual([
      { op: 'move', node: 'map', parent: 'top', at: { before: 'more' } },
      { op: 'remove', node: 'row' },
    ]);
    expect(placeAt(tree, { part: 'heading' }, { target: 'top', edge: 'inside' }, new Map())).toBeUndefined();
    expect(step(tree, 'open', 'right', new Map())).toEqual([{ op: 'move', node: 'open', parent: 'top', at: { after: 'more' } }]);
    expect(step(tree, 'open', 'down', new Map())).toEqual([]);
    // The last one leaves the band standing.
    expect(removal(node('layout', 'layout', [node('top', 'top', [node('open', 'action')])]), 'open')).toEqual([
      { op: 'remove', node: 'open' },
    ]);
  });

  it('around the form have one place each, and none once they are there', () => {
    expect(places(tree, { part: 'bottom' }, new Map()).map((place) => place.edits)).toEqual([
      [{ op: 'insert', node: { kind: 'bottom', properties: { text: '' } }, parent: 'layout', at: 'last' }],
    ]);
    expect(places(tree, { part: 'top' }, new Map())).toEqual([]);
    expect(places(tree, { part: 'link' }, new Map()).map((place) => place.target)).toContain('top');
  });
});
