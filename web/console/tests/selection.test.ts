import { act } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { TreeNode } from '#layout';
import { useSelection } from '../src/features/designer/useSelection.ts';
import { using } from './hooks.ts';

const field = (id: string): TreeNode => ({ id, kind: 'field', properties: { field: id }, children: [] });
const section = (id: string, ...fields: TreeNode[]): TreeNode => ({
  id,
  kind: 'section',
  properties: {},
  children: fields.map((each) => ({
    id: `${each.id}Row`,
    kind: 'row',
    properties: {},
    children: [{ id: `${each.id}Cell`, kind: 'cell', properties: {}, children: [each] }],
  })),
});
const tree: TreeNode = {
  id: 'layout',
  kind: 'layout',
  properties: {},
  children: [section('identity', field('name'), field('beam'), field('draught')), section('rig', field('mast'))],
};

/** The sheet as it is drawn: sections, and in each its items, of which one is within a piece. */
const root = document.createElement('div');
const lookOf = (id: string) => (['identity', 'rig'].includes(id) ? 'bt-section' : 'bt-item');
const drawn = ['identity', 'name', 'beam', 'draught', 'rig', 'mast', 'cover/insurer'];
root.innerHTML = `<div class="canvas">${drawn.map((id) => `<div class="${lookOf(id)}" data-node="${id}"></div>`).join('')}</div>`;

const chosen: (string | undefined)[] = [];
const open = () => using(() => useSelection(root, tree, (id) => chosen.push(id)));
beforeEach(() => {
  chosen.length = 0;
});

describe('what is selected', () => {
  it('is one, or one more, or one less; the last chosen last', async () => {
    const { now, leave } = await open();
    await act(async () => now().select('name'));
    await act(async () => now().select('mast', true));
    expect([now().selection, now().selected]).toEqual([['name', 'mast'], 'mast']);
    await act(async () => now().select('name', true));
    expect(now().selection).toEqual(['mast']);
    await act(async () => now().select(undefined));
    expect([now().selection, chosen]).toEqual([[], ['name', 'mast', 'name', undefined]]);
    await leave();
  });

  it('is all between two of a kind, whichever came first', async () => {
    const { now, leave } = await open();
    await act(async () => now().select('mast'));
    await act(async () => now().select('beam', 'upTo'));
    expect(now().selection, 'the section between is none of the fields').toEqual(['draught', 'mast', 'beam']);
    await act(async () => now().select('identity'));
    await act(async () => now().select('rig', 'upTo'));
    expect(now().selection).toEqual(['identity', 'rig']);
    await act(async () => now().select('gone', 'upTo'));
    expect(now().selection, 'what is not there has nothing between').toEqual(['identity', 'rig', 'gone']);
    await leave();
  });

  it('is walked in reading order, to the ends and no further, and not into pieces', async () => {
    const { now, leave } = await open();
    const walked: (string | undefined)[] = [];
    for (let i = 0; i < 8; i++) {
      await act(async () => now().walkTo(false, false));
      walked.push(now().selected);
    }
    expect(walked).toEqual(['identity', 'name', 'beam', 'draught', 'rig', 'mast', 'mast', 'mast']);
    await act(async () => now().walkTo(true, true));
    expect(now().selection, 'adding goes from a field to the next').toEqual(['mast', 'draught']);
    await leave();
  });

  it('takes what comes of something only where nothing was chosen meanwhile', async () => {
    const { now, leave } = await open();
    await act(async () => now().select('name'));
    const [undisturbed, overtaken] = [now().later(), now().later()];
    await act(async () => undisturbed('mast'));
    expect(now().selection).toEqual(['mast']);
    await act(async () => now().select('name'));
    await act(async () => overtaken('mast'));
    expect(now().selection).toEqual(['name']);
    await leave();
  });
});
