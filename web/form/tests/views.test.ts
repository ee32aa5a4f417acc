import { fireEvent, screen, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { place } from '../src/dom/dom.ts';
import { ErrorSummary } from '../src/drawing/summary.ts';
import { tabStops } from '../src/drawing/tabOrder.ts';
import { FormStore } from '../src/state/store.ts';
import type {
  Content,
  Decision,
  FieldItem,
  FieldType,
  Item,
  Page,
  ResolvedForm,
  Row,
  Section,
  FormHost,
  Values,
} from '../src/model/types.ts';
import { draw } from './draw.ts';

const around: FormHost = {
  userId: 'ada',
  roles: [],
  timeZone: 'Europe/Amsterdam',
  now: () => new Date('2026-11-23T09:00:00Z'),
  lookUp: () => Promise.resolve([]),
  upload: () => Promise.resolve('hash/deck.png'),
  fileAddress: (value) => `/files/${value}`,
};
const sail: Decision = { when: ['==', ['get', ['name', 'record'], 'propulsion'], 'sail'], reads: ['propulsion'] };
const field = (id: string, more: Partial<FieldItem> = {}): FieldItem => ({
  id,
  kind: 'field',
  field: id,
  label: `The ${id}`,
  editor: 'line',
  lines: 1,
  ...more,
});
const row = (id: string, ...items: Item[]): Row => ({
  id,
  cells: items.map((item) => ({ id: `${item.id}Cell`, span: 6, shares: true, items: [item] })),
});
const section = (id: string, rows: Row[], more: Partial<Section> = {}): Section => ({
  id,
  title: `Section ${id}`,
  frame: 'none',
  labels: 'above',
  columns: 1,
  rows,
  ...more,
});
const page = (id: string, ...sections: Section[]): Page => ({ id, title: `Page ${id}`, sections });

const types: Record<string, FieldType> = Object.fromEntries(
  Object.entries({
    name: 'text',
    code: 'text',
    propulsion: 'choice',
    mast: 'decimal',
    length: 'decimal',
    notes: 'longText',
    aboard: 'boolean',
    photo: 'image',
    equipment: 'choices',
    rating: 'rating',
    hours: 'integer',
  }).map(([key, type]): [string, FieldType] => [
    key,
    {
      type,
      label: key,
      scale: 2,
      ...(type.startsWith('choice')
        ? {
            choices: [
              { key: 'sail', label: 'Sail' },
              { key: 'diesel', label: 'Diesel' },
              { key: 'electric', label: 'Électrique' },
            ],
          }
        : {}),
    },
  ]),
);

const formOf = (content: Partial<Content>, more: Partial<ResolvedForm> = {}): ResolvedForm => ({
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
  fields: types,
  pages: [],
  ...content,
  ...more,
});

const shown = (content: Partial<Content>, values: Values = {}, more: Partial<ResolvedForm> = {}, host = around) => {
  const store = new FormStore(formOf(content, more), values, {}, host);
  return { store, drawing: draw(store) };
};

const node = (id: string) => document.querySelector<HTMLElement>(`[data-node="${id}"]`);
const control = (id: string) => document.querySelector<HTMLInputElement>(`[data-field="${id}"] :is(input, select, textarea)`)!;

describe('what is hidden leaves no hole', () => {
  const content = {
    pages: [
      page(
        'a',
        section('identity', [row('r1', field('name'), field('mast', { visible: sail })), row('r2', field('length', { visible: sail }))]),
        section('rig', [row('r3', field('code', { visible: sail }))]),
      ),
      page('b', section('care', [row('r4', field('notes', { visible: sail }))])),
    ],
    arrangement: 'tabs' as const,
  };

  it('in its row, its row in the section, the section on its page, the page among the tabs', () => {
    const { store } = shown(content, { propulsion: 'diesel' });
    expect([node('mastCell'), node('r2'), node('rig')]).toEqual([null, null, null]);
    expect(node('nameCell')!.style.gridColumn).toBe('span 12');
    expect(screen.getAllByRole('tab').map((tab) => tab.textContent)).toEqual(['Page a']);
    store.set('propulsion', 'sail');
    expect(node('nameCell')!.style.gridColumn).toBe('span 6');
    expect([...node('a')!.querySelectorAll('.bt-row')].map((each) => (each as HTMLElement).dataset['node'])).toEqual(['r1', 'r2', 'r3']);
    expect(screen.getAllByRole('tab')).toHaveLength(2);
  });

  it('and comes back where it was, with what was typed, while the focus stays in what stayed', async () => {
    const { store } = shown(content, { propulsion: 'sail' });
    await userEvent.type(control('mast'), '12');
    const name = control('name');
    name.focus();
    store.set('propulsion', 'diesel');
    expect(document.activeElement).toBe(name);
    store.set('propulsion', 'sail');
    expect(document.activeElement).toBe(name);
    expect(control('mast').value).toBe('12');
    expect([...node('r1')!.children].map((each) => (each as HTMLElement).dataset['node'])).toEqual(['nameCell', 'mastCell']);
  });
});

describe('another version of the form', () => {
  const before = { pages: [page('a', section('identity', [row('r1', field('name'), field('code'))]))] };

  it('keeps the elements of what is the same in it, and the place of whoever types', () => {
    const { store } = shown(before, { name: 'Dunlin' });
    const [name, code] = [control('name'), control('code')];
    name.focus();
    name.setSelectionRange(2, 4);
    store.replaceForm(
      formOf({
        pages: [
          page(
            'a',
            section('identity', [row('r0', field('length')), row('r1', field('name'), field('code', { label: 'Code of the yard' }))]),
          ),
        ],
      }),
    );
    expect(control('name')).toBe(name);
    expect([document.activeElement, name.selectionStart, name.selectionEnd]).toEqual([name, 2, 4]);
    expect(control('code')).not.toBe(code);
    expect(screen.getByLabelText('Code of the yard')).toBe(control('code'));
  });

  it('takes the focus along where what one types in is made anew', () => {
    const { store } = shown(before, { name: 'Dunlin' });
    control('name').focus();
    control('name').setSelectionRange(3, 3);
    store.replaceForm(
      formOf({ pages: [page('a', section('other', [row('elsewhere', field('name', { help: 'As painted on the stern' }))]))] }),
    );
    const again = control('name');
    expect([document.activeElement, again.value, again.selectionStart]).toEqual([again, 'Dunlin', 3]);
    expect(again.getAttribute('aria-describedby')).toBe(screen.getByText('As painted on the stern').id);
  });

  it('is drawn from another store in the same place', () => {
    const { drawing, store } = shown(before, { name: 'Dunlin' });
    const name = control('name');
    drawing.use(new FormStore(formOf(before), { name: 'Curlew' }, {}, around));
    expect([control('name'), name.value]).toEqual([name, 'Curlew']);
    store.set('name', 'nobody sees this');
    expect(name.value).toBe('Curlew');
  });
});

it('makes an editor only once a field is touched, and takes in what was typed at once', () => {
  const { store, drawing } = shown({ pages: [page('a', section('s', [row('r', field('name'), field('length', { editor: 'number' }))]))] });
  expect(drawing.asleep.size).toBe(2);
  fireEvent.input(control('length'), { target: { value: '9,5' } });
  expect(store.get('length')).toBe(9.5);
  expect(drawing.asleep.size).toBe(1);
  store.set('name', 'Dunlin');
  expect(control('name').value).toBe('Dunlin');
  expect(drawing.asleep.size).toBe(0);
});

describe('what stands against saving', () => {
  const content = {
    arrangement: 'tabs' as const,
    pages: [
      page('a', section('s', [row('r', field('name', { required: true }))])),
      page('b', section('t', [row('q', field('code', { required: true }))])),
    ],
  };

  it('is said at its field, at its tab and in a summary that leads there', () => {
    const { store } = shown(content);
    const lead = vi.fn();
    const summary = new ErrorSummary(store, lead);
    document.body.append(summary.element);
    expect(store.validate()).toBe(false);
    const name = screen.getByRole('textbox', { name: /The name/ });
    expect([name.getAttribute('aria-invalid'), document.getElementById(name.getAttribute('aria-describedby')!)!.textContent]).toEqual([
      'true',
      'The name is required.',
    ]);
    expect(screen.getAllByRole('tab').map((tab) => tab.querySelector('.bt-tab-alert') !== null)).toEqual([true, true]);
    fireEvent.click(within(screen.getByRole('alert')).getByRole('button', { name: 'The code is required.' }));
    expect(lead).toHaveBeenCalledWith('code', 'code');
    fireEvent.input(name, { target: { value: 'Dunlin' } });
    expect([name.getAttribute('aria-invalid'), name.getAttribute('aria-describedby')]).toEqual([null, null]);
    expect(within(screen.getByRole('alert')).getAllByRole('button')).toHaveLength(1);
    summary.dispose();
  });

  it('is announced once, not with every keystroke', () => {
    const { store } = shown(content);
    const summary = new ErrorSummary(store, () => undefined);
    store.validate();
    const said = summary.element.firstChild;
    store.set('notes', 'something else');
    expect(summary.element.firstChild).toBe(said);
  });
});

describe('marks', () => {
  const content = { pages: [page('a', section('s', [row('r', field('name', { required: true }), field('code'))]))] };
  it('what is required, or what is optional, or neither', () => {
    shown(content, {}, { marks: 'required' });
    expect([document.querySelectorAll('.bt-required').length, document.querySelectorAll('.bt-optional').length]).toEqual([1, 0]);
    document.body.replaceChildren();
    shown(content, {}, { marks: 'optional' });
    expect(node('code')!.querySelector('.bt-label')!.textContent).toBe('The code (optional)');
  });
});

describe('editors', () => {
  const one = (item: FieldItem, values: Values = {}, more: Partial<ResolvedForm> = {}, host = around) =>
    shown({ pages: [page('a', section('s', [row('r', item)]))] }, values, more, host);

  it('find one of many choices by a part of its name, accents or none', async () => {
    const { store } = one(field('propulsion', { editor: 'search' }));
    await userEvent.type(screen.getByRole('combobox', { name: 'The propulsion' }), 'elec');
    expect((await screen.findAllByRole('option')).map((option) => option.textContent)).toEqual(['Électrique']);
    await userEvent.keyboard('{Enter}');
    expect([store.get('propulsion'), control('propulsion').value]).toEqual(['electric', 'Électrique']);
    await userEvent.click(screen.getByRole('button', { name: 'Clear' }));
    expect(store.get('propulsion')).toBeNull();
  });

  it('leave an open list with Escape, and nothing is lost', async () => {
    const { store } = one(field('propulsion', { editor: 'search' }), { propulsion: 'sail' });
    await userEvent.type(control('propulsion'), 'x');
    expect(await screen.findAllByText('Nothing found')).toHaveLength(2);
    await userEvent.keyboard('{Escape}');
    expect([control('propulsion').value, store.get('propulsion'), screen.queryByRole('listbox')]).toEqual(['Sail', 'sail', null]);
  });

  it('say what a slider stands at, within the bounds of the layout', () => {
    const { store } = one(field('hours', { editor: 'slider', min: 2, max: 8, step: 2 }));
    const slider = screen.getByRole('slider') as HTMLInputElement;
    expect([slider.min, slider.max, slider.step, document.querySelector('output')!.textContent]).toEqual(['2', '8', '2', '–']);
    fireEvent.input(slider, { target: { value: '6' } });
    expect([store.get('hours'), slider.getAttribute('aria-valuetext')]).toEqual([6, '6']);
  });

  it('tick several of several in their order, and none is empty', async () => {
    const { store } = one(field('equipment', { editor: 'checks' }), { equipment: ['diesel'] });
    await userEvent.click(screen.getByRole('checkbox', { name: 'Sail' }));
    expect(store.get('equipment')).toEqual(['sail', 'diesel']);
    await userEvent.click(screen.getByRole('checkbox', { name: 'Sail' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Diesel' }));
    expect(store.get('equipment')).toBeNull();
  });

  it('offer that nobody has said, unless something must be', () => {
    one(field('aboard', { editor: 'yes-no' }));
    expect(screen.getAllByRole('radio')).toHaveLength(3);
    document.body.replaceChildren();
    one(field('aboard', { editor: 'yes-no', required: true }));
    expect(screen.getAllByRole('radio')).toHaveLength(2);
  });

  it('give stars, and take them back', async () => {
    const { store } = one(field('rating', { editor: 'stars' }), { rating: 2 });
    await userEvent.click(screen.getByRole('radio', { name: '4 of 5' }));
    expect(store.get('rating')).toBe(4);
    await userEvent.click(screen.getByRole('button', { name: 'Clear' }));
    expect(store.get('rating')).toBeNull();
    expect(document.activeElement).toBe(screen.getByRole('radio', { name: '1 of 5' }));
  });

  it('store a picture, show it, and say why one could not be stored', async () => {
    let refuse = false;
    const { store } = one(
      field('photo', { editor: 'image' }),
      {},
      {},
      { ...around, upload: () => (refuse ? Promise.reject(new Error('It is no picture.')) : Promise.resolve('hash/deck.png')) },
    );
    const file = new File(['x'], 'deck.png', { type: 'image/png' });
    await userEvent.upload(control('photo'), file);
    expect(await screen.findByRole('img', { name: 'deck.png' })).toBeTruthy();
    expect(store.get('photo')).toBe('hash/deck.png');
    refuse = true;
    await userEvent.upload(control('photo'), file);
    expect((await screen.findByRole('alert')).textContent).toContain('It is no picture.');
    expect(store.get('photo')).toBe('hash/deck.png');
  });

  it('check the spelling where the layout says so', () => {
    one(field('notes', { editor: 'lines', lines: 4, spellCheck: false }));
    expect([control('notes').getAttribute('spellcheck'), control('notes').getAttribute('rows')]).toEqual(['false', '4']);
  });
});

it('goes down the columns with Tab where a section says so, and over a group of buttons as one', () => {
  const { drawing } = shown({
    pages: [
      page(
        'a',
        section('s', [row('r1', field('aboard', { editor: 'yes-no' }), field('name')), row('r2', field('code'), field('length'))], {
          tabOrder: 'columns',
        }),
      ),
    ],
  });
  // What a page lays out, here said by hand: two columns.
  for (const cell of document.querySelectorAll<HTMLElement>('.bt-cell'))
    cell.getBoundingClientRect = () =>
      ({ left: ['aboardCell', 'codeCell'].includes(cell.dataset['node']!) ? 0 : 300, right: 300 }) as DOMRect;
  for (const stop of document.querySelectorAll<HTMLElement>('input')) stop.getClientRects = () => [{}] as unknown as DOMRectList;
  expect(tabStops(drawing.element).map((stop) => stop.closest<HTMLElement>('[data-field]')!.dataset['field'])).toEqual([
    'aboard',
    'code',
    'name',
    'length',
  ]);
});

it('shows a band with the picture and actions of the record, and sides that go when they are hidden', () => {
  const { store } = shown(
    {
      top: {
        id: 'top',
        text: '{name}',
        empty: 'New',
        tone: 'quiet',
        picture: 'photo',
        items: [{ id: 'sign', kind: 'action', does: 'set', label: 'Sign', side: 'end', values: { name: 'Signed' }, visible: sail }],
      },
      end: {
        id: 'aside',
        share: 3,
        visible: sail,
        sections: [
          section('advice', [
            row('r', { id: 'words', kind: 'text', content: '', blocks: [{ kind: 'paragraph', lines: [[{ text: 'Ring {name}' }]] }] }),
          ]),
        ],
      },
      pages: [page('a', section('s', [row('q', field('name'))]))],
    },
    { photo: 'hash/deck.png', propulsion: 'sail', name: 'Dunlin' },
  );
  expect([document.querySelector('.bt-band-picture')!.getAttribute('src'), node('words')!.textContent]).toEqual([
    '/files/hash/deck.png',
    'Ring Dunlin',
  ]);
  fireEvent.click(screen.getByRole('button', { name: 'Sign' }));
  expect([document.querySelector('.bt-band-text')!.textContent, node('words')!.textContent]).toEqual(['Signed', 'Ring Signed']);
  store.set('propulsion', 'diesel');
  expect([node('aside'), node('sign')]).toEqual([null, null]);
});

it('folds a section that can be, once and as its title says', () => {
  shown({
    pages: [page('a', section('s', [row('r', field('name'))], { collapsible: true, collapsed: true, description: 'What she is called' }))],
  });
  const fold = node('s') as HTMLDetailsElement;
  expect([fold.tagName, fold.open, within(fold).getByRole('heading', { name: 'Section s' }).tagName]).toEqual(['DETAILS', false, 'H2']);
});

it('deepens headings by what they stand under', () => {
  shown({
    pages: [
      page(
        'a',
        section('s', [
          row(
            'r',
            { id: 'head', kind: 'heading', content: 'Below' },
            { id: 'panel', kind: 'panel', arrangement: 'stack', pages: [page('x', section('inner', [row('q', field('name'))]))] },
          ),
        ]),
      ),
      page('b', section('t', [row('z', field('code'))])),
    ],
  });
  expect([...document.querySelectorAll('h1, h2, h3, h4, h5, h6')].map((each) => `${each.tagName} ${each.textContent}`)).toEqual([
    'H2 Page a',
    'H3 Section s',
    'H4 Below',
    'H4 Section inner',
    'H2 Page b',
    'H3 Section t',
  ]);
});

it('moves no element that can stay', () => {
  const list = document.createElement('ul');
  const item = (name: string) => Object.assign(document.createElement('li'), { textContent: name });
  const [a, b, c, d] = [item('a'), item('b'), item('c'), item('d')];
  place(list, [a, b, c]);
  const moved: Node[] = [];
  const insert = list.insertBefore.bind(list);
  list.insertBefore = <T extends Node>(added: T, before: Node | null): T => {
    moved.push(added);
    return insert(added, before);
  };
  place(list, [a, c, d]);
  expect([list.textContent, moved]).toEqual(['acd', [d]]);
  place(list, [a, c, d]);
  expect(moved).toEqual([d]);
});
