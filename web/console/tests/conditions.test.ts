// @vitest-environment node
// @vitest-environment node
import { describe, expect, it } from 'vitest';
import type { FieldInfo } from '../src/api/client.ts';
import { operatorsOf, read, takesValue, write, type Clause } from '../src/features/designer/clauses.ts';
import { complete } from '../src/features/designer/completion.ts';

const field = (key: string, type: string, more: Partial<FieldInfo> = {}) =>
  ({
    key,
    label: key[0]!.toUpperCase() + key.slice(1),
    type,
    required: false,
    advised: false,
    unique: false,
    added: false,
    retired: false,
    writable: true,
    ...more,
  }) as FieldInfo;
const fields = [
  field('name', 'text'),
  field('length', 'decimal'),
  field('berths', 'integer'),
  field('lived', 'boolean'),
  field('until', 'date'),
  field('old', 'text', { retired: true }),
  field('extras', 'choices'),
  field('propulsion', 'choice', {
    choices: [
      { key: 'sail', label: 'Sail', retired: false },
      { key: 'oars', label: 'Oars', retired: false },
      { key: 'steam', label: 'Steam', retired: true },
    ],
  }),
];
const roles = [
  { key: 'quay-hand', label: 'Quay hand' },
  { key: 'auditor', label: 'Auditor' },
];
const get = (key: string) => ['get', ['name', 'record'], key];

describe('clauses', () => {
  // Each as it is clicked together, as it is written, and as it comes back compiled.
  const cases: [Clause, string, unknown][] = [
    [{ subject: 'propulsion', operator: 'is', value: 'sail' }, "record.propulsion == 'sail'", ['==', get('propulsion'), 'sail']],
    [{ subject: 'name', operator: 'isNot', value: "Gull's" }, "record.name != 'Gull\\'s'", ['!=', get('name'), "Gull's"]],
    [{ subject: 'length', operator: 'more', value: '12' }, 'record.length > 12.0', ['>', get('length'), 12]],
    [{ subject: 'berths', operator: 'atMost', value: '3' }, 'record.berths <= 3', ['<=', get('berths'), { int: '3' }]],
    [{ subject: 'name', operator: 'contains', value: 'tern' }, "record.name.contains('tern')", ['call', 'contains', get('name'), 'tern']],
    [{ subject: 'name', operator: 'begins', value: 'A' }, "record.name.startsWith('A')", ['call', 'startsWith', get('name'), 'A']],
    [{ subject: 'extras', operator: 'includes', value: 'vhf' }, "'vhf' in record.extras", ['in', 'vhf', get('extras')]],
    [{ subject: 'lived', operator: 'no', value: '' }, 'record.lived == false', ['==', get('lived'), false]],
    [{ subject: 'until', operator: 'past', value: '' }, 'record.until < today', ['<', get('until'), ['name', 'today']]],
    [{ subject: 'name', operator: 'empty', value: '' }, '!has(record.name)', ['not', ['has', ['name', 'record'], 'name']]],
    [
      { subject: 'roles', operator: 'isNoRole', value: 'auditor' },
      "!('auditor' in user.roles)",
      ['not', ['in', 'auditor', ['get', ['name', 'user'], 'roles']]],
    ],
  ];

  it.each(cases)('%o is written as %s and read back', (clause, text, tree) => {
    expect(write({ joined: '&&', list: [clause] }, fields)).toBe(text);
    expect(read(tree)).toEqual({ joined: '&&', list: [clause] });
  });

  it('joins several and keeps the order', () => {
    const both = ['||', ['||', cases[0]![2], cases[2]![2]], cases[9]![2]];
    expect(read(both)).toEqual({ joined: '||', list: [cases[0]![0], cases[2]![0], cases[9]![0]] });
    expect(write(read(both)!, fields)).toBe("record.propulsion == 'sail' || record.length > 12.0 || !has(record.name)");
  });

  it('leaves to the text what clauses cannot say', () => {
    for (const tree of [
      ['?', get('lived'), true, false],
      ['&&', cases[0]![2], ['||', cases[2]![2], cases[9]![2]]],
      ['==', get('name'), get('extras')],
      ['==', ['get', ['name', 'record'], 'berth.zone'], 'creek'],
      true,
    ])
      expect(read(tree)).toBeUndefined();
  });

  it('offers for each type only what can be written and read', () => {
    for (const { key, type } of fields.filter((each) => !each.retired)) {
      for (const [operator] of operatorsOf(type)) {
        const text = write({ joined: '&&', list: [{ subject: key, operator, value: takesValue(operator) ? '1' : '' }] }, fields);
        expect(text).toContain(`record.${key}`);
      }
    }
  });
});

describe('completing', () => {
  const offers = (text: string) => complete(text.replace('|', ''), text.indexOf('|'), fields, roles).offers.map((offer) => offer.text);

  it('offers fields after record. and none that are retired', () => {
    expect(offers('record.|')).toEqual(['name', 'length', 'berths', 'lived', 'until', 'extras', 'propulsion']);
    expect(offers('record.pro|')).toEqual(['propulsion']);
    expect(offers('has(record.le|')).toEqual(['length']);
  });

  it('finds a field by its label too', () => {
    expect(complete('record.Unt', 10, fields, roles).offers[0]?.text).toBe('until');
  });

  it('offers the choices of the field that is compared, closing the quote', () => {
    expect(offers("record.propulsion == '|")).toEqual(["sail'", "oars'"]);
    expect(offers("record.propulsion != 's|'")).toEqual(['sail']);
    expect(offers("mode == 'c|")).toEqual(["create'"]);
  });

  it('offers roles before in user.roles', () => {
    expect(offers("'q|' in user.roles")).toEqual(['quay-hand']);
  });

  it('offers names at the beginning and after an operator, and nothing inside a text or a number', () => {
    expect(offers('|')).toContain('record.');
    expect(offers("record.name == 'x' && |")).toContain('user.roles');
    expect(offers("record.name == 'rec|")).toEqual([]);
    expect(offers('record.length > 1|')).toEqual([]);
  });
});
