/** One step of a pattern as the service compiled it (docs/model.md). */
export interface PatternStep {
  take?: number[];
  categories?: string[];
  not?: boolean;
  split?: [number, number];
  jump?: number;
  at?: string;
  match?: boolean;
}

/** Whether some part of the text matches, in time proportional to the text: all ways are followed at once, none twice. */
export function matches(steps: PatternStep[], text: string): boolean {
  const characters = [...text];
  let current = new Set<number>();
  for (let at = 0; at <= characters.length; at++) {
    if (follow(steps, current, 0, characters, at)) return true;
    if (at === characters.length) break;
    const next = new Set<number>();
    for (const step of current) {
      if (steps[step]!.take && accepts(steps[step]!, characters[at]!) && follow(steps, next, step + 1, characters, at + 1)) return true;
    }
    current = next;
  }
  return false;
}

/** Adds a step and all that is reached from it without taking a character; true when the end of the pattern is. */
function follow(steps: PatternStep[], places: Set<number>, start: number, characters: string[], at: number): boolean {
  const waiting = [start];
  for (let index = waiting.pop(); index !== undefined; index = waiting.pop()) {
    if (places.has(index)) continue;
    places.add(index);
    const step = steps[index]!;
    if (step.match) return true;
    if (step.jump !== undefined) waiting.push(step.jump);
    else if (step.split) waiting.push(step.split[1], step.split[0]);
    else if (step.at !== undefined && holds(step.at, characters, at)) waiting.push(index + 1);
  }
  return false;
}

function holds(place: string, characters: string[], at: number): boolean {
  const isWord = (index: number) => /^\w$/.test(characters[index] ?? '');
  switch (place) {
    case 'start':
      return at === 0;
    case 'end':
      return at === characters.length;
    case 'line-start':
      return at === 0 || characters[at - 1] === '\n';
    case 'line-end':
      return at === characters.length || characters[at] === '\n';
    default:
      return (isWord(at - 1) !== isWord(at)) === (place === 'word');
  }
}

function accepts(step: PatternStep, character: string): boolean {
  return contains(step, character) !== !!step.not;
}

function contains({ take = [], categories = [] }: PatternStep, character: string): boolean {
  const code = character.codePointAt(0)!;
  for (let i = 0; i < take.length; i += 2) if (code >= take[i]! && code <= take[i + 1]!) return true;
  // One character against one class: nothing to go back over.
  return categories.some((category) =>
    new RegExp(category.startsWith('!') ? `^\\P{${category.slice(1)}}` : `^\\p{${category}}`, 'u').test(character),
  );
}
