import { expect, it } from 'vitest';
import { defaults } from '../src/values/values.ts';
import { field, formOf, page, row, section } from './forms.ts';

it('begins a new record with what the form says, otherwise with what the entity does', () => {
  const types = { length: 'decimal', propulsion: 'choice', aboard: 'boolean', equipment: 'choices', name: 'text' };
  const items = [
    field('length', { default: '9.5' }),
    field('propulsion'),
    field('aboard', { default: 'true' }),
    field('equipment', { default: 'vhf|lifeRaft' }),
  ];
  const fields = Object.fromEntries(
    Object.entries(types).map(([key, type]) => [
      key,
      { type, label: key, ...(key === 'propulsion' || key === 'length' ? { default: key === 'length' ? '7' : 'sail' } : {}) },
    ]),
  );
  const form = formOf({ pages: [page('main', section('first', [row('r', ...items)]))] }, { mode: 'create', fields });
  expect(defaults(form)).toEqual({ length: 9.5, propulsion: 'sail', aboard: true, equipment: ['vhf', 'lifeRaft'] });
});
