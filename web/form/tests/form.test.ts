import { screen, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { draw } from './draw.ts';
import { FormStore, share } from '../src/index.ts';
import type { ResolvedForm, FormHost, Values } from '../src/model/types.ts';

const around: FormHost = {
  userId: 'ada',
  roles: [],
  timeZone: 'Europe/Amsterdam',
  now: () => new Date(),
  fileAddress: (value) => value,
  upload: () => Promise.resolve('hash/name.png'),
  lookUp: (_, text) =>
    Promise.resolve(
      [
        { id: 1, title: 'Marit Reed' },
        { id: 2, title: 'Tobias Fenn' },
      ].filter((name) => name.title.includes(text)),
    ),
};

const editors: [string, string, unknown?][] = [
  ['text', 'line'],
  ['longText', 'lines'],
  ['integer', 'number'],
  ['decimal', 'number'],
  ['money', 'money'],
  ['boolean', 'check'],
  ['date', 'date'],
  ['time', 'time'],
  ['dateTime', 'date-time'],
  ['choice', 'select'],
  ['choices', 'checks'],
  ['reference', 'look-up'],
  ['email', 'e-mail'],
  ['phone', 'phone'],
  ['url', 'web-address'],
  ['image', 'image'],
  ['file', 'file'],
  ['rating', 'stars'],
];

function formOf(fields: [string, string, string][], mode: ResolvedForm['mode'] = 'edit'): ResolvedForm {
  return {
    layout: 'trial',
    entity: 'trial',
    kind: 'full',
    density: 'roomy',
    mode,
    language: 'en',
    title: 'Trial',
    width: 'full',
    marks: 'required',
    arrangement: 'stack',
    top: { id: 'top', text: '{a}, {b}', empty: 'New', tone: 'plain' },
    pages: [
      {
        id: 'page',
        title: 'Page',
        sections: [
          {
            id: 'section',
            title: 'Section',
            frame: 'none',
            labels: 'above',
            columns: 1,
            rows: fields.map(([field, , editor]) => ({
              id: `${field}Row`,
              cells: [
                { id: `${field}Cell`, span: 12, items: [{ id: field, kind: 'field', field, label: `The ${field}`, editor, lines: 1 }] },
              ],
            })),
          },
        ],
      },
    ],
    fields: Object.fromEntries(
      fields.map(([field, type]) => [
        field,
        {
          type,
          label: field,
          target: 'keeper',
          choices: [
            { key: 'sail', label: 'Sail' },
            { key: 'old', label: 'Old', retired: true },
          ],
          scale: 2,
        },
      ]),
    ),
  };
}

const open = (fields: [string, string, string][], values: Values = {}, mode?: ResolvedForm['mode']) => {
  const store = new FormStore(formOf(fields, mode), values, {}, around);
  draw(store);
  return store;
};

it('draws an editor with a name for every type', () => {
  open(editors.map(([type, editor]) => [type, type, editor]));
  for (const [type, editor] of editors) {
    const found = document.querySelectorAll(`[data-field="${type}"] :is(input, select, textarea)`);
    expect(found.length, `${type} by ${editor}`).toBeGreaterThan(0);
    const named =
      screen.queryByLabelText(`The ${type}`) ??
      screen.queryByRole('group', { name: `The ${type}` }) ??
      screen.queryByRole('radiogroup', { name: `The ${type}` });
    expect(named, type).not.toBeNull();
  }
});

it('keeps what is no number in view and says so on leaving', async () => {
  const store = open([['a', 'decimal', 'number']]);
  const input = screen.getByLabelText('The a');
  await userEvent.type(input, 'nine');
  expect(screen.queryByText(/must be a number/)).toBeNull();
  await userEvent.tab();
  expect(screen.getByText('The a must be a number.')).toBeTruthy();
  expect((input as HTMLInputElement).value).toBe('nine');
  await userEvent.clear(input);
  await userEvent.type(input, '9.5');
  expect(store.get('a')).toBe(9.5);
});

it('shows a third state for a boolean that nobody has answered', async () => {
  const store = open([['a', 'boolean', 'check']]);
  const box = screen.getByRole('checkbox') as HTMLInputElement;
  expect(box.indeterminate).toBe(true);
  await userEvent.click(box);
  expect(store.get('a')).toBe(true);
});

it('offers retired choices only to records that have one', () => {
  open(
    [
      ['a', 'choice', 'select'],
      ['b', 'choice', 'select'],
    ],
    { b: 'old' },
  );
  expect(within(screen.getByLabelText('The a')).queryByText('Old')).toBeNull();
  expect(within(screen.getByLabelText('The b')).queryByText('Old')).not.toBeNull();
});

it('looks a record up with the keyboard alone', async () => {
  const store = open([['a', 'reference', 'look-up']]);
  await userEvent.type(screen.getByRole('combobox'), 'Fenn');
  await screen.findByRole('option', { name: 'Tobias Fenn' });
  await userEvent.keyboard('{Enter}');
  expect(store.get('a')).toBe(2);
  expect((screen.getByRole('combobox') as HTMLInputElement).value).toBe('Tobias Fenn');
});

it('lets the band follow what is typed, without stray separators', async () => {
  open([
    ['a', 'text', 'line'],
    ['b', 'text', 'line'],
  ]);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('New');
  await userEvent.type(screen.getByLabelText('The a'), 'Curlew');
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Curlew');
});

it('shows hostile text as text', () => {
  open([['a', 'text', 'line']], { a: '<img src=x onerror=alert(1)>' }, 'view');
  expect(document.querySelector('img')).toBeNull();
  expect(screen.getByRole('group', { name: 'The a' }).textContent).toBe('<img src=x onerror=alert(1)>');
});

it('shares a row among the cells that are shown, as the service does', () => {
  const { cases } = JSON.parse(readFileSync(join(process.cwd(), '../tests/vectors/spans.json'), 'utf8')) as {
    cases: { written: (number | null)[]; gives: { units: number[] } }[];
  };
  expect(cases.length).toBeGreaterThan(400);
  for (const { written, gives } of cases)
    expect(share(written.map((span) => (span === null ? { span: 1, shares: true } : { span })))).toEqual(gives.units);
});

it.each([
  ['edit', 'phone', 'phone'],
  ['view', 'phone', 'phone'],
  ['edit', 'decimal', 'number'],
  ['edit', 'choice', 'select'],
] as const)('draws a prefix before the value, and tells it with the field: %s, %s', (mode, type, editor) => {
  const form = formOf(
    [
      ['a', type, editor],
      ['b', 'text', 'line'],
    ],
    mode,
  );
  const [first] = form.pages[0]!.sections[0]!.rows[0]!.cells[0]!.items;
  Object.assign(first!, { prefix: '+31' });
  const store = new FormStore(form, { a: type === 'decimal' ? 4 : type === 'choice' ? 'sail' : '612345678' }, {}, around);
  draw(store);
  const field = document.querySelector('[data-field="a"]')!;
  const prefix = field.querySelector('.bt-prefix')!;
  expect(prefix.textContent).toBe('+31');
  expect(prefix.compareDocumentPosition(field.querySelector('input, select, .bt-output')!) & Node.DOCUMENT_POSITION_FOLLOWING).toBeTruthy();
  if (mode === 'edit') expect(field.querySelector('input, select')!.getAttribute('aria-describedby')).toBe(prefix.id);
  expect(document.querySelector('[data-field="b"] .bt-prefix')).toBeNull();
  expect(String(store.get('a')), 'is no part of what is stored').not.toContain('+31');
});
