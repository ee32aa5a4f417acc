// @vitest-environment node
// @vitest-environment node
import { describe, expect, it } from 'vitest';
import type { Kind, Subject, TreeNode } from '#layout';
import type { DrawnKind, DrawnPart, FormBoxes } from '../src/features/designer/formBoxes.ts';
import { rowAt, spotAt, tabAt } from '../src/features/designer/spotAt.ts';

const node = (id: string, kind: Kind, ...children: TreeNode[]): TreeNode => ({ id, kind, properties: {}, children });
const part = (
  kind: DrawnKind,
  id: string,
  [left, top, width, height]: [number, number, number, number],
  ...within: DrawnPart[]
): DrawnPart => ({
  kind,
  id,
  box: { left, top, width, height },
  within,
});

/** Two tabs; a section of the rows [name, beam] and [notes, an empty cell], another below it with nothing in it. */
const tree = node(
  'layout',
  'layout',
  node(
    'body',
    'body',
    node(
      'page',
      'page',
      node(
        'section',
        'section',
        node('r1', 'row', node('c1', 'cell', node('name', 'field')), node('c2', 'cell', node('beam', 'field'))),
        node('r2', 'row', node('c3', 'cell', node('notes', 'field')), node('c4', 'cell')),
      ),
      node('rig', 'section'),
    ),
    node('papers', 'page'),
  ),
);
const root = part(
  'form',
  'layout',
  [0, 0, 600, 600],
  part('tab', 'page', [0, 0, 100, 40]),
  part('tab', 'papers', [100, 0, 100, 40]),
  part(
    'page',
    'page',
    [0, 60, 600, 400],
    part(
      'section',
      'section',
      [0, 60, 600, 200],
      part(
        'row',
        'r1',
        [0, 80, 600, 60],
        part('cell', 'c1', [0, 80, 200, 60], part('item', 'name', [0, 80, 200, 60])),
        part('cell', 'c2', [220, 80, 200, 60], part('item', 'beam', [220, 80, 200, 60])),
      ),
      part(
        'row',
        'r2',
        [0, 160, 600, 60],
        part('cell', 'c3', [0, 160, 200, 60], part('item', 'notes', [0, 160, 200, 60])),
        part('cell', 'c4', [220, 160, 380, 60]),
      ),
    ),
    part('section', 'rig', [0, 300, 600, 72]),
  ),
);
const gather = (each: DrawnPart): DrawnPart[] => [each, ...each.within.flatMap(gather)];
const kinds: DrawnKind[] = ['form', 'tab', 'page', 'section', 'row', 'cell', 'item', 'band', 'column'];
const boxes = (rightToLeft = false): FormBoxes => ({
  root,
  rightToLeft,
  of: Object.fromEntries(kinds.map((kind) => [kind, gather(root).filter((each) => each.kind === kind)])) as unknown as FormBoxes['of'],
});
const at = (x: number, y: number, subject: Subject = { field: 'port' }, rightToLeft = false) => {
  const spot = spotAt(boxes(rightToLeft), x, y, tree, subject);
  return spot && `${spot.edge} ${spot.target}`;
};

describe('where a pointer means', () => {
  it.each([
    ['near the left edge of an item, beside it', 20, 110, 'left c1'],
    ['near its right edge, beside it', 180, 110, 'right c1'],
    ['from 28 % of it on, no longer beside', 57, 105, 'above name'],
    ['in its upper half, above it', 100, 105, 'above name'],
    ['in its lower half, below it', 100, 115, 'below name'],
    ['in the band between two rows, a row of its own', 100, 136, 'below r1'],
    ['in the other half of that band', 100, 165, 'above r2'],
    ['in the gap between them, the nearer one', 100, 145, 'below r1'],
    ['right of the last cell, in that row', 560, 110, 'right c2'],
    ['on an empty cell, inside it', 400, 190, 'inside c4'],
    ['below the last row, a row of its own', 100, 250, 'below r2'],
    ['on an empty section, inside it', 300, 330, 'inside rig'],
    ['between two sections, the nearer one', 100, 270, 'below r2'],
    ['on a tab, on that page', 150, 20, 'inside papers'],
  ])('%s', (_, x, y, expected) => expect(at(x, y)).toBe(expected));

  it('a section goes above or below one, a tab beside one, a band round them', () => {
    expect(at(100, 100, { part: 'section' })).toBe('above section');
    expect(at(100, 220, { part: 'section' })).toBe('below section');
    expect(at(190, 20, { part: 'page' })).toBe('right papers');
    // A tab that is let go of over the form stands behind the one that is open.
    expect(at(60, 200, { part: 'page' })).toBe('right page');
    expect(at(300, 300, { part: 'top' })).toBe('inside layout');
  });

  it('sides are turned round where one reads from the right', () => {
    expect(at(20, 110, { field: 'port' }, true)).toBe('right c1');
    expect(at(180, 110, { field: 'port' }, true)).toBe('left c1');
  });

  it('a row is what its handle stands before', () => {
    expect([rowAt(boxes(), -20, 100), rowAt(boxes(), 300, 190), rowAt(boxes(), 300, 320)]).toEqual(['r1', 'r2', undefined]);
    expect([tabAt(boxes(), 150, 10), tabAt(boxes(), 300, 10)]).toEqual(['papers', undefined]);
  });
});
