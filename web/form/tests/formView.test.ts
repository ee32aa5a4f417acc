import { fireEvent, screen } from '@testing-library/dom';
import { describe, expect, it } from 'vitest';
import { draw } from './draw.ts';
import { contentOf } from '../src/model/content.ts';
import { FormStore } from '../src/state/store.ts';
import type { Content, FieldItem, Item, Page, ResolvedForm, FormHost, Values } from '../src/model/types.ts';

const around: FormHost = {
  userId: 'ada',
  roles: [],
  timeZone: 'Europe/Amsterdam',
  now: () => new Date('2026-11-23T09:00:00Z'),
  lookUp: () => Promise.resolve([]),
  upload: () => Promise.resolve(''),
  fileAddress: (value) => `/files/${value}`,
};
const field = (name: string, more: Partial<FieldItem> = {}): FieldItem => ({
  id: name,
  kind: 'field',
  field: name,
  label: `The ${name}`,
  editor: 'line',
  lines: 1,
  ...more,
});
const page = (id: string, ...items: Item[]): Page => ({
  id,
  title: `Page ${id}`,
  sections: [
    {
      id: `${id}Section`,
      frame: 'none',
      labels: 'above',
      columns: 1,
      rows: [{ id: `${id}Row`, cells: [{ id: `${id}Cell`, span: 12, items }] }],
    },
  ],
});
const form = (more: Partial<ResolvedForm>): ResolvedForm => ({
  layout: 'agreement',
  entity: 'agreement',
  kind: 'full',
  mode: 'edit',
  language: 'en',
  title: 'Agreement',
  width: 'full',
  density: 'roomy',
  marks: 'none',
  arrangement: 'stack',
  pages: [],
  fields: { number: { type: 'text', label: 'Number' }, vessel: { type: 'text', label: 'Vessel' }, from: { type: 'date', label: 'From' } },
  ...more,
});
const shown = (of: ResolvedForm, values: Values = {}) => {
  const store = new FormStore(of, values, {}, around);
  draw(store);
  return store;
};

describe('the four arrangements', () => {
  it('goes through steps, and a guarded one lets on only when it is right', () => {
    shown(
      form({ arrangement: 'steps', guarded: true, pages: [page('a', field('number', { required: true })), page('b', field('vessel'))] }),
    );
    fireEvent.click(screen.getByRole('button', { name: 'Next' }));
    expect(screen.getByText('The number is required.')).toBeTruthy();
    fireEvent.input(screen.getByLabelText(/The number/), { target: { value: 'M-1' } });
    fireEvent.click(screen.getByRole('button', { name: 'Next' }));
    expect(screen.getByLabelText('The vessel')).toBeTruthy();
    expect(screen.getByText('Step 2 of 2')).toBeTruthy();
  });

  it('opens one fold at a time', () => {
    shown(form({ arrangement: 'accordion', pages: [page('a', field('number')), page('b', field('vessel'))] }));
    expect(screen.queryByLabelText('The vessel')).toBeNull();
    fireEvent.click(screen.getByText('Page b'));
    expect(screen.getByLabelText('The vessel')).toBeTruthy();
    expect(screen.queryByLabelText('The number')).toBeNull();
  });

  it('keeps the page of a panel inside a cell to itself', () => {
    shown(
      form({
        pages: [
          page('outer', {
            id: 'panel',
            kind: 'panel',
            arrangement: 'tabs',
            pages: [page('x', field('number')), page('y', field('vessel'))],
          }),
        ],
      }),
    );
    fireEvent.click(screen.getByRole('tab', { name: 'Page y' }));
    expect(screen.getByLabelText('The vessel')).toBeTruthy();
  });
});

it('draws formatted text with the values of the record, and no markup of its own', () => {
  shown(
    form({
      pages: [
        page('a', {
          id: 'note',
          kind: 'text',
          content: '',
          blocks: [
            { kind: 'paragraph', lines: [[{ text: 'For ' }, { kind: 'strong', text: '{vessel}' }, { text: ' <b>' }]] },
            { kind: 'list', lines: [[{ text: 'one' }]] },
          ],
        }),
      ],
    }),
    { vessel: '<i>Kittiwake</i>' },
  );
  expect(screen.getByText('<i>Kittiwake</i>').tagName).toBe('STRONG');
  expect(screen.getByText('one').tagName).toBe('LI');
});

it('sets what an action says, worked out from the record', () => {
  const store = shown(
    form({
      pages: [
        page('a', field('vessel'), {
          id: 'now',
          kind: 'action',
          does: 'set',
          label: 'From today',
          values: { from: ['name', 'today'], vessel: ['+', ['get', ['name', 'record'], 'number'], '!'] },
        }),
      ],
    }),
    { number: 'M-1' },
  );
  fireEvent.click(screen.getByRole('button', { name: 'From today' }));
  expect([store.get('from'), store.get('vessel')]).toEqual(['2026-11-23', 'M-1!']);
});

it('puts values into addresses so that they cannot lead elsewhere', () => {
  shown(form({ pages: [page('a', { id: 'map', kind: 'link', address: 'https://quay.example/{number}/map', label: 'Map' })] }), {
    number: '../../evil?x=',
  });
  expect(screen.getByRole('link', { name: 'Map' }).getAttribute('href')).toBe('https://quay.example/..%2F..%2Fevil%3Fx%3D/map');
});

describe('width variants', () => {
  const base = form({
    pages: [page('a', field('number')), page('b', field('vessel'))],
    variants: [
      {
        name: 'narrow',
        from: 0,
        below: 40,
        arrangement: 'stack',
        pages: [{ ...page('a', field('number', { label: 'No.' })) }, { same: 'b' }],
      },
    ],
  });

  it('shares with the base what is the same there', () => {
    const narrow: Content = contentOf(base, 30);
    expect(narrow.pages[1]).toBe(base.pages[1]);
    expect(contentOf(base, 50)).toBe(base);
  });

  it('switches live and keeps what is typed', () => {
    const store = new FormStore(base, {}, {}, around);
    store.set('number', 'M-7');
    store.setWidth(30);
    expect((store.content.pages[0]!.sections[0]!.rows[0]!.cells[0]!.items[0] as FieldItem).label).toBe('No.');
    store.setWidth(60);
    expect([store.content, store.get('number')]).toEqual([base, 'M-7']);
  });
});

it('keeps a condition that steps through a reference closed until the record is here', async () => {
  const stepping = form({
    pages: [
      page('a', field('number', { visible: { when: ['==', ['get', ['name', 'record'], 'berth.zone'], 'outer'], reads: ['berth.zone'] } })),
    ],
    fields: { number: { type: 'text', label: 'Number' }, berth: { type: 'reference', label: 'Berth', target: 'berth' } },
    steps: { 'berth.zone': 'text' },
  });
  const store = new FormStore(
    stepping,
    {},
    {},
    { ...around, read: (entity, id) => Promise.resolve({ zone: entity === 'berth' && id === 3 ? 'outer' : 'inner' }) },
  );
  expect(store.state('number').visible).toBe(false);
  store.set('berth', 3);
  expect(store.state('number').visible).toBe(false);
  await Promise.resolve();
  await Promise.resolve();
  expect(store.state('number').visible).toBe(true);
});
