/** Something that can be done, by its name: what the list of commands, the menu at the pointer and the keys have in common. */
export interface Command {
  name: string;
  /** The keys that do the same, as they are shown. */
  keys?: string;
  /** What it is about: what is selected, the form, the sentence above it, or a way to somewhere. */
  about: 'selection' | 'form' | 'eyes' | 'find';
  run: () => void;
}

/** Commands whose names have all the words, those first whose name begins with what was typed. */
export function matching(commands: Command[], typed: string): Command[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = commands.filter((command) => words.every((word) => command.name.toLowerCase().includes(word)));
  const begins = (command: Command) => Number(!command.name.toLowerCase().startsWith(words[0] ?? ''));
  return found.sort((one, other) => begins(one) - begins(other));
}
