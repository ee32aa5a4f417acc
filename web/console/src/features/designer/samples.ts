import type { Json, Values } from '#form';
import type { FieldInfo } from '../../api/client.ts';
import { say, type TextKey } from '../../shell/configurator/texts.ts';

/** Records that are made up to look at, and never stored: by numbers no record has. */
export const samples: Record<number, TextKey> = { [-1]: 'samples.short', [-2]: 'samples.long' };

const words = 'mooring tide lantern quay halyard fender pontoon bollard winter survey keel rudder'.split(' ');

/** A text of so many characters that breaks where words do. */
function prose(length: number): string {
  let text = '';
  for (let i = 0; text.length < length; i++) text += `${text ? ' ' : ''}${words[i % words.length]!}`;
  return text.slice(0, length).trim();
}

/** Values for every field: likely ones, or such as take all the room they may. References lead nowhere. */
export function sampleOf(fields: readonly FieldInfo[], id: number): Values {
  const long = id === -2;
  return Object.fromEntries(
    fields
      .filter((field) => !field.retired)
      .map((field): [string, Json] => [field.key, valueOf(field, long)])
      .filter(([, value]) => value !== null),
  );
}

function valueOf(field: FieldInfo, long: boolean): Json {
  const most = Number(field.maxLength ?? 60);
  const choices = field.choices?.filter((choice) => !choice.retired) ?? [];
  const longest = [...choices].sort((one, other) => other.label.length - one.label.length)[0];
  switch (field.type) {
    case 'text':
      return long ? prose(Math.min(most, 120)) : say('samples.text', field.label).slice(0, most);
    case 'longText':
      return prose(Math.min(Number(field.maxLength ?? 900), long ? 900 : 160));
    case 'email':
      return long ? 'somebody.with.quite.a.long.name@harbour-office.example.org' : 'someone@example.org';
    case 'phone':
      return long ? '+31 (0)6 1234 5678, after four' : '+31 6 1234 5678';
    case 'url':
      return long ? 'https://example.org/papers/of/this/vessel/and/whoever/keeps/it?year=2026' : 'https://example.org';
    case 'integer':
      return long ? 987_654 : 12;
    case 'decimal':
      return long ? 98_765.43 : 12.5;
    case 'money':
      return long ? 1_234_567.89 : 125;
    case 'rating':
      return long ? 5 : 3;
    case 'boolean':
      return true;
    case 'date':
      return long ? '2026-12-31' : '2026-05-12';
    case 'time':
      return long ? '22:45' : '09:30';
    case 'dateTime':
      return long ? '2026-12-31T22:45:00Z' : '2026-05-12T09:30:00Z';
    case 'choice':
      return (long ? longest : choices[0])?.key ?? null;
    case 'choices':
      return choices.slice(0, long ? choices.length : 2).map((choice) => choice.key);
    default:
      return null;
  }
}
