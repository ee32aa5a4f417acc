/** A slot of a piece, as far as it matters to which field it is bound. */
export interface SlotNeed {
  slot: string;
  label: string;
  /** The types of fields it takes. */
  types: readonly string[];
  optional: boolean;
}

/** A field a slot may be bound to. */
export interface NamedField {
  key: string;
  label: string;
  type: string;
  retired?: boolean;
}

/** Which field each slot most likely means; a slot without one is left out. */
export interface BindingGuess {
  slots: Record<string, string>;
  /** Whether every slot that needs one has a field by its name, all are of one subject, and none is on the form yet. */
  sure: boolean;
}

/**
 * Binds the slots of a piece to one set of fields that share a subject: `hullInsurer`, `hullPolicy` and `hullSum` are of the hull, as are
 * "Hull: insurer" and "Hull: policy". Sets that are not on the form yet come first, then whole ones, then larger ones, then the order of
 * the entity. What a set lacks is filled with fields that fit, where a slot cannot do without.
 * @param placed the keys of the fields the form shows
 */
export function guessBinding(slots: readonly SlotNeed[], fields: readonly NamedField[], placed: ReadonlySet<string>): BindingGuess {
  const usable = fields.filter((field) => !field.retired);
  const needed = slots.filter((slot) => !slot.optional);
  const sets = [...setsBy(slots, usable, ({ key }) => key), ...setsBy(slots, usable, ({ label }) => label)].map((bound) => {
    const whole = needed.every(({ slot }) => bound.has(slot));
    const known = [...bound.values()].filter(({ key }) => placed.has(key)).length;
    return { bound, known, whole, sure: whole && needed.length > 0 && known === 0 };
  });
  const rank = (set: (typeof sets)[number]) => [Number(set.sure), Number(set.whole), set.bound.size, -set.known];
  const [best] = sets.sort((one, other) => {
    const [ours, theirs] = [rank(one), rank(other)];
    const at = ours.findIndex((each, i) => each !== theirs[i]);
    return at < 0 ? 0 : theirs[at]! - ours[at]!;
  });
  const chosen = new Map(best?.bound);
  for (const slot of needed.filter(({ slot }) => !chosen.has(slot))) {
    const taken = new Set([...chosen.values()].map(({ key }) => key));
    const fitting = usable.filter((field) => slot.types.includes(field.type) && !taken.has(field.key));
    const field = fitting.find(({ key }) => !placed.has(key)) ?? fitting[0];
    if (field) chosen.set(slot.slot, field);
  }
  return { slots: Object.fromEntries([...chosen].map(([slot, { key }]) => [slot, key])), sure: best?.sure ?? false };
}

/** The sets of fields that share what is left of their names once the slot's name is taken off. */
function setsBy(slots: readonly SlotNeed[], fields: readonly NamedField[], nameOf: (of: NamedField) => string): Map<string, NamedField>[] {
  const sets = new Map<string, Map<string, NamedField>>();
  for (const slot of slots)
    for (const field of fields) {
      if (!slot.types.includes(field.type)) continue;
      // "Valid until" leaves of "Hull: valid until" what it is about, "until" more than that.
      const found = [slot.slot, slot.label].map((name) => subjectOf(nameOf(field), name)).filter((each) => each !== undefined);
      const subject = found.sort((one, other) => one.length - other.length)[0];
      if (subject === undefined) continue;
      const set = sets.get(subject) ?? new Map<string, NamedField>();
      sets.set(subject, set);
      if (!set.has(slot.slot)) set.set(slot.slot, field);
    }
  return [...sets.values()];
}

/** What a field is about whose name begins or ends with a slot's name; nothing where it does neither. */
function subjectOf(name: string, slot: string): string | undefined {
  const [words, wanted] = [wordsOf(name), wordsOf(slot)];
  const rest = words.length - wanted.length;
  if (rest < 0 || wanted.length === 0) return undefined;
  const same = (from: number) => wanted.every((word, i) => words[from + i] === word);
  return same(rest) ? words.slice(0, rest).join(' ') : same(0) ? words.slice(wanted.length).join(' ') : undefined;
}

/** The words of a name in lower case; of a key those its capital letters part. */
const wordsOf = (name: string): string[] =>
  name
    .replace(/(\p{Ll}|\p{N})(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
