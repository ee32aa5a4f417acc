import { screen, waitFor } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { createElement } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { find, type TreeNode } from '#layout';
import type { ServerEvent } from '../src/shell/events.ts';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined, listeners: new Set<(event: unknown) => void>() }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return held.calls!.api;
  },
}));
vi.mock('../src/shell/events.ts', () => ({
  onServerEvent: (listener: (event: unknown) => void) => {
    held.listeners.add(listener);
    return () => held.listeners.delete(listener);
  },
}));
const { Calls: Made, show, working } = await import('./pages.ts');
const { CommentsPane } = await import('../src/features/comments/CommentsPane.tsx');
const { useComments } = await import('../src/features/comments/useComments.ts');
const { commentAddress } = await import('../src/shell/commentAddress.ts');
const { ReleasesPage } = await import('../src/features/releases/ReleasesPage.tsx');
const { Approval, useApprovals } = await import('../src/features/releases/Approval.tsx');

const tree: TreeNode = {
  id: 'layout',
  kind: 'layout',
  properties: {},
  children: [{ id: 'rig', kind: 'section', properties: {}, children: [] }],
};
const comment = (id: number, more: object = {}) => ({
  id,
  by: 'hanna',
  byName: 'Hanna Slip',
  at: '2026-11-27T09:00:00Z',
  text: `Word ${id}`,
  item: null,
  resolvedBy: null,
  resolvedAt: null,
  ...more,
});
const selected: string[] = [];
const opened: Record<string, number>[] = [];

/** The pane as the designer has it: with what is said followed by the same hook. */
function Pane({ about }: { about?: string | undefined }) {
  const comments = useComments('layout', 'vessel');
  opened.push(Object.fromEntries(comments.open));
  return createElement(CommentsPane, {
    comments,
    whole: 'this form',
    about,
    nameOf: (id: string) => (find(tree, id) ? `the ${id}` : undefined),
    onSelect: (id: string) => {
      selected.push(id);
    },
  });
}
/** Approval as the designer's bar has it. */
function Approving({ onRefused }: { onRefused: (message: string) => void }) {
  return createElement(Approval, { draft: { kind: 'layout', key: 'vessel', revision: 7 }, ...useApprovals(7), onRefused });
}
const tell = (event: Partial<ServerEvent>) => held.listeners.forEach((listener) => listener({ data: {}, ...event }));
const said = () => [...document.querySelectorAll('.talk-text')].map((each) => each.textContent);

let calls: Calls;
const path = 'GET /api/drafts/layout/vessel/comments';
beforeEach(() => {
  calls = held.calls = new Made();
  calls.answers.set('GET /api/people', [
    { id: 'ada', name: 'Ada Wader' },
    { id: 'hanna', name: 'Hanna Slip' },
  ]);
  calls.answers.set(path, [
    comment(1),
    comment(2, { item: 'rig' }),
    comment(3, { item: 'gone' }),
    comment(4, { item: 'rig', resolvedBy: 'ada' }),
  ]);
  selected.length = opened.length = 0;
  working(['configure']);
});

describe('what is said about a form', () => {
  it('is all that is open, each at its item, and what is done on request', async () => {
    show(Pane, {});
    await screen.findByText('Word 1');
    expect([said(), opened.at(-1)]).toEqual([['Word 1', 'Word 2', 'Word 3'], { '': 1, rig: 1, gone: 1 }]);
    expect(screen.getByText('on an item that is gone')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'the rig' }));
    expect(selected).toEqual(['rig']);
    await userEvent.click(screen.getByRole('button', { name: '1 done' }));
    expect(said()).toHaveLength(4);
    expect(await screen.findByText('Done, said Ada Wader; open it again')).toBeTruthy();
  });

  it('is of the item alone that is selected, and what one says is about it', async () => {
    show(Pane, { about: 'rig' });
    await screen.findByText('Word 2');
    expect([screen.getByRole('heading').textContent, said()]).toEqual(['About the rig', ['Word 2']]);
    await userEvent.type(screen.getByRole('textbox'), 'In metres, @ada?');
    await userEvent.click(screen.getByRole('button', { name: /add comment/i }));
    await waitFor(() => expect(calls.of('POST /api/drafts/layout/vessel/comments')).toEqual([{ text: 'In metres, @ada?', item: 'rig' }]));
    await waitFor(() => expect(calls.of(path)).toHaveLength(2));
  });

  it('is done and opened again', async () => {
    show(Pane, {});
    await screen.findByText('Word 1');
    await userEvent.click(screen.getAllByRole('button', { name: 'It is done' })[0]!);
    await waitFor(() => expect(calls.of('PUT /api/comments/1/resolved')).toEqual([{ resolved: true }]));
    await userEvent.click(screen.getByRole('button', { name: '1 done' }));
    await userEvent.click(await screen.findByText(/open it again/));
    await waitFor(() => expect(calls.of('PUT /api/comments/4/resolved')).toEqual([{ resolved: false }]));
  });

  it('is followed as others say it about this form, and about no other', async () => {
    show(Pane, {});
    await screen.findByText('Word 1');
    calls.answers.set(path, [comment(5)]);
    tell({ type: 'comment', data: { draft: { kind: 'layout', key: 'berth' } } });
    tell({ type: 'draft', data: { key: 'vessel' } });
    expect(calls.of(path)).toHaveLength(1);
    tell({ type: 'comment', data: { draft: { kind: 'layout', key: 'vessel' } } });
    await screen.findByText('Word 5');
    tell({ type: 'resync' });
    await waitFor(() => expect(calls.of(path)).toHaveLength(3));
  });

  it('is nothing yet, with how one begins', async () => {
    calls.answers.set(path, []);
    show(Pane, {});
    expect(await screen.findByText('No open comments. Select an item to comment on it.')).toBeTruthy();
  });
});

describe('what is said about a draft without a designer', () => {
  const menu = 'GET /api/drafts/navigation/navigation/comments';
  it('stands with the releases, where a mention of it leads', async () => {
    expect([commentAddress({ kind: 'layout', key: 'vessel' }), commentAddress({ kind: 'navigation', key: 'navigation' })]).toEqual([
      '/design/vessel/comments',
      '/releases/navigation/navigation',
    ]);
    calls.answers.set('GET /api/releases', []);
    calls.answers.set('GET /api/scheduled-releases', []);
    calls.answers.set('GET /api/releases/diff', { from: '1', to: 'drafts', documents: [] });
    calls.answers.set('GET /api/approvals', { required: false, given: [], own: [] });
    calls.answers.set(menu, [comment(1)]);
    show(ReleasesPage, { about: { kind: 'navigation', name: 'navigation' } });
    await screen.findByText('Word 1');
    expect(screen.getByRole('heading', { name: 'About the menu' })).toBeTruthy();
    calls.answers.set(menu, [comment(1), comment(2)]);
    tell({ type: 'comment', data: { draft: { kind: 'entity', key: 'navigation' } } });
    expect(calls.of(menu)).toHaveLength(1);
    tell({ type: 'comment', data: { draft: { kind: 'navigation', key: 'navigation' } } });
    await screen.findByText('Word 2');
    await userEvent.type(screen.getByRole('textbox'), 'Vessels first?');
    await userEvent.click(screen.getByRole('button', { name: /add comment/i }));
    await waitFor(() =>
      expect(calls.of('POST /api/drafts/navigation/navigation/comments')).toEqual([{ text: 'Vessels first?', item: null }]),
    );
  });
});

describe('approval', () => {
  const given = (revision: number, by = 'hanna') => ({ kind: 'layout', key: 'vessel', revision, by, at: '2026-11-27T09:00:00Z' });
  const refused: string[] = [];
  const open = (approvals: object) => {
    refused.length = 0;
    calls.answers.set('GET /api/approvals', approvals);
    show(Approving, {
      onRefused: (message: string) => {
        refused.push(message);
      },
    });
  };

  it('is no word where nobody asks for it and one may not give it', async () => {
    open({ required: false, given: [], own: [] });
    await waitFor(() => expect(calls.of('GET /api/approvals')).toHaveLength(1));
    expect(document.querySelector('.approved')).toBeNull();
  });

  it.each([
    [[], 'not approved yet'],
    [[given(6)], 'not approved yet'],
    [[given(7)], 'approved by Hanna Slip'],
    [[given(7), given(7, 'ada')], 'approved by Hanna Slip, Ada Wader'],
  ])('is of the revision that is looked at: %j', async (all, text) => {
    open({ required: true, given: all, own: [] });
    expect(await screen.findByText(text)).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('is not offered for what one changed oneself', async () => {
    working(['review']);
    open({ required: true, given: [], own: [{ kind: 'layout', key: 'vessel' }] });
    expect(await screen.findByText('not approved yet')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('is given and taken back by whoever may, and what is refused is said', async () => {
    working(['review']);
    open({ required: false, given: [], own: [] });
    calls.answers.set('POST /api/approvals', new Error('Nobody approves her own change.'));
    await userEvent.click(await screen.findByRole('button', { name: 'Approve' }));
    await waitFor(() => expect(refused).toEqual(['Nobody approves her own change.']));
    calls.answers.delete('POST /api/approvals');
    calls.answers.set('GET /api/approvals', { required: false, given: [given(7, 'greta')], own: [] });
    tell({ type: 'approval' });
    const back = await screen.findByRole('button', { name: 'Take approval back' });
    expect(back.getAttribute('aria-pressed')).toBe('true');
    await userEvent.click(back);
    await waitFor(() =>
      expect(calls.of('POST /api/approvals').at(-1)).toEqual({ kind: 'layout', key: 'vessel', revision: 7, approved: false }),
    );
  });
});
