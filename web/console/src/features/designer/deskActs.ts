import {
  addTab,
  apply,
  guessBinding,
  kindOf,
  nextPlace,
  placeAt,
  walk,
  type Edit,
  type Kind,
  type Place,
  type Subject,
  type TreeNode,
} from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { keyOf } from '../../shell/keys.ts';
import type { DeskActs } from './acts.ts';
import { changeLabel } from './draftState.ts';
import { listedCommands } from './listedCommands.ts';
import { describe, kindName, namingProperty } from './names.ts';
import { placedOn } from './placedFields.ts';
import { rearranging } from './operations.ts';
import { reusing } from './reuse.ts';
import type { Desk } from './useDesk.ts';

/** What can be done at the desk. */
export function deskActs(desk: Desk) {
  const { tree, state, width, variant, dialogs } = desk;
  /** How a change is made where one stands: at the base, or on the form of a width; nothing where that width has none yet. */
  const termsOf = (label: string) => {
    if (width && !variant) state.announce(say('designer.thereIsNoFormYet', width), true);
    return width && !variant
      ? undefined
      : { label: changeLabel(width ? say('designer.inWidth', label, width) : label), width: width ?? null };
  };
  const change = async (edits: Edit[], label: string, goesOn?: boolean): Promise<Edit[] | undefined> => {
    const terms = termsOf(label);
    return terms && state.apply(edits, terms.label, terms.width ?? undefined, goesOn);
  };
  const place = (chosen: Place, subject: Subject) => placeSubject(desk, acts, chosen, subject);
  const common = { tree, selection: desk.selection, nameOf: desk.nameOf, announce: state.announce, apply: change };
  const parts = rearranging({
    ...common,
    fields: desk.fields,
    facts: desk.facts,
    fresh: desk.fresh,
    showPage: desk.setPage,
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
      return terms && state.perform(() => call(terms), terms.label);
    },
    name: () => dialogs.askName('piece'),
    bind: async (piece) => {
      const { slots, sure } = guessBinding(piece.slots, desk.fields, new Set(tree && placedOn(tree).keys()));
      return sure ? { slots, linked: true } : dialogs.askBinding(piece);
    },
  });
  const acts: DeskActs = {
    change,
    place,
    parts,
    reuse,
    placeSeveral: (subjects: Subject[], first?: Place) => placeSeveral(desk, acts, subjects, first),
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
    listCommands: (about, at) => {
      const listed = listedCommands(desk, acts, about);
      if (listed) dialogs.setListing({ ...listed, at });
    },
  };
  return acts;
}

/** What was just inserted of a kind; nothing where nothing was. */
const insertedOf = (done: readonly Edit[], kind: Kind | undefined): string | undefined =>
  done.flatMap((edit) => (edit.op === 'insert' ? [...walk(edit.node as TreeNode)] : [])).findLast((node) => node.kind === kind)?.id;

/** A new part with what it cannot do without: a section may have no title, a heading is one. */
const begun = (subject: Subject): Subject =>
  'part' in subject && subject.part !== 'section' && subject.part !== 'panel' && namingProperty(subject.part) && !subject.title
    ? { ...subject, title: kindName(subject.part) }
    : subject;

async function placeSubject(desk: Desk, acts: DeskActs, chosen: Place, subject: Subject): Promise<void> {
  const { tree, labels, nameOf, placing, pieces } = desk;
  placing.stop();
  if ('piece' in subject) {
    const piece = pieces.find((each) => each.key === subject.piece);
    return acts.reuse.place(chosen, piece);
  }
  if (!tree) return;
  const part = 'part' in subject ? subject.part : undefined;
  const placed = placeAt(tree, begun(subject), chosen, desk.facts)?.edits ?? chosen.edits;
  const edits = part === 'page' ? addTab(tree, placed, desk.form?.title ?? '') : placed;
  const what =
    'field' in subject ? (labels.get(subject.field) ?? subject.field) : 'part' in subject ? kindName(subject.part) : nameOf(subject.node);
  const choose = desk.later();
  const making = acts.change(edits, say('node' in subject ? 'designer.moved' : 'designer.placed', what, describe(chosen, nameOf)));
  // What it is called is known at once, and whoever goes on goes on with it; but the form is drawn first.
  const known = 'node' in subject ? subject.node : insertedOf(edits, kindOf(tree, subject));
  if (known) requestAnimationFrame(() => choose(known));
  const done = await making;
  if (!done) return;
  const id = 'node' in subject ? subject.node : insertedOf(done, kindOf(tree, subject));
  choose(id);
  if (part === 'page' && id) desk.setPage(id);
  if (chosen.full) desk.state.announce(say('canvas.rowFull'));
  // What is new is named where it stands.
  if (part && namingProperty(part)) desk.nameFresh(id);
}

/** Several at once, in their order: the first where it was meant, each of the others after the one before. */
async function placeSeveral(desk: Desk, acts: DeskActs, subjects: Subject[], first: Place | undefined): Promise<void> {
  let tree = desk.tree;
  let after = desk.selected;
  const [edits, placed]: [Edit[], string[]] = [[], []];
  for (const [i, subject] of subjects.entries()) {
    const place = i === 0 && first ? first : tree && nextPlace(tree, subject, { after, page: desk.page }, desk.facts);
    const outcome = tree && place && apply(tree, place.edits);
    if (!tree || !place || !outcome?.tree) continue;
    edits.push(...outcome.done);
    after = 'node' in subject ? subject.node : insertedOf(outcome.done, kindOf(tree, subject));
    if (after) placed.push(after);
    tree = outcome.tree;
  }
  const moved = subjects.every((subject) => 'node' in subject);
  if (edits.length === 0) return;
  if (await acts.change(edits, say(moved ? 'designer.movedSeveral' : 'designer.placedSeveral', placed.length))) desk.selectAll(placed);
}

/** Places something at once, after what is selected or at the end of what is in view; what is on the form already is led to its places. */
function start(desk: Desk, acts: DeskActs, subject: Subject): void {
  desk.setRegion('form');
  const place =
    'node' in subject || !desk.tree ? undefined : nextPlace(desk.tree, subject, { after: desk.selected, page: desk.page }, desk.facts);
  if (place) void acts.place(place, subject);
  else if ('node' in subject && desk.placing.begin(subject, desk.selected)) desk.focusForm();
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
