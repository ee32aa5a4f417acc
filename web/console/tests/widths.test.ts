import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import type { TreeNode } from '#layout';
import { queueStore } from '../src/features/designer/offlineQueue.ts';
import { besides } from '../src/features/designer/measures.ts';
import { briefly } from '../src/features/designer/names.ts';
import { within, widthsOf } from '../src/features/designer/WidthScale.tsx';
import { keyOf } from '../src/shell/keys.ts';

const scale = [
  { name: 'narrow', from: 0, below: 40 },
  { name: 'medium', from: 40, below: 64 },
  { name: 'wide', from: 64, below: null },
];
const layout = (...own: [string, number?][]): TreeNode => ({
  id: 'layout',
  kind: 'layout',
  properties: {},
  children: own.map(([variant, below]) => ({
    id: variant,
    kind: 'variant',
    properties: { variant, ...(below === undefined ? {} : { below }) },
    children: [],
  })),
});

describe('the scale of widths', () => {
  it('is the application’s own where a layout adds nothing', () => {
    expect(widthsOf(layout(['narrow']), scale)).toEqual(scale);
    expect(widthsOf(undefined, scale)).toEqual(scale);
  });

  it('takes a cut of the layout’s own, and no two ranges claim the same width', () => {
    const widths = widthsOf(layout(['watch', 20], ['tablet', 52]), scale);
    expect(widths.map(({ name, from, below }) => [name, from, below])).toEqual([
      ['watch', 0, 20],
      ['narrow', 20, 40],
      ['tablet', 40, 52],
      ['medium', 52, 64],
      ['wide', 64, null],
    ]);
  });

  it('keeps a sheet within what can be looked at', () => {
    expect([within(10), within(480.4), within(9_000), within(Number.NaN)]).toEqual([280, 480, 1600, 280]);
  });
});

it('draws a form and the one beside it as large as both are seen whole', () => {
  expect(besides(650, undefined, 776)).toEqual({ beside: undefined, zoom: 1 });
  const zoomed = [2000, 1100, 776, 400].map((room) => besides(650, 390, room).zoom);
  expect(zoomed).toEqual([1, 0.88, 0.6, 0.5]);
});

it('says of a name the words that fit', () => {
  expect(briefly('Vessel', 8)).toBe('Vessel');
  expect(briefly('Vessel for visitors', 12)).toBe('Vessel for…');
  expect(briefly('Donaudampfschifffahrt', 8)).toBe('Donaudam…');
  expect(briefly('👩🏽‍🚀👩🏽‍🚀👩🏽‍🚀', 2)).toBe('👩🏽‍🚀👩🏽‍🚀…');
});

it('makes a key of what somebody calls a thing', () => {
  expect(['Vessel for visitors', 'Été à la mer', '2 berths', 'Berth', '…'].map((name) => keyOf(name, ['berth', 'berth2']))).toEqual([
    'vesselForVisitors',
    'eteALaMer',
    'Berths',
    'berth3',
    'unnamed',
  ]);
});

describe('changes that wait', () => {
  beforeEach(() => {
    localStorage.clear();
    sessionStorage.clear();
  });

  it('are kept by person and layout until they are taken', () => {
    const [ada, greta] = [queueStore('ada', 'vessel'), queueStore('greta', 'vessel')];
    const waiting = ['first', 'second'].map((name) => ({ name, edits: [{ op: 'remove' as const, node: 'zone' }], label: 'Take Zone off' }));
    ada.keepWaiting(waiting);
    expect([ada.waiting(), greta.waiting(), queueStore('ada', 'berth').waiting()]).toEqual([waiting, [], []]);
    ada.keepWaiting([]);
    expect([ada.waiting(), localStorage.length]).toEqual([[], 0]);
  });

  it('are nothing where what is kept cannot be read, and steps have an end', () => {
    for (const [i, text] of ['{ half', 'null', '7', '"change"', '[]', '{"name":"x"}', '{"name":"x","at":1,"edits":"none"}'].entries())
      localStorage.setItem(`designing:ada:vessel:${i}`, text);
    expect(queueStore('ada', 'vessel').waiting()).toEqual([]);
    const steps = queueStore('ada', 'vessel');
    steps.keepSteps({ past: Array.from({ length: 300 }, (_, i) => ({ label: `Step ${i}`, edits: [] })), future: [] });
    expect([steps.steps().past.length, steps.steps().past[0]!.label]).toEqual([200, 'Step 100']);
  });
});

it('spells a name of another script in the letters keys have, as the service does', () => {
  const vectors = JSON.parse(readFileSync(join(process.cwd(), '../tests/vectors/keys.json'), 'utf8')) as { name: string; key: string }[];
  expect(vectors.map(({ name }) => ({ name, key: keyOf(name, []) }))).toEqual(vectors);
});
