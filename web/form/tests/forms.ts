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

export const around: FormHost = {
  userId: 'ada',
  roles: [],
  timeZone: 'Europe/Amsterdam',
  now: () => new Date('2026-11-23T09:00:00Z'),
  lookUp: () => Promise.resolve([]),
  upload: () => Promise.resolve('hash/deck.png'),
  fileAddress: (value) => `/files/${value}`,
};
export const sail: Decision = { when: ['==', ['get', ['name', 'record'], 'propulsion'], 'sail'], reads: ['propulsion'] };
export const field = (id: string, more: Partial<FieldItem> = {}): FieldItem => ({
  id,
  kind: 'field',
  field: id,
  label: `The ${id}`,
  editor: 'line',
  lines: 1,
  ...more,
});
export const row = (id: string, ...items: Item[]): Row => ({
  id,
  cells: items.map((item) => ({ id: `${item.id}Cell`, span: 6, shares: true, items: [item] })),
});
export const section = (id: string, rows: Row[], more: Partial<Section> = {}): Section => ({
  id,
  title: `Section ${id}`,
  frame: 'none',
  labels: 'above',
  columns: 1,
  rows,
  ...more,
});
export const page = (id: string, ...sections: Section[]): Page => ({ id, title: `Page ${id}`, sections });

export const types: Record<string, FieldType> = Object.fromEntries(
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

export const formOf = (content: Partial<Content>, more: Partial<ResolvedForm> = {}): ResolvedForm => ({
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

export const shown = (content: Partial<Content>, values: Values = {}, more: Partial<ResolvedForm> = {}, host = around) => {
  const store = new FormStore(formOf(content, more), values, {}, host);
  return { store, drawing: draw(store) };
};

export const node = (id: string) => document.querySelector<HTMLElement>(`[data-node="${id}"]`);
export const control = (id: string) => document.querySelector<HTMLInputElement>(`[data-field="${id}"] :is(input, select, textarea)`)!;
