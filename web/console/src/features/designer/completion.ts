import type { FieldInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

/** Something that can stand at the cursor: what is written, and what it is. */
export interface Completion {
  text: string;
  about: string;
}

export interface CompletionList {
  /** From where the chosen one replaces what is typed. */
  from: number;
  offers: Completion[];
}

/** More are found by typing on, without a list that has to be scrolled. */
const most = 8;

const words = (): Completion[] => [
  { text: 'record.', about: say('completion.field') },
  { text: 'has(record.', about: say('completion.has') },
  { text: 'user.roles', about: say('completion.roles') },
  { text: 'mode', about: say('completion.modes') },
  { text: 'today', about: say('completion.today') },
  { text: 'now', about: say('completion.now') },
  { text: 'true', about: say('completion.always') },
  { text: 'false', about: say('completion.never') },
];

/**
 * What fits at a place in a condition: fields after record., the choices of the field before a quote, roles and modes, or the names there
 * are.
 */
export function complete(text: string, at: number, fields: FieldInfo[], roles: { key: string; label: string }[]): CompletionList {
  const before = text.slice(0, at);
  const matching = (offers: Completion[], from: number): CompletionList => {
    const typed = before.slice(from).toLowerCase();
    return {
      from,
      offers: offers
        .filter(
          (offer) =>
            offer.text.toLowerCase() !== typed &&
            (offer.text.toLowerCase().startsWith(typed) || offer.about.toLowerCase().startsWith(typed)),
        )
        .slice(0, most),
    };
  };
  const field = /record\.([A-Za-z0-9_]*)$/.exec(before);
  if (field)
    return matching(
      fields.filter((each) => !each.retired).map((each) => ({ text: each.key, about: `${each.label}, ${each.type}` })),
      at - field[1]!.length,
    );
  const quote = /'([^']*)$/.exec(before);
  if (quote && before.split("'").length % 2 === 0) {
    const start = at - quote[1]!.length;
    const compared = /(?:record\.([A-Za-z0-9_]+)|(mode))\s*[!=]=\s*$/.exec(before.slice(0, start - 1));
    const of = compared?.[2]
      ? ['create', 'edit', 'view'].map((mode) => ({ text: mode, about: say('completion.mode') }))
      : compared
        ? (fields.find((each) => each.key === compared[1])?.choices ?? [])
            .filter((choice) => !choice.retired)
            .map((choice) => ({ text: choice.key, about: choice.label }))
        : /^[^']*'\s*in\s+user\.roles/.test(text.slice(at)) || quote[1] === ''
          ? roles.map((role) => ({ text: role.key, about: role.label }))
          : [];
    return matching(
      of.map((offer) => ({ ...offer, text: offer.text + (text[at] === "'" ? '' : "'") })),
      start,
    );
  }
  const word = /[A-Za-z_][A-Za-z0-9_.]*$/.exec(before);
  return word || before.trim() === '' || /[(!&|]\s*$/.test(before)
    ? matching(words(), at - (word?.[0].length ?? 0))
    : { from: at, offers: [] };
}
