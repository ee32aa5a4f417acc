import { kindOf, placeAt, places, walk, type Edit, type Place, type Subject, type TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { keyOf } from '../../shell/keys.ts';
import type { DeskActs } from './acts.ts';
import { listedCommands } from './listedCommands.ts';
import { hasQuestion } from './NameDialog.tsx';
import { describe, kindName } from './names.ts';
import { rearranging } from './operations.ts';
import { reusing } from './reuse.ts';
import type { Desk } from './useDesk.ts';

/** What can be done at the desk. */
export function deskActs(desk: Desk) {
  const { tree, state, width, variant, dialogs } = desk;
  /** How a change is made where one stands: at the base, or on the form of a width; nothing where that width has none yet. */
  const termsOf = (label: string) => {
    if (width && !variant) state.announce(say('designer.thereIsNoFormYet', width), true);
    return width && !variant ? undefined : { label: width ? say('designer.inWidth', label, width) : label, width: width ?? null };
  };
  const change = async (edits: Edit[], label: string): Promise<Edit[] | undefined> => {
    const terms = termsOf(label);
    return terms && state.apply(edits, terms.label, terms.width ?? undefined);
  };
  const place = (chosen: Place, subject: Subject) => placeSubject(desk, acts, chosen, subject);
  const common = { tree, selection: desk.selection, nameOf: desk.nameOf, announce: state.announce, apply: change };
  const parts = rearranging({
    ...common,
    fields: desk.fields,
    language: desk.context.language,
    languages: desk.languages,
    base: desk.beneath,
    select: desk.selectAll,
    name: dialogs.askName,
    place: (chosen, subject) => void place(chosen, subject),
  });
  const reuse = reusing({
    ...common,
    layout: desk.layoutKey,
    remove: parts.remove,
    select: desk.selectAll,
    perform: async (call, label) => {
      const terms = termsOf(label);
      return terms && state.perform((request) => call({ ...terms, preview: request }), terms.label);
    },
    name: () => dialogs.askName('piece'),
    bind: dialogs.askBinding,
  });
  const acts = {
    change,
    place,
    parts,
    reuse,
    beginRename: () => desk.setRenaming(parts.nameable),
    rename: (name: string | undefined) => {
      desk.setRenaming(false);
      if (desk.left === 'outline') desk.root?.querySelector<HTMLElement>('.outline [tabindex="0"]')?.focus();
      else desk.focusForm();
      parts.rename(name);
    },
    start: (subject: Subject) => start(desk, acts, subject),
    chooseWidth: (name: string | undefined) => chooseWidth(desk, name),
    cut: () => cut(desk),
    listCommands: (about: 'all' | 'selection') => {
      const listed = listedCommands(desk, acts, about);
      if (listed) dialogs.setListing(listed);
    },
  };
  return acts;
}

async function placeSubject(desk: Desk, acts: DeskActs, chosen: Place, subject: Subject): Promise<void> {
  const { tree, labels, nameOf, placing, pieces } = desk;
  placing.stop();
  if ('piece' in subject) {
    const piece = pieces.find((each) => each.key === subject.piece);
    return acts.reuse.place(chosen, piece);
  }
  const part = 'part' in subject ? subject.part : undefined;
  const asked = part !== undefined && hasQuestion(part);
  const title = asked ? await desk.dialogs.askName(part) : undefined;
  if (asked && !title) return;
  const edits = (title && tree && placeAt(tree, { ...subject, title } as Subject, chosen)?.edits) || chosen.edits;
  const what =
    'field' in subject ? (labels.get(subject.field) ?? subject.field) : 'part' in subject ? kindName(subject.part) : nameOf(subject.node);
  const choose = desk.later();
  const done = await acts.change(edits, say('node' in subject ? 'designer.moved' : 'designer.placed', what, describe(chosen, nameOf)));
  if (!done) return;
  const inserted = done.flatMap((edit) => (edit.op === 'insert' ? [...walk(edit.node as TreeNode)] : []));
  choose('node' in subject ? subject.node : inserted.findLast((node) => tree && node.kind === kindOf(tree, subject))?.id);
}

function start(desk: Desk, acts: DeskActs, subject: Subject): void {
  desk.setRegion('form');
  const legal = desk.tree ? places(desk.tree, subject) : [];
  // Where there is but one place nothing has to be chosen.
  if ('part' in subject && legal.length === 1) void acts.place(legal[0]!, subject);
  else if (desk.placing.begin(subject, desk.selected)) desk.focusForm();
  else desk.state.announce(say('designer.thereIsNoPlaceFor'), true);
}

function chooseWidth(desk: Desk, name: string | undefined): void {
  desk.setWidth(name);
  desk.selectAll([]);
  const range = desk.widths.find((each) => each.name === name);
  if (!range) return;
  // A width within the range, so that the sheet shows what is being changed.
  const within = range.below ? Math.min(range.below * 16 - 30, Math.max(range.from * 16 + 20, 390)) : range.from * 16 + 40;
  desk.setContext((before) => ({ ...before, width: within }));
}

/** What a width of this layout's own has differently begins with nothing. */
async function cut(desk: Desk): Promise<void> {
  const { base, widths, context } = desk;
  const name = base && (await desk.dialogs.askName('width'));
  if (!name) return;
  const key = keyOf(
    name,
    widths.map((each) => each.name),
  );
  const below = Math.round(context.width / 16);
  const done = await desk.state.apply(
    [{ op: 'insert', node: { kind: 'variant', properties: { variant: key, below } }, parent: base.id, at: 'last' }],
    say('designer.cutAtPixels', below * 16, key),
  );
  if (done) desk.setWidth(key);
}
