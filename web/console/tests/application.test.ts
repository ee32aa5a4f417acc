import { describe, expect, it } from 'vitest';
import { contrast } from '#form';
import {
  added,
  at,
  indented,
  moved,
  outdented,
  removed,
  seenBy,
  walkEntries,
  type MenuChange,
  type Entry,
} from '../src/features/application/menuTree.ts';

const menu = (): Entry[] => [
  {
    key: 'water',
    title: 'On the water',
    entries: [
      { key: 'vessels', title: 'Vessels', entity: 'vessel' },
      { key: 'berths', title: 'Berths', entity: 'berth', roles: ['harbour-office'] },
    ],
  },
  { key: 'papers', title: 'Papers', roles: ['bookkeeper'], entries: [{ key: 'agreements', title: 'Agreements', entity: 'agreement' }] },
];

const keys = (entries: readonly Entry[]): unknown[] =>
  entries.map((entry) => (entry.entries ? [entry.key, ...keys(entry.entries)] : entry.key));

/** The moved entry is where it is said to be, and none is lost or doubled. */
function check(before: Entry[], key: string, done: MenuChange | undefined): unknown[] {
  expect(at(done!.next, done!.path)!.key).toBe(key);
  expect([...walkEntries(done!.next)].map((entry) => entry.key).sort()).toEqual([...walkEntries(before)].map((entry) => entry.key).sort());
  return keys(done!.next);
}

describe('the menu as a tree', () => {
  it('moves entries up, down, in and out', () => {
    const entries = menu();
    expect(check(entries, 'berths', moved(entries, [0, 1], -1))).toEqual([
      ['water', 'berths', 'vessels'],
      ['papers', 'agreements'],
    ]);
    expect(check(entries, 'berths', indented(entries, [0, 1]))).toEqual([
      ['water', ['vessels', 'berths']],
      ['papers', 'agreements'],
    ]);
    expect(check(entries, 'berths', outdented(entries, [0, 1]))).toEqual([['water', 'vessels'], 'berths', ['papers', 'agreements']]);
    expect(check(entries, 'papers', indented(entries, [1]))).toEqual([['water', 'vessels', 'berths', ['papers', 'agreements']]]);
  });

  it('and nowhere beyond its ends', () => {
    const entries = menu();
    expect([moved(entries, [0], -1), moved(entries, [1], 1), indented(entries, [0, 0]), outdented(entries, [1])]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });

  it('takes in new entries beside or inside, and lets a heading go without entries', () => {
    const entry: Entry = { key: 'new', title: 'New' };
    expect(keys(added(menu(), [0, 0], false, entry).next)[0]).toEqual(['water', 'vessels', 'new', 'berths']);
    expect(keys(added(menu(), [0, 0], true, entry).next)[0]).toEqual(['water', ['vessels', 'new'], 'berths']);
    expect(added(menu(), undefined, false, entry).path).toEqual([2]);
    expect(removed(menu(), [1, 0])[1]).toEqual({ key: 'papers', title: 'Papers', roles: ['bookkeeper'] });
  });

  it('is seen by roles; headings left without entries go', () => {
    expect(keys(seenBy(menu(), ['quay-hand']))).toEqual([['water', 'vessels']]);
    expect(keys(seenBy(menu(), ['bookkeeper', 'harbour-office']))).toEqual([
      ['water', 'vessels', 'berths'],
      ['papers', 'agreements'],
    ]);
  });
});

it('contrast is that of WCAG', () => {
  expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5);
  expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.478, 2);
  expect(contrast('#ffffff', '#ffffff')).toBe(1);
});
