import { fireEvent, screen, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { place } from '../src/dom/dom.ts';
import { tabStops } from '../src/drawing/tabOrder.ts';
import type { FieldItem, ResolvedForm, Values } from '../src/model/types.ts';
import { around, sail, field, row, section, page, shown, node, control } from './forms.ts';

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
