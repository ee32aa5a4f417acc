import { isItem, walk, type Subject, type TreeNode } from '#layout';
import type { EntityInfo } from '../../api/client.ts';
import type { Command } from './commands.ts';
import { flowing, partsFor } from './parts.ts';
import type { PreviewContext } from './usePreviewForm.ts';
import { besides, deskRoom } from './measures.ts';
import { namingProperty } from './names.ts';
import { say, spoken } from '../../shell/configurator/texts.ts';

/** What the designer can do, for its list of commands to offer. */
export interface CommandContext {
  tree: TreeNode;
  selection: TreeNode[];
  entity: EntityInfo | undefined;
  context: PreviewContext;
  roles: { key: string; label: string }[];
  languages: string[];
  undoLabel: string | undefined;
  redoLabel: string | undefined;
  unpublished: boolean;
  trying: boolean;
  nameOf: (id: string) => string;
  undo: () => void;
  redo: () => void;
  rename: () => void;
  remove: () => void;
  move: (direction: 'up' | 'down' | 'left' | 'right') => void;
  widen: (by: 1 | -1) => void;
  wrap: () => void;
  ungroup: () => void;
  /** The cells of each row of the section share it evenly. */
  balance: () => void;
  /** One more, empty cell behind that of the selected item. */
  split: () => void;
  columns: (count: number) => void;
  start: (subject: Subject) => void;
  select: (id: string, how?: 'upTo') => void;
  look: (context: Partial<PreviewContext>) => void;
  tryIt: () => void;
  publish: () => void;
  show: (what: 'fields' | 'outline' | 'changes' | 'comments' | 'source') => void;
  /** What would make the form so, to be looked at and taken. */
  propose: (aim: 'shorter' | 'tidier') => void;
  addField: () => void;
  beginJob: () => void;
  copy: () => void;
  cut: () => void;
  paste: () => void;
  makePiece: () => void;
  detach: () => void;
  pieces: { key: string; title: string }[];
  /** Moves the one selected node into a tab. */
  toTab: (page: string) => void;
  /** The properties that are shown of the selection, by their labels, each with a way to it. */
  properties: { label: string; go: () => void }[];
  /** The widths that can have a form of their own, and those that have one. */
  widths: { name: string; begun: boolean }[];
  changeWidth: (name: string | undefined) => void;
  beginWidth: (name: string) => void;
  /** Puts what is generated in the place of the form; nothing for what belongs to no entity. */
  toGenerated: (() => void) | undefined;
}

const moves = {
  up: 'designerCommands.moveUp',
  down: 'designerCommands.moveDown',
  left: 'designerCommands.moveLeft',
  right: 'designerCommands.moveRight',
} as const;

const of = (on: unknown, ...commands: Command[]) => (on ? commands : []);

/** Every command by its name, those that make no sense now left out. */
export const commandsOf = (doing: CommandContext): Command[] => [
  ...ofSelection(doing),
  ...ofClipboard(doing),
  ...ofForm(doing),
  ...ofPreview(doing),
  ...toFind(doing),
];

/** What is done to the selected parts. */
function ofSelection(doing: CommandContext): Command[] {
  const { selection, tree, nameOf } = doing;
  const [one] = selection.length === 1 ? selection : [];
  const items = selection.length > 0 && selection.every((node) => isItem(node.kind));
  return [
    ...of(one && namingProperty(one.kind), { about: 'selection', name: say('designerCommands.rename'), keys: 'F2', run: doing.rename }),
    ...of(one, { about: 'selection', name: say('designerCommands.move'), keys: 'M', run: () => doing.start({ node: one!.id }) }),
    ...of(
      one,
      ...(['up', 'down', 'left', 'right'] as const).map((direction): Command => ({
        about: 'selection',
        name: say(moves[direction]),
        keys: `Alt+${direction[0]!.toUpperCase()}${direction.slice(1)}`,
        run: () => doing.move(direction),
      })),
    ),
    ...of(
      one && (isItem(one.kind) || one.kind === 'section' || one.kind === 'row'),
      ...[...walk(tree)]
        .filter((node) => node.kind === 'page' && ![...walk(node)].some((each) => each.id === one?.id))
        .map((page): Command => ({
          about: 'selection',
          name: say('designerCommands.moveToTheTab', nameOf(page.id)),
          run: () => doing.toTab(page.id),
        })),
    ),
    ...of(
      items,
      { about: 'selection', name: say('designerCommands.makeWider'), keys: 'Alt+Shift+Right', run: () => doing.widen(1) },
      { about: 'selection', name: say('designerCommands.makeNarrower'), keys: 'Alt+Shift+Left', run: () => doing.widen(-1) },
    ),
    ...of(items, { about: 'selection', name: say('designerCommands.groupIntoASection'), keys: 'G', run: doing.wrap }),
    ...of(one?.kind === 'section', { about: 'selection', name: say('designerCommands.mergeIntoTheSectionBefore'), run: doing.ungroup }),
    ...of(one?.kind === 'section', { about: 'selection', name: say('designerCommands.shareEachRowEvenly'), run: doing.balance }),
    ...of(one && isItem(one.kind), { about: 'selection', name: say('designerCommands.addAnEmptyCellAfter'), run: doing.split }),
    ...of(
      one?.kind === 'section',
      ...[1, 2, 3, 4].map((count): Command => ({
        about: 'selection',
        name: say('designerCommands.columns', count),
        run: () => doing.columns(count),
      })),
    ),
  ];
}

/** Parts taken and put elsewhere, taken away, set. */
function ofClipboard(doing: CommandContext): Command[] {
  const { selection } = doing;
  const [one] = selection.length === 1 ? selection : [];
  return [
    ...of(
      selection.length > 0 && selection.every((node) => isItem(node.kind) || ['page', 'section', 'row', 'cell'].includes(node.kind)),
      { about: 'selection', name: say('designerCommands.copy'), keys: 'Ctrl+C', run: doing.copy },
      { about: 'selection', name: say('designerCommands.cut'), keys: 'Ctrl+X', run: doing.cut },
      { about: 'selection', name: say('designerCommands.createAPiece'), run: doing.makePiece },
    ),
    ...of(one?.kind === 'piece', { about: 'selection', name: say('common.detachThePiece'), run: doing.detach }),
    {
      about: one ? 'selection' : 'form',
      name: one ? say('designerCommands.pasteAfter') : say('common.paste'),
      keys: 'Ctrl+V',
      run: doing.paste,
    },
    ...of(selection.length > 0, { about: 'selection', name: say('common.remove'), keys: 'Delete', run: doing.remove }),
    ...doing.properties.map((property): Command => ({
      about: 'selection',
      name: say('designerCommands.change', property.label),
      run: property.go,
    })),
  ];
}

/** What is done to the form. */
function ofForm(doing: CommandContext): Command[] {
  const { tree, entity } = doing;
  return [
    ...of(doing.undoLabel, { about: 'form', name: say('designerCommands.undo', doing.undoLabel!), keys: 'Ctrl+Z', run: doing.undo }),
    ...of(doing.redoLabel, { about: 'form', name: say('designerCommands.redo', doing.redoLabel!), keys: 'Ctrl+Shift+Z', run: doing.redo }),
    { about: 'form', name: doing.trying ? say('common.backToDesigning') : say('designerCommands.tryTheForm'), run: doing.tryIt },
    ...of(doing.unpublished, { about: 'form', name: say('common.publish'), run: doing.publish }),
    ...of(
      flowing.includes(String(tree.properties['kind'] ?? 'full')),
      { about: 'form', name: say('designerCommands.makeItShorter'), run: () => doing.propose('shorter') },
      { about: 'form', name: say('designerCommands.tidyUp'), run: () => doing.propose('tidier') },
    ),
    { about: 'form', name: say('firstJob.begin'), run: doing.beginJob },
    { about: 'form', name: say('designerCommands.addAFieldToThe'), run: doing.addField },
    ...partsFor(tree, entity).flatMap((group) =>
      group.parts.map(({ name, subject }): Command => ({
        about: 'form',
        name: subject.part === 'related' ? say('designerCommands.addRelatedRecords', name) : say('designerCommands.addPart', name),
        run: () => doing.start(subject),
      })),
    ),
    ...doing.pieces.map((piece): Command => ({
      about: 'form',
      name: say('designerCommands.addThePiece', piece.title),
      run: () => doing.start({ piece: piece.key }),
    })),
    { about: 'form', name: say('designerCommands.showFieldsAndParts'), run: () => doing.show('fields') },
    { about: 'form', name: say('designerCommands.showTheOutline'), run: () => doing.show('outline') },
    { about: 'form', name: say('designerCommands.showChangesAndHistory'), run: () => doing.show('changes') },
    { about: 'form', name: say('designerCommands.showComments'), run: () => doing.show('comments') },
    ...of(doing.toGenerated, { about: 'form', name: say('common.replaceWithGenerated'), run: doing.toGenerated! }),
    { about: 'form', name: say('designerCommands.showTheSource'), run: () => doing.show('source') },
    ...doing.widths.map((width): Command =>
      width.begun
        ? { about: 'form', name: say('designerCommands.designTheForm', width.name), run: () => doing.changeWidth(width.name) }
        : { about: 'form', name: say('common.createAForm', width.name), run: () => doing.beginWidth(width.name) },
    ),
    { about: 'form', name: say('designerCommands.designTheBaseForm'), run: () => doing.changeWidth(undefined) },
  ];
}

/** Through whose context it is looked at. */
const ofPreview = (doing: CommandContext): Command[] => [
  {
    about: 'preview',
    name: doing.context.showHidden ? say('designerCommands.hideHiddenItems') : say('common.showHiddenItems'),
    run: () => doing.look({ showHidden: !doing.context.showHidden }),
  },
  {
    about: 'preview',
    name: doing.context.tabOrder ? say('designerCommands.hideTheTabOrder') : say('designerCommands.showTheTabOrder'),
    run: () => doing.look({ tabOrder: !doing.context.tabOrder }),
  },
  {
    about: 'preview',
    name: doing.context.beside ? say('designerCommands.previewOneWidth') : say('designerCommands.previewBesideAPhone'),
    run: () => doing.look(besides(doing.context.width, doing.context.beside ? undefined : 390, deskRoom())),
  },
  { about: 'preview', name: say('designerCommands.previewInEveryRole'), run: () => doing.look({ role: '' }) },
  ...doing.roles.map((role): Command => ({
    about: 'preview',
    name: say('designerCommands.previewAs', role.label),
    run: () => doing.look({ role: role.key }),
  })),
  ...(
    [
      ['create', 'designerCommands.previewCreate'],
      ['edit', 'designerCommands.previewEdit'],
      ['view', 'designerCommands.previewView'],
    ] as const
  ).map(([mode, name]): Command => ({ about: 'preview', name: say(name), run: () => doing.look({ mode }) })),
  ...doing.languages.map((tag): Command => ({
    about: 'preview',
    name: say('designerCommands.previewIn', new Intl.DisplayNames([spoken()], { type: 'language' }).of(tag) ?? tag),
    run: () => doing.look({ language: tag }),
  })),
  ...[390, 768, 960, 1200].map((width): Command => ({
    about: 'preview',
    name: say('designerCommands.previewAt', width),
    run: () => doing.look({ width }),
  })),
];

/** Fields to add, and parts to go to. */
function toFind(doing: CommandContext): Command[] {
  const { tree, entity, nameOf } = doing;
  const selected = doing.selection.at(-1)?.id;
  const items = [...walk(tree)].filter((node) => isItem(node.kind) || node.kind === 'section' || node.kind === 'page');
  const placed = new Set([...walk(tree)].filter((node) => node.kind === 'field').map((node) => node.properties['field']));
  return [
    ...(entity?.fields ?? [])
      .filter((field) => !placed.has(field.key) && !field.retired)
      .map((field): Command => ({
        about: 'find',
        name: say('common.addNamed', field.label),
        run: () => doing.start({ field: field.key }),
      })),
    ...items
      .filter((node) => selected && isItem(node.kind) && node.id !== selected)
      .map((node): Command => ({
        about: 'find',
        name: say('designerCommands.selectUpTo', nameOf(node.id)),
        run: () => doing.select(node.id, 'upTo'),
      })),
    ...items.map((node): Command => ({
      about: 'find',
      name: say('designerCommands.goTo', nameOf(node.id)),
      run: () => doing.select(node.id),
    })),
  ];
}
