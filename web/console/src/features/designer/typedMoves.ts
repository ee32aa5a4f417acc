import { isItem, placeAt, walk, type Edge, type Facts, type Place, type Subject, type TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import type { Command } from './commands.ts';
import { describe } from './names.ts';

interface MoveContext {
  tree: TreeNode;
  facts: Facts;
  nameOf: (id: string) => string;
  place: (chosen: Place, subject: Subject) => void;
}

/** How many parts whose names were typed are tried with one another. */
const most = 8;

const edges: readonly Edge[] = ['left', 'right', 'above', 'below'];

/** Moves that are typed whole, what goes and where to, whatever is selected: "Move Berth right of Length". */
export function typedMoves({ tree, facts, nameOf, place }: MoveContext, typed: string): Command[] {
  const phrase = typed.toLowerCase();
  const named = [...walk(tree)]
    .filter(({ kind }) => isItem(kind) || kind === 'section' || kind === 'page')
    .map((node) => ({ node, name: nameOf(node.id) }))
    .filter(({ name }) => phrase.includes(name.toLowerCase()))
    .sort((one, other) => other.name.length - one.name.length)
    .slice(0, most);
  return named.flatMap(({ node, name }) =>
    named.flatMap(({ node: to, name: tab }) => {
      if (node.id === to.id) return [];
      const subject = { node: node.id };
      const found = (to.kind === 'page' && node.kind !== 'page' ? (['inside'] as const) : edges)
        .map((edge) => placeAt(tree, subject, { target: to.id, edge }, facts))
        .filter((each) => each !== undefined);
      return found.map((chosen): Command => ({
        about: 'find',
        name:
          chosen.edge === 'inside'
            ? say('designerCommands.moveNamedToTheTab', name, tab)
            : say('designerCommands.moveNamed', name, describe(chosen, nameOf)),
        run: () => place(chosen, subject),
      }));
    }),
  );
}
