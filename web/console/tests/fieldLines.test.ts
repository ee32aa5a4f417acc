import { beforeAll, describe, expect, it } from 'vitest';
import { readLines } from '../src/features/documents/fieldLines.ts';
import { loadTexts } from '../src/shell/configurator/texts.ts';

const entities = [{ key: 'keeper', label: 'Keeper', plural: 'Keepers' }];
const read = (text: string) => readLines(text, entities);

describe('fields as lines', () => {
  beforeAll(() => loadTexts('en'));

  it('have a label and a type, in whatever way they are parted', () => {
    expect(read('Draught, decimal\nBuilt;date\nName\ttext\nRemarks')).toMatchObject([
      { label: 'Draught', required: false, type: 'decimal' },
      { label: 'Built', required: false, type: 'date' },
      { label: 'Name', required: false, type: 'text' },
      { label: 'Remarks', required: false, type: 'text' },
    ]);
  });

  it('say with a star what every record must have', () => {
    expect(read('Mooring*, integer')).toMatchObject([{ label: 'Mooring', required: true, type: 'integer' }]);
  });

  it('list choices, one or several of which are taken', () => {
    expect(read('State, good | worn\nGear, choices, anchor | rope |')).toMatchObject([
      { label: 'State', required: false, type: 'choice', choices: ['good', 'worn'] },
      { label: 'Gear', required: false, type: 'choices', choices: ['anchor', 'rope'] },
    ]);
  });

  it('name what a reference leads to, by key or by either name', () => {
    for (const name of ['keeper', 'Keeper', 'KEEPERS'])
      expect(read(`Owner, ${name}`)).toMatchObject([{ label: 'Owner', required: false, type: 'reference', target: 'keeper' }]);
  });

  it('take the words other programs have, and the type by its name here', () => {
    expect(read('A, varchar\nB, Yes/No\nC, A line of text').map((wish) => wish.type)).toEqual(['text', 'boolean', 'text']);
  });

  it('say which type there is none of, and what says nothing of what it is', () => {
    expect(read('A, wibble\nB, choice\nC, reference').map((wish) => wish.unknown)).toEqual(['wibble', 'choice', 'reference']);
  });

  it('say which label is longer than labels may be', () => {
    expect(read(`${'a'.repeat(100)}, date\n${'a'.repeat(101)}, date`).map((wish) => wish.tooLong)).toEqual([undefined, true]);
  });

  it('leave out headings, empty lines and lines without a label', () => {
    expect(read('Label, Type\n\n  \n, date\nDraught')).toMatchObject([{ label: 'Draught', required: false, type: 'text' }]);
  });
});
