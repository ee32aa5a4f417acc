import { useState } from 'react';
import { answer, api, type EntitySummary } from '../../api/client.ts';
import { fieldTypes } from '../../shell/configurator/fieldTypes.ts';
import { say } from '../../shell/configurator/texts.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { longest, readLines, type FieldWish } from './fieldLines.ts';

interface AddFieldsProps {
  entity: string;
  entities: EntitySummary[];
  onClose: () => void;
}

/** Several fields at once, one a line, as one has them in a table or a list; what each becomes is shown before it is made. */
export function AddFields({ entity, entities, onClose }: AddFieldsProps) {
  const [text, setText] = useState('');
  const wishes = readLines(text, entities);
  const targets = new Map(entities.map(({ key, label }) => [key, label]));
  const add = async () => {
    for (const [i, wish] of wishes.entries()) {
      const { label, required, type = 'text', target = null, choices = null } = wish;
      const body = { label, required, type, target, choiceList: null, choices };
      try {
        await answer(api.POST('/api/entities/{key}/fields', { params: { path: { key: entity } }, body }));
      } catch (error) {
        // What is made is made: only the rest stands there still.
        const rest = wishes.slice(i).map((each) => each.line);
        setText(rest.join('\n'));
        throw new Error(`${label}: ${(error as Error).message}`, { cause: error });
      }
    }
  };
  return (
    <FormDialog
      title={say('addFields.title')}
      className="wide"
      submit={say('addFields.add', wishes.length)}
      incomplete={wishes.length === 0 || wishes.some(isWrong)}
      onSubmit={add}
      onClose={onClose}
    >
      <p>{say('addFields.about')}</p>
      <textarea
        className="bt-input"
        rows={8}
        autoFocus
        dir="auto"
        aria-label={say('addFields.lines')}
        placeholder={say('addFields.example')}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <ul className="field-wishes" aria-live="polite">
        {wishes.map((wish, i) => (
          <li key={i} data-wrong={isWrong(wish) ? '' : undefined}>
            <b>{wish.label}</b> {saidOf(wish, targets)}
          </li>
        ))}
      </ul>
    </FormDialog>
  );
}

const isWrong = ({ unknown, tooLong }: FieldWish) => unknown !== undefined || tooLong === true;

/** What a line becomes, in words. */
function saidOf({ unknown, tooLong, type, target, choices, required }: FieldWish, targets: ReadonlyMap<string, string>): string {
  if (tooLong) return say('addFields.tooLong', longest);
  if (unknown !== undefined) return say('addFields.unknown', unknown);
  const name = type && type in fieldTypes ? say(fieldTypes[type as keyof typeof fieldTypes]) : '';
  return [name, target && targets.get(target), choices?.join(', '), required && say('data.required')].filter(Boolean).join(', ');
}
