/** Something that can be done, by its name: what the list of commands, the menu at the pointer and the keys have in common. */
export interface Command {
  name: string;
  /** The keys that do the same, as they are shown. */
  keys?: string;
  /** What it is about: what is selected, the form, the sentence above it, or a way to somewhere. */
  about: 'selection' | 'form' | 'preview' | 'find';
  run: () => void;
}

/** Commands under a title, and those there are because of what is typed. */
export interface CommandMenu {
  title: string;
  commands: Command[];
  typed?: (text: string) => Command[];
  /** Where the pointer was that asked for them. */
  at?: { x: number; y: number } | undefined;
}

/** Whether words begin in a name in the order they were typed. */
function hasInOrder(name: string, words: readonly string[]): boolean {
  let from = 0;
  return words.every((word) => {
    from = name.indexOf(word, from);
    return from >= 0;
  });
}

/**
 * Commands whose names have all the words: first the one that is called just so, then those whose name begins so, then those that have them
 * in their order, the ones that begin with the first word before the others.
 */
export function matching(commands: Command[], typed: string): Command[] {
  const phrase = typed.toLowerCase().trim();
  const words = phrase.split(/\s+/).filter(Boolean);
  const rank = (name: string) =>
    name === phrase ? 0 : name.startsWith(phrase) ? 1 : (hasInOrder(name, words) ? 2 : 4) + (name.startsWith(words[0] ?? '') ? 0 : 1);
  const found = commands.filter((command) => words.every((word) => command.name.toLowerCase().includes(word)));
  return found.sort((one, other) => rank(one.name.toLowerCase()) - rank(other.name.toLowerCase()));
}
