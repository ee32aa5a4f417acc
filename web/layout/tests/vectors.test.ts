// @vitest-environment node
// @vitest-environment node
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import {
  admit,
  apply,
  applyOver,
  atWidth,
  derived,
  nextPlace,
  placeAt,
  roomOf,
  seenOver,
  variantOf,
  walk,
  type ApplyOutcome,
  type Edge,
  type Edit,
  type FieldFacts,
  type NewNode,
  type Room,
  type Subject,
  type TreeNode,
} from '../src/index.ts';
import { withIds } from '../src/ids.ts';
import { share } from '../src/spans.ts';
import { someEdits } from './someEdits.ts';

/** The files that hold this package and the core to the same; each side makes some of them from a generator of its own (`make vectors`). */
const folder = join(import.meta.dirname, '../../../tests/vectors');
const writes = process.env['BRIGHTTIER_WRITE_VECTORS'] === '1';

interface Vectors<T> {
  trees: Record<string, TreeNode>;
  cases: (T & { tree: string; gives: unknown })[];
}

const read = <T>(name: string) => JSON.parse(readFileSync(join(folder, name), 'utf8')) as Vectors<T>;

/** JSON whose names are in order, without what is empty. */
function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map((each) => `${canonical(each)},`).join('')}]`;
  if (typeof value === 'string') return `"${value}"`;
  if (typeof value !== 'object' || value === null) return String(value);
  const isEmpty = (each: unknown) => typeof each === 'object' && each !== null && Object.keys(each).length === 0;
  const names = Object.keys(value)
    .filter((name) => (value as Record<string, unknown>)[name] !== undefined && !isEmpty((value as Record<string, unknown>)[name]))
    .sort();
  return `{${names.map((name) => `${name}:${canonical((value as Record<string, unknown>)[name])},`).join('')}}`;
}

const digest = (value: unknown) => createHash('sha256').update(canonical(value)).digest('hex').slice(0, 12);

const outcome = (applied: ApplyOutcome) =>
  applied.tree
    ? { after: digest(applied.tree), done: digest(applied.done), inverse: digest(applied.inverse) }
    : { refused: applied.refused, index: applied.index };

interface EditCase {
  edits: Edit[];
}
interface OverCase {
  edits: Edit[];
  width?: string | null;
  under?: string;
}

function hold<T>(name: string, come: (each: T & { tree: string }, trees: Record<string, TreeNode>) => unknown) {
  const { trees, cases } = read<T>(name);
  expect(cases.length).toBeGreaterThan(400);
  const wrong = cases.filter((each) => canonical(come(each, trees)) !== canonical(each.gives));
  expect(
    wrong.slice(0, 5).map((each) => ({ ...each, came: come(each, trees) })),
    `${wrong.length} of ${cases.length}`,
  ).toEqual([]);
}

function make(name: string, trees: Record<string, TreeNode>, cases: object[]) {
  const lines = Object.entries(trees).map(([key, tree]) => `"${key}":${JSON.stringify(tree)}`);
  writeFileSync(
    join(folder, name),
    `{"trees":{\n${lines.join(',\n')}\n},"cases":[\n${cases.map((each) => JSON.stringify(each)).join(',\n')}\n]}\n`,
  );
}

const applied = ({ edits, tree }: EditCase & { tree: string }, trees: Record<string, TreeNode>) => outcome(apply(trees[tree]!, edits));
const over = ({ edits, tree, width, under }: OverCase & { tree: string }, trees: Record<string, TreeNode>) => {
  const place = { width: width ?? undefined, under: under === undefined ? undefined : trees[under] };
  const came = applyOver(trees[tree]!, edits, place);
  return { ...outcome(came), ...(came.tree ? { seen: digest(seenOver(came.tree, place)) } : {}) };
};

/** This side's half: what one makes by hand with the operations, on the trees of the other half. */
if (writes) {
  const edits = read<EditCase>('edits.json');
  make(
    'edits-web.json',
    edits.trees,
    Object.entries(edits.trees).flatMap(([tree, node], seed) =>
      someEdits(node, seed, 20).map((each) => ({ edits: each, tree, gives: applied({ edits: each, tree }, edits.trees) })),
    ),
  );
  const overrides = read<OverCase>('overrides.json');
  make(
    'overrides-web.json',
    overrides.trees,
    Object.entries(overrides.trees)
      .filter(([tree]) => tree.startsWith('t'))
      .flatMap(([tree, node], seed) => {
        const under = overrides.trees[`u${tree.slice(1)}`];
        const width = !under || seed % 2 === 0 ? 'narrow' : undefined;
        const base = under ? derived(under, node) : node;
        const each = { tree, ...(width ? { width } : {}), ...(under ? { under: `u${tree.slice(1)}` } : {}) };
        return someEdits(width ? atWidth(base, variantOf(base, width)) : base, seed, 5).map((some) => ({
          ...each,
          edits: some,
          gives: over({ ...each, edits: some }, overrides.trees),
        }));
      }),
  );
}

describe('the browser’s package does as the core does', () => {
  it.each(['edits.json', 'edits-web.json'])('with edits (%s)', (name) => hold<EditCase>(name, applied));

  it.each(['overrides.json', 'overrides-web.json'])('with plain edits at a width and over what is extended (%s)', (name) =>
    hold<OverCase>(name, over),
  );

  it('with ids', () =>
    hold<{ insert: { node: NewNode } }>('ids.json', ({ insert, tree }, trees) => ({
      ids: [
        ...walk(
          withIds(
            insert.node,
            [...walk(trees[tree]!)].map((node) => node.id),
          ),
        ),
      ]
        .map((node) => node.id)
        .join(' '),
    })));

  it('with units', () =>
    hold<{ written: (number | null)[] }>('spans.json', ({ written }) => ({ units: share(written.map((span) => span ?? undefined)) })));

  it('with rooms', () =>
    hold<{ type: string; editor: string | null; maxLength: number | null; label: string | null; longestWord: number }>(
      'rooms.json',
      ({ type, editor, maxLength, label, longestWord }) =>
        roomOf(
          { kind: 'field', properties: { field: 'field', ...(editor === null ? {} : { editor }), ...(label === null ? {} : { label }) } },
          new Map([['field', { type, maxLength, longestWord }]]),
        ),
    ));

  it('with rows that make room', () =>
    hold<{ cells: { span: number | null; room: Room }[]; at: number; newcomer: Room }>('sharing.json', ({ cells, at, newcomer }) => {
      const spans = admit(
        cells.map(({ span, room }) => ({ span: span ?? undefined, room })),
        at,
        newcomer,
      );
      return { spans: spans?.map((span) => span ?? null) ?? 'full' };
    }));

  it('with places', () => {
    const facts = new Map(Object.entries((read('places.json') as unknown as { fields: Record<string, FieldFacts> }).fields));
    hold<{ subject: Subject; target: string; edge?: Edge; after?: string; page?: string }>('places.json', (each, trees) => {
      const { subject, target, edge, after, page } = each;
      const tree = trees[each.tree]!;
      const place = edge ? placeAt(tree, subject, { target, edge }, facts) : nextPlace(tree, subject, { after, page }, facts);
      return place ? { edits: digest(place.edits), ...(place.full ? { full: true } : {}) } : { none: true };
    });
  });
});
