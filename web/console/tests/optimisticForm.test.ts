import { contentOf, type FieldItem, type Item, type ResolvedForm, type Row } from '#form';
import { describe, expect, it } from 'vitest';
import type { Edit } from '#layout';
import type { FieldInfo } from '../src/api/client.ts';
import { applyOptimistically } from '../src/features/designer/optimisticForm.ts';
import type { FormSubject } from '../src/features/designer/resolvedParts.ts';

const field = (id: string): FieldItem => ({ id, kind: 'field', field: id, label: `The ${id}`, editor: 'line', lines: 1 });
const row = (id: string, ...items: Item[]): Row => ({
  id,
  cells: items.map((item) => ({ id: `${item.id}-cell`, span: 6, shares: true, items: [item] })),
});
const form: ResolvedForm = {
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
  fields: {},
  pages: [
    {
      id: 'page',
      title: '',
      sections: [
        {
          id: 'identity',
          title: 'Identity',
          frame: 'none',
          labels: 'above',
          columns: 2,
          rows: [row('r1', field('name'), field('registration')), row('r2', field('homePort'))],
        },
        { id: 'rig', title: 'Rig', frame: 'none', labels: 'above', columns: 1, rows: [row('r3', field('mastHeight'))] },
      ],
    },
  ],
};
const known: FormSubject = {
  language: 'en',
  body: 'body',
  fields: [
    { key: 'beam', label: 'Beam', type: 'decimal' },
    { key: 'name', label: 'Name', type: 'text' },
  ] as unknown as FieldInfo[],
};
const drawn = (so: ResolvedForm) =>
  so.pages.map((page) =>
    page.sections
      .map((section) =>
        section.rows.map((each) => each.cells.map((cell) => cell.items.map((item) => item.id).join('+')).join(' ')).join(' / '),
      )
      .join(' | '),
  );
const after = (...edits: Edit[]) => applyOptimistically(form, edits, known);

describe('what edits will come to', () => {
  it('is drawn in its place, and nothing else is another object', () => {
    const so = after(
      { op: 'insert', node: { id: 'r4', kind: 'row', children: [{ id: 'c4', kind: 'cell' }] }, parent: 'rig', at: 'first' },
      { op: 'move', node: 'registration', parent: 'c4', at: 'last' },
      { op: 'remove', node: 'registration-cell' },
    );
    expect(drawn(so)).toEqual(['name / homePort | registration / mastHeight']);
    expect(so.pages[0]!.sections[0]!.rows[1]).toBe(form.pages[0]!.sections[0]!.rows[1]);
    expect(so.pages[0]!.sections[1]!.rows[1]).toBe(form.pages[0]!.sections[1]!.rows[0]);
    expect(drawn(form)).toEqual(['name registration / homePort | mastHeight']);
  });

  it('shows a field that was not there by its label, with the editor of its type', () => {
    const so = after({
      op: 'insert',
      node: { kind: 'field', properties: { field: 'beam' } },
      parent: 'mastHeight-cell',
      at: { after: 'mastHeight' },
    });
    expect(so.pages[0]!.sections[1]!.rows[0]!.cells[0]!.items[1]).toEqual({
      id: 'beam',
      kind: 'field',
      field: 'beam',
      label: 'Beam',
      editor: 'number',
      lines: 1,
    });
  });

  it('follows words and sizes, and what is cleared is as the field says', () => {
    const so = after(
      { op: 'set', node: 'name', property: 'label', value: { en: 'Her name', nl: 'Naam' } },
      { op: 'set', node: 'name-cell', property: 'span', value: 8 },
      { op: 'set', node: 'rig', property: 'title', value: 'Sails' },
    );
    const [cell] = so.pages[0]!.sections[0]!.rows[0]!.cells;
    expect([(cell!.items[0] as FieldItem).label, cell!.span, cell!.shares, so.pages[0]!.sections[1]!.title]).toEqual([
      'Her name',
      8,
      undefined,
      'Sails',
    ]);
    expect(
      (
        applyOptimistically(so, [{ op: 'set', node: 'name', property: 'label', value: null }], known).pages[0]!.sections[0]!.rows[0]!
          .cells[0]!.items[0] as FieldItem
      ).label,
    ).toBe('Name');
  });

  it('is seen at the width whose own form is changed, and nowhere else', () => {
    const narrow: ResolvedForm = {
      ...form,
      variants: [
        {
          name: 'narrow',
          from: 0,
          below: 40,
          pages: [{ id: 'page', title: '', sections: [{ same: 'identity' }] }],
        } as unknown as NonNullable<ResolvedForm['variants']>[number],
      ],
    };
    const so = applyOptimistically(narrow, [{ op: 'set', node: 'name', property: 'label', value: 'Her name' }], known, 'narrow');
    const label = (at: number) => (contentOf(so, at).pages[0]!.sections[0]!.rows[0]!.cells[0]!.items[0] as FieldItem).label;
    expect([label(20), label(60), contentOf(so, 20).pages[0]!.sections.length]).toEqual(['Her name', 'The name', 1]);
    expect(applyOptimistically(narrow, [{ op: 'set', node: 'name', property: 'label', value: 'Her name' }], known, 'wide')).toBe(narrow);
  });

  it('is left to the service where only it can tell', () => {
    expect(after({ op: 'insert', node: { kind: 'piece', properties: { piece: 'cover' } }, parent: 'mastHeight-cell', at: 'last' })).toBe(
      form,
    );
    expect(after({ op: 'move', node: 'name', parent: 'nowhere', at: 'last' })).toBe(form);
    expect(after({ op: 'set', node: 'name', property: 'visible', value: 'true' }).pages).toEqual(form.pages);
  });
});
