import { screen, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { draw } from './draw.ts';
import { FormStore } from '../src/state/store.ts';
import type { RecordRow, RelatedItem, ResolvedForm, FormHost } from '../src/model/types.ts';

const lines: RelatedItem = {
  id: 'lines',
  kind: 'related',
  entity: 'workLine',
  through: 'liftOut',
  label: 'Work lines',
  shows: ['task', 'hours'],
  totals: ['hours'],
  as: 'grid',
  fields: {
    task: { type: 'text', label: 'Task', required: true },
    hours: { type: 'decimal', label: 'Hours', scale: 2, min: 0, unit: 'h' },
  },
};

const stored: RecordRow[] = [
  { id: 4, version: 2, values: { task: 'Renew anodes', hours: 2.5 }, references: {} },
  { id: 7, version: 1, values: { task: 'Wash', hours: 1.5 }, references: {} },
];

function open(readRelated: FormHost['readRelated'] = () => Promise.resolve(stored), item: RelatedItem = lines): FormStore {
  const form: ResolvedForm = {
    layout: 'liftOut',
    entity: 'liftOut',
    kind: 'full',
    density: 'roomy',
    mode: 'edit',
    language: 'en',
    title: 'Lift-out',
    width: 'full',
    marks: 'required',
    arrangement: 'stack',
    fields: { released: { type: 'boolean', label: 'Released' } },
    pages: [
      {
        id: 'page',
        title: '',
        sections: [
          {
            id: 'work',
            frame: 'none',
            labels: 'above',
            columns: 1,
            rows: [{ id: 'row', cells: [{ id: 'cell', span: 12, items: [item] }] }],
          },
        ],
      },
    ],
  };
  const around: FormHost = {
    userId: 'dirk',
    roles: [],
    timeZone: 'UTC',
    now: () => new Date(0),
    lookUp: () => Promise.resolve([]),
    upload: () => Promise.resolve(''),
    fileAddress: (value) => value,
    readRelated: readRelated!,
  };
  return new FormStore(form, {}, {}, around, { record: 3 });
}

async function shown(store: FormStore) {
  draw(store);
  await settle();
  return userEvent.setup();
}

const settle = () => new Promise((done) => requestAnimationFrame(() => done(undefined)));

const tasks = () => screen.getAllByRole('textbox', { name: 'Task' }).map((input) => (input as HTMLInputElement).value);

describe('related records', () => {
  it('are read, added up and named by their columns', async () => {
    const read = vi.fn(() => Promise.resolve(stored));
    await shown(open(read));
    expect(read).toHaveBeenCalledWith('workLine', 'liftOut', 3, []);
    expect(tasks()).toEqual(['Renew anodes', 'Wash']);
    expect(within(screen.getByRole('table', { name: 'Work lines' })).getByText(/^4/).textContent).toContain('4');
  });

  it('go down with Enter, and the last row makes another', async () => {
    const store = open();
    const user = await shown(store);
    await user.click(screen.getAllByRole('textbox', { name: 'Task' })[1]!);
    await user.keyboard('{Enter}');
    await settle();
    expect(document.activeElement).toBe(screen.getAllByRole('textbox', { name: 'Task' })[2]);
    await user.keyboard('Antifouling{ArrowUp}');
    await settle();
    expect((document.activeElement as HTMLInputElement).value).toBe('Wash');
    expect(store.dirty).toBe(true);
    expect(store.relatedSaves()).toEqual([
      { entity: 'workLine', through: 'liftOut', created: [{ task: 'Antifouling' }], changed: [], removed: [] },
    ]);
  });

  it('are saved as what was made, changed and removed, and nothing else', async () => {
    const store = open();
    const user = await shown(store);
    expect(store.relatedSaves()).toEqual([]);
    await user.clear(screen.getAllByRole('textbox', { name: 'Hours' })[0]!);
    await user.type(screen.getAllByRole('textbox', { name: 'Hours' })[0]!, '3');
    await user.click(screen.getByRole('button', { name: 'Remove row 2' }));
    expect(store.relatedSaves()).toEqual([
      {
        entity: 'workLine',
        through: 'liftOut',
        created: [],
        changed: [{ id: 4, version: 2, values: { hours: 3 } }],
        removed: [{ id: 7, version: 1 }],
      },
    ]);
  });

  it('stand against saving where a row is wrong, and show what the service finds in theirs', async () => {
    const store = open();
    const user = await shown(store);
    await user.click(screen.getByRole('button', { name: 'Add to Work lines' }));
    expect(store.validate()).toBe(false);
    expect(screen.getByText('Task is required.')).toBeTruthy();
    expect(store.problems()).toEqual([{ field: 'task', id: 'lines', message: 'Work lines, 3: Task is required.' }]);
    await user.type(screen.getAllByRole('textbox', { name: 'Task' })[2]!, 'Polish');
    expect(store.validate()).toBe(true);
    store.showProblems([
      { field: '/related/0/created/0/hours', message: 'Hours is odd.' },
      { field: 'released', message: 'No.' },
    ]);
    expect(store.error('released')).toBe('No.');
    expect(within(screen.getAllByRole('row')[3]!).getByText('Hours is odd.')).toBeTruthy();
  });

  it('say so when they cannot be read, and can be read again', async () => {
    let fails = true;
    const user = await shown(open(() => (fails ? Promise.reject(new Error('gone')) : Promise.resolve(stored))));
    expect(screen.getByRole('alert').textContent).toContain('could not be read');
    fails = false;
    await user.click(screen.getByRole('button', { name: 'Read again' }));
    expect(tasks()).toHaveLength(2);
  });

  it('are only shown where the form says so', async () => {
    await shown(open(undefined, { ...lines, readOnly: true }));
    expect(screen.queryByRole('textbox')).toBeNull();
    expect(screen.getByText('Renew anodes')).toBeTruthy();
  });
});

describe('rows in an order of their own', () => {
  const ordered: RelatedItem = {
    ...lines,
    order: 'position',
    sort: ['position'],
    fields: { ...lines.fields, position: { type: 'integer', label: 'Position' } },
  };
  const numbered: RecordRow[] = ['Anodes', 'Wash', 'Paint'].map((task, i) => ({
    id: i + 1,
    version: 1,
    values: { task, position: i + 1 },
    references: {},
  }));

  it('are moved by keys and buttons, and every number follows', async () => {
    const store = open(() => Promise.resolve(numbered), ordered);
    const user = await shown(store);
    await user.click(screen.getAllByRole('textbox', { name: 'Task' })[2]!);
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    await settle();
    expect(tasks()).toEqual(['Anodes', 'Paint', 'Wash']);
    expect((document.activeElement as HTMLInputElement).value).toBe('Paint');
    await user.click(screen.getByRole('button', { name: 'Move row 2 up' }));
    expect(tasks()).toEqual(['Paint', 'Anodes', 'Wash']);
    expect(store.relatedSaves()[0]!.changed).toEqual([
      { id: 3, version: 1, values: { position: 1 } },
      { id: 1, version: 1, values: { position: 2 } },
      { id: 2, version: 1, values: { position: 3 } },
    ]);
    expect((screen.getByRole('button', { name: 'Move row 1 up' }) as HTMLButtonElement).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Move row 1 down' }));
    await user.click(screen.getByRole('button', { name: 'Move row 2 down' }));
    expect(store.dirty).toBe(false);
  });

  it('give a new row the next number where the others have theirs, and none where they have none', async () => {
    const store = open(() => Promise.resolve(numbered), ordered);
    const user = await shown(store);
    await user.click(screen.getByRole('button', { name: 'Add to Work lines' }));
    expect(store.relatedSaves()[0]!.created).toEqual([{ position: 4 }]);
    const bare = open(() => Promise.resolve(stored), ordered);
    bare.relatedOf(ordered);
    await settle();
    expect(bare.addRelated('workLine', 'liftOut', { task: 'Oil' })).toBe(true);
    expect(bare.relatedSaves()[0]!.created).toEqual([{ task: 'Oil' }]);
  });

  it('cannot be moved where nothing keeps their order', async () => {
    await shown(open());
    expect(screen.queryByRole('button', { name: /Move row/ })).toBeNull();
  });

  it('come back as they were changed, over what is stored, before or after it has been read', async () => {
    const save = {
      entity: 'workLine',
      through: 'liftOut',
      created: [{ task: 'Oil' }],
      changed: [{ id: 1, version: 1, values: { task: 'New anodes' } }],
      removed: [{ id: 2, version: 1 }],
    };
    const store = open(() => Promise.resolve(numbered), ordered);
    store.putInRelated([save]);
    await settle();
    expect(store.relatedOf(ordered).rows.map((row) => row.store.get('task'))).toEqual(['New anodes', 'Paint', 'Oil']);
    expect(store.relatedSaves()).toEqual([{ ...save, created: [{ task: 'Oil', position: 4 }] }]);
    const later = open(() => Promise.resolve(numbered), ordered);
    later.relatedOf(ordered);
    await settle();
    later.putInRelated([save]);
    expect(later.relatedSaves()).toEqual(store.relatedSaves());
    // What was kept of rows that are gone, or of other records, is passed over.
    later.putInRelated([
      { ...save, changed: [{ id: 99, version: 1, values: { task: 'x' } }], created: [], removed: [{ id: 98, version: 1 }] },
      { ...save, entity: 'berth' },
    ]);
    expect(later.relatedOf(ordered).rows).toHaveLength(3);
  });
});

describe('a grid is gone about as a spreadsheet is', () => {
  const cell = (row: number, field: string) =>
    document.querySelectorAll('[data-row]')[row]!.querySelector<HTMLInputElement>(`[data-field="${field}"] input`)!;
  const press = async (key: string) => {
    await userEvent.keyboard(key);
    await settle();
  };

  it('sideways from the edge of what is typed, and from what is marked', async () => {
    await shown(open());
    cell(0, 'task').focus();
    cell(0, 'task').setSelectionRange(3, 3);
    await press('{ArrowRight}');
    expect(document.activeElement).toBe(cell(0, 'task'));
    cell(0, 'task').setSelectionRange(12, 12);
    await press('{ArrowRight}');
    expect(document.activeElement).toBe(cell(0, 'hours'));
    await press('{ArrowDown}');
    await press('{ArrowLeft}');
    expect(document.activeElement).toBe(cell(1, 'task'));
    await press('{ArrowLeft}');
    expect(document.activeElement, 'there is nothing before the first').toBe(cell(1, 'task'));
  });

  it('Ctrl+D takes what stands above', async () => {
    const store = open();
    await shown(store);
    cell(1, 'task').focus();
    await press('{Control>}d{/Control}');
    expect(tasks()).toEqual(['Renew anodes', 'Renew anodes']);
  });

  it('takes pasted cells to the side and below, makes rows for them, says what it could not read, and takes it all back', async () => {
    const store = open();
    await shown(store);
    cell(1, 'task').focus();
    await userEvent.paste('Polish\t2,5 h\tsomething\nPaint\tmany\n');
    await settle();
    expect(tasks()).toEqual(['Renew anodes', 'Polish', 'Paint']);
    expect(store.relatedOf(lines).rows.map((row) => row.store.get('hours'))).toEqual([2.5, 2.5, 'many']);
    expect(screen.getByText(/4 cells filled/).textContent).toContain('Not understood: “something”.');
    await userEvent.click(screen.getByRole('button', { name: 'Take the pasting back' }));
    expect(tasks()).toEqual(['Renew anodes', 'Wash']);
    expect(store.relatedSaves()).toEqual([]);
  });

  it('one word is pasted as anywhere', async () => {
    await shown(open());
    const task = cell(0, 'task');
    task.focus();
    task.setSelectionRange(0, 5);
    await userEvent.paste('Order');
    expect(task.value).toBe('Order anodes');
  });

  it('a record that is named is looked up', async () => {
    const store = open(undefined, {
      ...lines,
      shows: ['task', 'berth'],
      totals: [],
      fields: { ...lines.fields, berth: { type: 'reference', label: 'Berth', target: 'berth' } },
    });
    store.host.lookUp = (_, text) =>
      Promise.resolve(
        text === 'A12'
          ? [
              { id: 5, title: 'A12' },
              { id: 6, title: 'A120' },
            ]
          : [],
      );
    await shown(store);
    cell(0, 'task').focus();
    await userEvent.paste('Wash\tA12\nPaint\tnowhere\n');
    await settle();
    expect(store.relatedOf(store.relatedOf(lines).item).rows.map((row) => row.store.get('berth'))).toEqual([5, null]);
    await screen.findByText(/Not understood: “nowhere”/);
  });
});
