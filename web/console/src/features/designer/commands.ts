/** Something that can be done, by its name: what the list of commands, the menu at the pointer and the keys have in common. */
export interface Command {
  name: string;
  /** The keys that do the same, as they are shown. */
  keys?: string;
  /** What it is about: what is selected, the form, the sentence above it, or a way to somewhere. */
  about: 'selection' | 'form' | 'preview' | 'find';
  run: () => void;
}

/**
 * Commands whose names have all the words: first the one that is called just so, then those whose name begins so, then with the first word.
 */
export function matching(commands: Command[], typed: string): Command[] {
  const phrase = typed.toLowerCase().trim();
  const words = phrase.split(/\s+/).filter(Boolean);
  const rank = (name: string) => (name === phrase ? 0 : name.startsWith(phrase) ? 1 : name.startsWith(words[0] ?? '') ? 2 : 3);
  const found = commands.filter((command) => words.every((word) => command.name.toLowerCase().includes(word)));
  return found.sort((one, other) => rank(one.name.toLowerCase()) - rank(other.name.toLowerCase()));
}
