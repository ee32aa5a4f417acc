import { find, variantOf } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { copied } from './clipboard.ts';
import type { CommandMenu } from './commands.ts';
import type { DeskActs } from './acts.ts';
import { commandsOf, type CommandContext } from './designerCommands.ts';
import type { Desk } from './useDesk.ts';
import { typedMoves } from './typedMoves.ts';
import { beginVariant } from './variants.ts';

/** The commands there are at the desk, or those on what is selected, under a title; nothing while there is no draft. */
export function listedCommands(desk: Desk, acts: DeskActs, about: 'all' | 'selection'): CommandMenu | undefined {
  const { tree, selection, selected, nameOf } = desk;
  const nodes = selection.map((id) => tree && find(tree, id)).filter((node) => node !== undefined);
  const context = contextOf(desk, acts, nodes);
  if (!context) return undefined;
  const commands = commandsOf(context);
  if (about === 'all')
    return {
      title: say('common.commands'),
      commands,
      typed: (text) =>
        typedMoves({ tree: context.tree, facts: desk.facts, nameOf, place: (chosen, what) => void acts.place(chosen, what) }, text),
    };
  const what = selected && nodes.length === 1 ? nameOf(selected) : say('designer.theseCount', nodes.length);
  return { title: say('designer.whatToDoWith', what), commands: commands.filter((command) => command.about === 'selection') };
}

function contextOf(desk: Desk, acts: DeskActs, selection: CommandContext['selection']): CommandContext | undefined {
  const { tree, state, context, dialogs } = desk;
  const { draft } = state;
  if (!tree || !draft) return undefined;
  const { parts, reuse } = acts;
  return {
    ...parts,
    tree,
    selection,
    entity: desk.entity,
    context,
    roles: desk.roles,
    languages: [...desk.languages],
    undoLabel: state.undoLabel,
    redoLabel: state.redoLabel,
    unpublished: draft.published !== draft.revision,
    trying: desk.trying,
    nameOf: desk.nameOf,
    undo: state.undo,
    redo: state.redo,
    rename: acts.beginRename,
    wrap: () => void parts.wrap(),
    toTab: (to) => {
      parts.toTab(to);
      desk.setPage(to);
    },
    start: acts.start,
    select: desk.select,
    look: (more) => desk.setContext({ ...context, ...more }),
    tryIt: () => desk.setTrying(!desk.trying),
    publish: () => dialogs.setPublishing(true),
    show: (what) => (what === 'fields' || what === 'outline' ? desk.setLeft(what) : desk.setDrawer(what)),
    propose: (aim) => {
      desk.setAim(aim);
      desk.setDrawer('proposals');
    },
    addField: () => dialogs.setAdding(true),
    beginJob: () => dialogs.setJob('going'),
    pieces: desk.pieces,
    copy: () => void reuse.copy(),
    cut: () => void reuse.cut(),
    paste: () => void reuse.paste(copied()),
    makePiece: () => void reuse.make(),
    detach: () => void reuse.detach(),
    properties: propertiesShown(desk),
    widths: draft.entity === '' ? [] : desk.widths.map(({ name }) => ({ name, begun: variantOf(draft.tree, name) !== undefined })),
    changeWidth: acts.chooseWidth,
    toGenerated: draft.entity === '' ? undefined : () => void toGenerated(desk, draft.key),
    beginWidth: (name) => {
      acts.chooseWidth(name);
      void state.apply([beginVariant(draft.tree, name, () => false)], say('common.createAForm', name));
    },
  };
}

/** The properties on the page, by their labels, each with the way to it. */
const propertiesShown = ({ root }: Desk): CommandContext['properties'] =>
  [...(root?.querySelectorAll<HTMLElement>('.properties label[for]') ?? [])].map((label) => ({
    label: label.textContent,
    go: () => {
      // What is seldom set is shown first.
      if (label.closest('[hidden]')) root!.querySelector<HTMLElement>('.properties-more')?.click();
      requestAnimationFrame(() => goTo(document.getElementById(label.getAttribute('for')!)));
    },
  }));

/** To a control; what is written in it is replaced by what is typed next. */
function goTo(control: HTMLElement | null): void {
  const first = control?.matches('input, textarea, select') ? control : control?.querySelector('input');
  (first ?? control)?.focus();
  if (control instanceof HTMLInputElement || control instanceof HTMLTextAreaElement) control.select();
}

async function toGenerated({ state }: Desk, key: string): Promise<void> {
  try {
    const { leadingTo, backToGenerated } = await import('./Changes.tsx');
    await state.apply(await leadingTo(key, 'generated'), backToGenerated());
  } catch (error) {
    state.announce((error as Error).message, true);
  }
}
