// @vitest-environment node
// @vitest-environment node
import { describe, expect, it, vi } from 'vitest';
import { FormStore } from '../src/state/store.ts';
import type { Decision, FieldItem, ResolvedForm, FormHost, Values } from '../src/model/types.ts';
import { fromLocal, toLocal } from '../src/values/localTime.ts';
import { parseNumber } from '../src/values/values.ts';

const around: FormHost = {
  userId: 'ada',
  roles: [],
  timeZone: 'Europe/Amsterdam',
  now: () => new Date('2026-11-23T09:00:00Z'),
  lookUp: () => Promise.resolve([]),
  upload: () => Promise.resolve(''),
  fileAddress: (value) => value,
};

const underSail: Decision = { when: ['==', ['get', ['name', 'record'], 'propulsion'], 'sail'], reads: ['propulsion'] };
const long: Decision = { when: ['>', ['get', ['name', 'record'], 'length'], 10], reads: ['length'] };

const item = (field: string, more: Partial<FieldItem> = {}): FieldItem => ({
  id: field,
  kind: 'field',
  field,
  label: field,
  editor: 'line',
  lines: 1,
  ...more,
});
const row = (...items: FieldItem[]) => ({
  id: `${items[0]!.id}Row`,
  cells: items.map((each) => ({ id: `${each.id}Cell`, span: 6, shares: true, items: [each] })),
});

function form(more: Partial<ResolvedForm> = {}): ResolvedForm {
  return {
    layout: 'vessel',
    entity: 'vessel',
    kind: 'full',
    density: 'roomy',
    mode: 'edit',
    language: 'en',
    title: 'Vessel',
    width: 'full',
    marks: 'required',
    arrangement: 'stack',
    pages: [
      {
        id: 'page',
        title: 'Overview',
        sections: [
          {
            id: 'identity',
            frame: 'none',
            labels: 'above',
            columns: 1,
            rows: [row(item('name', { required: true }), item('propulsion')), row(item('length', { editor: 'number' }))],
          },
          {
            id: 'rig',
            title: 'Rig',
            frame: 'none',
            labels: 'above',
            columns: 1,
            visible: underSail,
            rows: [row(item('mastHeight', { editor: 'number', required: long, readOnly: long }))],
          },
        ],
      },
    ],
    fields: {
      name: { type: 'text', label: 'Name', maxLength: 20 },
      propulsion: { type: 'choice', label: 'Propulsion' },
      length: { type: 'decimal', label: 'Length', min: 1.5, scale: 2 },
      mastHeight: { type: 'decimal', label: 'Mast height', scale: 1 },
    },
    ...more,
  };
}

const open = (values: Values, more: Partial<ResolvedForm> = {}) => new FormStore(form(more), values, {}, around);

describe('a form over its values', () => {
  it('shows and hides as one types, and takes emptied containers along', () => {
    const store = open({ name: 'Kittiwake', propulsion: 'sail' });
    expect(store.state('rig').visible).toBe(true);
    store.set('propulsion', 'diesel');
    expect(store.state('rig').visible).toBe(false);
    store.set('propulsion', 'sail');
    expect(store.state('mastHeight').visible).toBe(true);
  });

  it('hides a row all of whose fields are hidden', () => {
    const hiding = form();
    (hiding.pages[0]!.sections[1]!.rows[0]!.cells[0]!.items[0] as FieldItem).visible = long;
    const store = new FormStore(hiding, { propulsion: 'sail', length: 8 }, {}, around);
    expect([store.state('mastHeightRow').visible, store.state('rig').visible]).toEqual([false, false]);
    store.set('length', 12);
    expect([store.state('mastHeightRow').visible, store.state('rig').visible]).toEqual([true, true]);
  });

  it('is closed where a condition fails: not required, but read-only', () => {
    const store = open({ propulsion: 'sail' });
    expect(store.state('mastHeight')).toEqual({ visible: true, required: false, readOnly: true });
    store.set('length', 12);
    expect(store.state('mastHeight')).toEqual({ visible: true, required: true, readOnly: true });
  });

  it('re-evaluates and tells only what a keystroke can change', () => {
    const store = open({ propulsion: 'sail', length: 8 });
    const [rig, mast, name] = [vi.fn(), vi.fn(), vi.fn()];
    store.subscribe('node:rig', rig);
    store.subscribe('node:mastHeight', mast);
    store.subscribe('field:name', name);
    store.set('length', 12);
    expect([rig.mock.calls.length, mast.mock.calls.length, name.mock.calls.length]).toEqual([0, 1, 0]);
  });

  it('keeps everything typed when the form changes', () => {
    const store = open({ name: 'Kittiwake' });
    store.set('name', 'Kittiwake II');
    store.set('mastHeight', 12.7);
    store.replaceForm(
      form({
        title: 'Boat',
        pages: [
          { id: 'page', title: 'All', sections: [{ id: 'new', frame: 'rule', labels: 'above', columns: 1, rows: [row(item('name'))] }] },
        ],
      }),
    );
    expect(store.get('name')).toBe('Kittiwake II');
    expect(store.changes()).toEqual({ name: 'Kittiwake II', mastHeight: 12.7 });
  });

  it('goes on with what was typed into another form over the same values, references by name', () => {
    const before = open({ name: 'Kittiwake', propulsion: 'sail', length: 8 });
    before.set('propulsion', 'motor');
    before.set('keeper', 3);
    before.remember('keeper', { id: 3, title: 'Ayla Brook' });
    const next = open({ name: 'Kittiwake', propulsion: 'sail', length: 8 });
    next.goOnFrom(before);
    expect([next.changes(), next.name('keeper')?.title, next.state('rig').visible]).toEqual([
      { propulsion: 'motor', keeper: 3 },
      'Ayla Brook',
      false,
    ]);
  });

  it('says that something is missing only on saving, and what is wrong on leaving', () => {
    const store = open({ name: 'Kittiwake' });
    store.set('name', null);
    store.leave('name');
    expect(store.error('name')).toBeUndefined();
    store.set('name', 'A name that is much too long for any boat');
    expect(store.error('name')).toBeUndefined();
    store.leave('name');
    expect(store.error('name')).toContain('at most 20 characters');
    store.set('name', 'Kittiwake');
    expect(store.error('name')).toBeUndefined();
    store.set('name', null);
    expect(store.validate()).toBe(false);
    expect(store.problems()).toEqual([{ field: 'name', id: 'name', message: 'name is required.' }]);
  });

  it('asks nothing of what is hidden', () => {
    const hiding = form();
    hiding.pages[0]!.sections[1]!.rows[0]!.cells[0]!.items = [item('mastHeight', { required: true })];
    const store = new FormStore(hiding, { name: 'Redshank', propulsion: 'diesel' }, {}, around);
    expect(store.validate()).toBe(true);
    store.set('propulsion', 'sail');
    expect(store.validate()).toBe(false);
  });

  it('keeps what the service refused until the value is changed', () => {
    const store = open({ name: 'Kittiwake' });
    store.showProblems([{ field: 'name', message: 'Name is taken.' }]);
    expect(store.error('name')).toBe('Name is taken.');
    store.set('name', 'Curlew');
    expect(store.error('name')).toBeUndefined();
  });

  it('knows what differs from what is saved, whichever way empty is written', () => {
    const store = open({ name: 'Kittiwake' });
    store.set('length', 9);
    expect(store.dirty).toBe(true);
    store.set('length', null);
    store.set('mastHeight', '');
    expect(store.dirty).toBe(false);
  });
});

describe('values as people type them', () => {
  it.each([
    ['12.5', 'en', 12.5],
    ['12,5', 'nl', 12.5],
    ['12.5', 'nl', 12.5],
    ['1,234.5', 'en', 1234.5],
    ['1.234,5', 'nl', 1234.5],
    ['١٢', 'ar', 12],
    ['-0.5', 'en', -0.5],
    ['twelve', 'en', undefined],
    ['1.2.3', 'en', undefined],
    ['', 'en', undefined],
  ])('%s in %s', (text, language, value) => {
    expect(parseNumber(text, language)).toBe(value);
  });

  it.each(['2026-07-01T12:00:00Z', '2026-12-01T23:30:00Z', '2026-03-29T00:59:00Z'])('%s survives the clock of a zone', (moment) => {
    expect(fromLocal(toLocal(moment, 'Europe/Amsterdam'), 'Europe/Amsterdam')).toBe(moment);
  });

  it('puts what was typed over what somebody else saved, save where theirs is to stand', () => {
    const store = open({ name: 'Kittiwake', length: 9, propulsion: 'sail' });
    store.set('name', 'Curlew');
    store.set('length', 12);
    store.rebase({ name: 'Avocet', length: 10, propulsion: 'diesel' }, ['name']);
    expect([store.get('name'), store.get('length'), store.get('propulsion')]).toEqual(['Avocet', 12, 'diesel']);
    expect(store.changes()).toEqual({ length: 12 });
    expect(store.state('rig').visible).toBe(false);
  });

  it('copies from a picked record, unless another was picked meanwhile', async () => {
    const answers: Record<number, (values: Values) => void> = {};
    const store = new FormStore(
      form(),
      { name: 'x' },
      {},
      {
        ...around,
        read: (_, id) =>
          new Promise((done) => {
            answers[id] = done;
          }),
      },
    );
    store.set('propulsion', 1 as never);
    store.copy('propulsion', 'berth', 1, { length: 'maxLength' });
    store.set('propulsion', 2 as never);
    store.copy('propulsion', 'berth', 2, { length: 'maxLength' });
    answers[2]!({ maxLength: 12 });
    answers[1]!({ maxLength: 8 });
    await Promise.resolve();
    await Promise.resolve();
    expect(store.get('length')).toBe(12);
  });
});

describe('rights that change while a form is open', () => {
  const open = (values: Values) => new FormStore(form(), values, {}, around, { record: 5 });
  const all = new Set(['name', 'propulsion', 'length', 'mastHeight']);

  it('take what may no longer be read, typed or stored, and leave the rest as typed', () => {
    const store = open({ name: 'Kittiwake', propulsion: 'sail', length: 9.75 });
    store.set('length', 10.5);
    store.set('name', 'Kittiwake II');
    expect(store.heed(new Set(['name', 'propulsion']), all)).toEqual([]);
    expect(store.allValues()).toEqual({ name: 'Kittiwake II', propulsion: 'sail' });
    expect(store.toSave()).toEqual({ name: 'Kittiwake II' });
  });

  it('keep what was typed where nothing may be changed any more in sight, and send it never', () => {
    const store = open({ name: 'Kittiwake', propulsion: 'sail', length: 9.75 });
    store.set('length', 10.5);
    store.set('name', 'Kittiwake II');
    expect(store.heed(all, new Set(['name']))).toEqual(['length']);
    expect(store.toSave()).toEqual({ name: 'Kittiwake II' });
    // Saved: the rest is as the service has it, and what was not sent is still there, unsaved.
    store.replaceRecord({ name: 'Kittiwake II', propulsion: 'sail', length: 9.75 }, {});
    expect(store.get('length')).toBe(10.5);
    expect(store.dirty).toBe(true);
    expect(store.toSave()).toEqual({});
  });

  it('change nothing where nothing was typed', () => {
    const store = open({ name: 'Kittiwake', length: 9.75 });
    expect(store.heed(all, new Set())).toEqual([]);
    expect(store.dirty).toBe(false);
  });
});

describe('who is told of a change', () => {
  it('is what reads the field, and nothing else', () => {
    const store = open({ name: 'Kittiwake', propulsion: 'diesel', length: 9 });
    const told: string[] = [];
    for (const key of ['field:name', 'field:length', 'node:rig', 'node:mastHeight', 'node:identity', 'values', 'content'])
      store.subscribe(key, () => told.push(key));
    store.set('name', 'Dunlin');
    expect(told).toEqual(['field:name', 'values']);
    told.length = 0;
    store.set('length', 12);
    expect(told).toEqual(['node:mastHeight', 'field:length', 'values']);
  });

  it('is nobody who has gone', () => {
    const store = open({ name: 'Kittiwake' });
    const [one, other] = [vi.fn(), vi.fn()];
    const stop = store.subscribe('field:name', one);
    store.subscribe('field:name', other);
    stop();
    store.set('name', 'Dunlin');
    expect(one).not.toHaveBeenCalled();
    expect(other).toHaveBeenCalledTimes(1);
  });
});

it('takes a field in a section that is hidden for hidden, though nothing decides about the field itself', () => {
  const sails: Decision = { when: ['==', ['get', ['name', 'record'], 'propulsion'], 'sail'], reads: ['propulsion'] };
  const store = new FormStore(
    {
      layout: 'vessel',
      entity: 'vessel',
      kind: 'full',
      mode: 'edit',
      language: 'en',
      title: 'Vessel',
      width: 'full',
      density: 'roomy',
      marks: 'none',
      arrangement: 'stack',
      fields: { propulsion: { type: 'text', label: 'Propulsion' }, mast: { type: 'text', label: 'Mast' } },
      pages: [
        {
          id: 'page',
          title: '',
          sections: [
            {
              id: 'rig',
              frame: 'none',
              labels: 'above',
              columns: 1,
              visible: sails,
              rows: [
                {
                  id: 'row',
                  cells: [
                    {
                      id: 'cell',
                      span: 12,
                      items: [{ id: 'mast', kind: 'field', field: 'mast', label: 'Mast', editor: 'line', lines: 1, required: true }],
                    },
                  ],
                },
              ],
            },
          ],
        },
      ],
    },
    { propulsion: 'diesel' },
    {},
    around,
  );
  expect(store.state('page').visible).toBe(false);
  expect(store.validate()).toBe(true);
  store.set('propulsion', 'sail');
  expect(store.state('page').visible).toBe(true);
  expect(store.validate()).toBe(false);
});
