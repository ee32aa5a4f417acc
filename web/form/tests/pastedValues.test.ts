// @vitest-environment node
// @vitest-environment node
import { describe, expect, it } from 'vitest';
import { fromText, pastedCells } from '../src/values/pastedValues.ts';
import type { FieldType } from '../src/model/types.ts';

const read = (type: Partial<FieldType> & { type: string }, text: string, language = 'nl') =>
  fromText({ label: 'F', ...type } as FieldType, text, language, 'Europe/Amsterdam');

describe('cells on the clipboard', () => {
  it.each([
    [
      'a\tb\nc\td',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    ['a\r\n\r\nb', [['a'], [''], ['b']]],
    ['"two\nlines"\t"a ""b"""\nc', [['two\nlines', 'a "b"'], ['c']]],
    ['5" pipe\tx', [['5" pipe', 'x']]],
    ['\t\t', [['', '', '']]],
  ])('%j', (text, cells) => expect(pastedCells(text)).toEqual(cells));
});

describe('texts as values', () => {
  it.each([
    [{ type: 'decimal', unit: 'm' }, '12,5 m', 12.5],
    [{ type: 'money' }, '€ 1.250,50', 1250.5],
    [{ type: 'decimal' }, 'long', 'long'],
    [{ type: 'boolean' }, 'Nee', false],
    [{ type: 'boolean' }, 'perhaps', undefined],
    [{ type: 'choice', choices: [{ key: 'sail', label: 'Zeil' }] }, 'zeil', 'sail'],
    [{ type: 'choice', choices: [{ key: 'sail', label: 'Zeil' }] }, 'steam', undefined],
    [
      {
        type: 'choices',
        choices: [
          { key: 'a', label: 'Radar' },
          { key: 'b', label: 'Kraan' },
        ],
      },
      'Kraan; radar',
      ['b', 'a'],
    ],
    [{ type: 'date' }, '3-4-2026', '2026-04-03'],
    [{ type: 'date' }, '31-2-2026', undefined],
    [{ type: 'date' }, '2026/5/3', '2026-05-03'],
    [{ type: 'time' }, '9:05', '09:05'],
    [{ type: 'time' }, '25:00', undefined],
    [{ type: 'dateTime' }, '31-05-2026 14:30', '2026-05-31T12:30:00Z'],
    [{ type: 'dateTime' }, '2026-05-31T14:30:00Z', '2026-05-31T14:30:00Z'],
    [{ type: 'reference', target: 'berth' }, 'A12', undefined],
    [{ type: 'text' }, ' as it is ', ' as it is '],
    [{ type: 'date' }, '  ', null],
  ] as const)('%j %s', (type, text, value) => expect(read(type as never, text)).toEqual(value));

  it('takes no day of two in English, and the one that can be meant', () => {
    expect([
      read({ type: 'date' }, '3/4/2026', 'en'),
      read({ type: 'date' }, '31/4/2026', 'en'),
      read({ type: 'date' }, '5/31/2026', 'en'),
      read({ type: 'date' }, '4/4/2026', 'en'),
    ]).toEqual([undefined, undefined, '2026-05-31', '2026-04-04']);
  });
});
