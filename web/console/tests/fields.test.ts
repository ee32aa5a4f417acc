import { screen, waitFor } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return held.calls!.api;
  },
}));
const { Calls: Made, show, working } = await import('./pages.ts');
const { AddField } = await import('../src/features/documents/AddField.tsx');
const { Changes } = await import('../src/features/designer/Changes.tsx');

let calls: Calls;
beforeEach(() => {
  calls = held.calls = new Made();
  calls.answers.set('GET /api/people', [{ id: 'ada', name: 'Ada Wader', roles: [], language: 'en' }]);
  calls.answers.set('GET /api/relations', [
    { key: 'berth', label: 'Berth' },
    { key: 'keeper', label: 'Keeper' },
  ]);
  working(['configure']);
});

describe('a field that is added', () => {
  const closed = vi.fn();
  const open = async () => {
    closed.mockClear();
    show(AddField, { entity: 'vessel', onClose: closed });
    await userEvent.type(await screen.findByRole('textbox', { name: 'Label' }), 'Fender type');
  };
  const add = () => userEvent.click(screen.getByRole('button', { name: 'Add field' }));
  const path = 'POST /api/entities/vessel/fields';

  it('is a text unless one says otherwise, and closes with its key', async () => {
    calls.answers.set(path, { key: 'fenderType' });
    await open();
    await add();
    await waitFor(() => expect(closed).toHaveBeenCalledWith('fenderType'));
    expect(calls.of(path)).toEqual([
      { label: 'Fender type', type: 'text', required: false, target: null, choiceList: null, choices: null },
    ]);
  });

  it('has its choices a line each, or what it points at', async () => {
    calls.answers.set(path, { key: 'fenderType' });
    await open();
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Type' }), 'choice');
    await userEvent.type(screen.getByRole('textbox', { name: /choices/i }), 'Round\nCylinder');
    await add();
    await waitFor(() => expect(calls.of(path).at(-1)).toMatchObject({ type: 'choice', choices: ['Round', 'Cylinder'], target: null }));
    await open();
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Type' }), 'reference');
    await userEvent.selectOptions(screen.getByRole('combobox', { name: /points at|records of|target/i }), 'keeper');
    await add();
    await waitFor(() => expect(calls.of(path).at(-1)).toMatchObject({ type: 'reference', target: 'keeper', choices: null }));
  });

  it('says why not, and stays with what was typed', async () => {
    calls.answers.set(path, new Error('There is a field of that name.'));
    await open();
    await add();
    expect((await screen.findByRole('alert')).textContent).toBe('There is a field of that name.');
    expect([closed.mock.calls.length, screen.getByRole<HTMLInputElement>('textbox', { name: 'Label' }).value]).toEqual([0, 'Fender type']);
  });
});

describe('what was changed in a draft', () => {
  const draft = { key: 'vessel', entity: 'vessel', revision: 7, published: 5, tree: {}, findings: [] } as never;
  const edits = vi.fn();
  const shown = vi.fn();
  const open = (more: object = {}) => {
    edits.mockClear();
    shown.mockClear();
    calls.answers.set('GET /api/layouts/vessel/changes', [
      { revision: 6, by: 'ada', at: '2026-11-27T09:00:00Z', label: 'Beam beside Length' },
      { revision: 7, by: 'ada', at: '2026-11-27T09:01:00Z', label: '' },
    ]);
    calls.answers.set('GET /api/layouts', [{ key: 'yard', entity: 'vessel', title: 'The yard', kind: 'full' }]);
    calls.answers.set('GET /api/releases', [{ number: 2, documents: [{ kind: 'layout', key: 'vessel', change: 'changed' }] }]);
    calls.answers.set('GET /api/layouts/vessel/diff', { edits: [{ op: 'remove', node: 'x' }], summary: ['Beam was moved.'] });
    show(Changes, { draft, shown: false, onEdit: edits, onShow: shown, ...more });
  };

  it('is told against what is published, and against whatever else one chooses', async () => {
    open();
    expect(await screen.findByText('Beam was moved.')).toBeTruthy();
    const against = screen.getByRole<HTMLSelectElement>('combobox');
    await waitFor(() =>
      expect([...against.options].map((each) => each.value)).toEqual(['released', 'revision:6', 'release:2', 'generated', 'yard']),
    );
    expect(calls.of('GET /api/releases').at(-1)).toEqual({ document: 'layout/vessel' });
    await userEvent.selectOptions(against, 'generated');
    await waitFor(() => expect(calls.of('GET /api/layouts/vessel/diff').at(-1)).toEqual({ from: 'generated' }));
    await userEvent.click(await screen.findByRole('button', { name: /generated/i }));
    await waitFor(() => expect(edits).toHaveBeenCalledWith([{ op: 'remove', node: 'x' }], expect.stringMatching(/generated/i)));
  });

  it('is shown on the form and not any more, and gone back to by name', async () => {
    open();
    await userEvent.click(await screen.findByRole('button', { name: /on the form/i }));
    expect(shown).toHaveBeenLastCalledWith(expect.objectContaining({ summary: ['Beam was moved.'] }));
    expect(screen.getByText('Revision 7')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Restore' }));
    await waitFor(() => expect(edits.mock.calls[0]![1]).toContain('Beam beside Length'));
    expect(calls.of('GET /api/layouts/vessel/diff').at(-1)).toEqual({ from: 'revision:6', reverse: true });
  });

  it('is nothing to compare with where nothing was published, and says why it cannot be gone back to', async () => {
    open({ draft: { ...(draft as object), published: null } });
    expect(await screen.findByText(/not published yet/i)).toBeTruthy();
    calls.answers.set('GET /api/layouts/vessel/diff', new Error('That revision is gone.'));
    await userEvent.click(await screen.findByRole('button', { name: 'Restore' }));
    expect((await screen.findByRole('alert')).textContent).toBe('That revision is gone.');
  });
});
