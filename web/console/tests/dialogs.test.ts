import { screen, waitFor } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { createElement } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { TreeNode } from '#layout';
import type { FieldInfo } from '../src/api/client.ts';
import { Calls, show, working } from './pages.ts';

const calls = vi.hoisted(() => ({ now: undefined as unknown }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return (calls.now as { api: unknown }).api;
  },
}));
const { ChoicesDialog } = await import('../src/features/documents/ChoicesDialog.tsx');
const { ConditionEditor } = await import('../src/features/designer/ConditionEditor.tsx');
const { Scope } = await import('../src/features/designer/conditionScope.ts');
const { CopyToLayout } = await import('../src/features/designer/CopyToLayout.tsx');
const { ExportDialog } = await import('../src/features/bundles/ExportDialog.tsx');

let made: Calls;
beforeEach(() => {
  made = new Calls();
  calls.now = made;
  working(['configure']);
});

describe('a condition', () => {
  const fields = [
    { key: 'propulsion', label: 'Propulsion', type: 'choice', choices: [{ key: 'sail', label: 'Sail' }] },
    { key: 'beam', label: 'Beam', type: 'decimal' },
  ] as unknown as FieldInfo[];
  const done: string[] = [];
  const Host = ({ value }: { value: string }) =>
    createElement(
      Scope.Provider,
      {
        value: {
          layout: 'vessel',
          fields,
          roles: [{ key: 'quay-hand', label: 'Quay hand' }],
          record: { id: 3, title: 'Kittiwake' },
          role: '',
          mode: 'edit',
        },
      },
      createElement(ConditionEditor, { id: 'c', value, label: 'Visible when', hint: 'always', onDone: (text) => void done.push(text) }),
    );
  const open = async (value: string, said?: object) => {
    if (said) made.answers.set('POST /api/layouts/vessel/conditions/check', said);
    show(Host, { value });
    return screen.findByRole<HTMLTextAreaElement>('textbox', { name: 'Visible when' });
  };
  beforeEach(() => {
    done.length = 0;
  });

  it('is completed while it is written, and counts on Ctrl and Enter', async () => {
    const input = await open('', { problems: [], result: null });
    await userEvent.type(input, 'record.pro');
    expect((await screen.findAllByRole('option'))[0]!.textContent).toContain('propulsion');
    await userEvent.keyboard('{Enter}');
    expect(input.value).toContain('propulsion');
    await userEvent.type(input, " == 'sail'");
    await userEvent.keyboard('{Control>}{Enter}{/Control}');
    expect(done.at(-1)).toContain("== 'sail'");
  });

  it('says what is wrong with it, and where', async () => {
    await open('record.sail', { problems: [{ start: 7, length: 4, message: 'There is no field sail.' }], result: null });
    await screen.findByText('There is no field sail.');
    expect(document.querySelector('mark')!.textContent).toBe('sail');
  });

  it('says what it comes to for the record in view, and where nobody can fulfil it', async () => {
    await open('record.beam > 3', { problems: [], result: 'holds', holds: { verdict: 'no', example: null }, fails: null });
    await waitFor(() => expect(document.querySelector('.condition-now')!.textContent).toContain('Kittiwake'));
    expect(document.querySelector('[data-warn]')).not.toBeNull();
  });

  it('is put together by clicking', async () => {
    await open('', { problems: [], result: null });
    await userEvent.click(screen.getByText('Build it by clicking'));
    await userEvent.click(await screen.findByText('When…'));
    await waitFor(() => expect(done).toHaveLength(1));
    expect(done[0]).toBe("record.propulsion == 'sail'");
  });
});

describe('the choices of a list', () => {
  it('are labelled in every language, and one more is added', async () => {
    made.answers.set('GET /api/choice-lists/hull', {
      key: 'hull',
      label: 'Hulls',
      revision: 4,
      uses: ['vessel.hullType'],
      choices: [{ key: 'single', labels: { '': 'Single hull', nl: 'Enkele romp' }, retired: false }],
    });
    const closed: unknown[] = [];
    show(ChoicesDialog, { list: 'hull', languages: ['en', 'nl'], onClose: (changed: boolean) => void closed.push(changed) });
    await screen.findByDisplayValue('Single hull');
    await userEvent.click(screen.getByText('Add a choice'));
    const inputs = screen.getAllByRole<HTMLInputElement>('textbox');
    await userEvent.type(inputs[2]!, 'Catamaran');
    await userEvent.click(screen.getByText('Save choices'));
    await waitFor(() => expect(closed).toEqual([true]));
    expect(made.of('PUT /api/choice-lists/hull')).toEqual([
      {
        revision: 4,
        choices: [
          { key: 'single', labels: { en: 'Single hull', nl: 'Enkele romp' }, retired: false },
          { key: null, labels: { en: 'Catamaran' }, retired: false },
        ],
      },
    ]);
  });

  it('that cannot be read say why, and keep nothing', async () => {
    made.answers.set('GET /api/choice-lists/hull', new Error('There is no such list.'));
    show(ChoicesDialog, { list: 'hull', languages: ['en'], onClose: () => undefined });
    await screen.findByText('There is no such list.');
    expect(screen.getByText<HTMLButtonElement>('Save choices').disabled).toBe(true);
  });
});

describe('what a width has differently', () => {
  const tree = (key: string, ...fields: string[]): TreeNode => ({
    id: 'layout',
    kind: 'layout',
    properties: { key, title: key },
    children: fields.map((field) => ({ id: field, kind: 'field', properties: { field }, children: [] })),
  });
  const variant: TreeNode = {
    id: 'narrow',
    kind: 'variant',
    properties: { variant: 'narrow' },
    children: ['beam', 'mast'].map((target) => ({
      id: `${target}Hidden`,
      kind: 'change',
      properties: { op: 'set', target, property: 'hidden', value: true },
      children: [],
    })),
  };

  it('is given to another layout of its kind, and what finds no match there is said', async () => {
    made.answers.set('GET /api/layouts', [
      { key: 'vessel', title: 'Vessel' },
      { key: 'boat', title: 'Boat' },
      { key: 'list', title: 'List', kind: 'list' },
    ]);
    made.answers.set('GET /api/layouts/boat', { key: 'boat', revision: 2, tree: tree('boat', 'beam') });
    show(CopyToLayout, { tree: tree('vessel', 'beam', 'mast'), variant, width: 'narrow' });
    const select = await screen.findByRole<HTMLSelectElement>('combobox');
    await waitFor(() => expect([...select.options].map((each) => each.value)).toEqual(['', 'boat']));
    await userEvent.selectOptions(select, 'boat');
    const told = await screen.findByRole('status');
    expect(told.textContent).toContain('mast');
    const [sent] = made.of('POST /api/layouts/boat/edits') as { base: number; edits: { op: string; node: TreeNode }[] }[];
    expect([sent!.base, sent!.edits[0]!.op, sent!.edits[0]!.node.kind, sent!.edits[0]!.node.children]).toEqual([
      2,
      'insert',
      'variant',
      [expect.objectContaining({ properties: { op: 'set', target: 'beam', property: 'hidden', value: true } })],
    ]);
  });
});

describe('a bundle to take away', () => {
  it('is of the documents that were chosen, found by their names', async () => {
    made.answers.set('GET /api/documents', [
      { kind: 'entity', key: 'berth', label: 'Berth' },
      { kind: 'layout', key: 'vessel', label: 'Vessel' },
    ]);
    show(ExportDialog, { onClose: () => undefined });
    const boxes = await waitFor(() => {
      const found = [...document.querySelectorAll<HTMLInputElement>('.bundle-documents input')];
      expect(found).toHaveLength(2);
      return found;
    });
    expect(boxes[0]!.parentElement!.textContent).toContain('vessel');
    const submit = document.querySelector<HTMLButtonElement>('.dialog-acts [type="submit"]')!;
    expect(submit.disabled).toBe(true);
    await userEvent.click(boxes[1]!);
    expect(submit.disabled).toBe(false);
    await userEvent.type(screen.getByRole('searchbox'), 'nobody');
    expect(document.querySelectorAll('.bundle-documents input')).toHaveLength(0);
  });
});
