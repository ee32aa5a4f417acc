import { useState } from 'react';
import { answer, api, type EntitySummary } from '../../api/client.ts';
import { fieldTypes } from '../../shell/configurator/fieldTypes.ts';
import { say } from '../../shell/configurator/texts.ts';
import { textIn, type LocalText } from '../../shell/localTexts.ts';
import { useAnswer } from '../../shell/queries.ts';
import type { FieldFile } from './entityFile.ts';

interface FieldLineProps {
  entity: string;
  field: FieldFile;
  entities: EntitySummary[];
  language: string;
  disabled: boolean;
  /** A text with what it says in the chosen language replaced. */
  textOf: (of: LocalText, next: string) => LocalText;
  onChange: (more: Partial<FieldFile>) => void;
}

/** The types that can be told apart by their value. */
const tellApart = new Set(['text', 'email', 'phone', 'url', 'integer']);

/** A field as a line one changes where it stands: kept when one leaves the place. */
export function FieldLine({ entity, field, entities, language, disabled, textOf, onChange }: FieldLineProps) {
  const [asked, setAsked] = useState(false);
  const label = textIn(field.label, language) || field.key;
  const input = (name: string, shown: string, onText: (text: string) => void) => (
    <input
      key={shown}
      className="bt-input"
      aria-label={`${label}: ${name}`}
      maxLength={400}
      defaultValue={shown}
      disabled={disabled}
      onBlur={(event) => event.target.value !== shown && onText(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
  const check = (name: string, checked: boolean, change: (on: boolean) => void, possible = true) => (
    <input
      type="checkbox"
      aria-label={`${label}: ${name}`}
      checked={checked}
      disabled={disabled || !possible}
      onChange={(event) => change(event.target.checked)}
    />
  );
  return (
    <tr data-left={field.retired ? '' : undefined}>
      <td data-label={say('data.field')}>
        {input(say('data.field'), textIn(field.label, language), (text) => onChange({ label: textOf(field.label, text) || field.key }))}
      </td>
      <td data-label={say('data.key')}>{field.key}</td>
      <td data-label={say('data.type')}>{typeOf(field, entities, language)}</td>
      <td data-label={say('data.required')}>
        {check(say('data.required'), field.required ?? false, (required) => onChange({ required }))}
      </td>
      <td data-label={say('data.unique')}>
        {check(say('data.unique'), field.unique ?? false, (unique) => onChange({ unique }), tellApart.has(field.type))}
      </td>
      <td data-label={say('data.help')}>
        {input(say('data.help'), textIn(field.help, language), (text) => onChange({ help: textOf(field.help ?? '', text) || undefined }))}
      </td>
      <td>
        <span className="acts">
          <button type="button" className="button quiet" aria-expanded={asked} onClick={() => setAsked(!asked)}>
            {say('data.whereUsed')}
          </button>
          <button type="button" className="button quiet" disabled={disabled} onClick={() => onChange({ retired: !field.retired })}>
            {say(field.retired ? 'layoutsPage.bringBack' : 'data.retire')}
          </button>
        </span>
        {asked && <WhereUsed name={`${entity}.${field.key}`} />}
      </td>
    </tr>
  );
}

function typeOf({ type, target, choices, unit }: FieldFile, entities: EntitySummary[], language: string): string {
  const name = type in fieldTypes ? say(fieldTypes[type as keyof typeof fieldTypes]) : type;
  const more = target ? (entities.find((each) => each.key === target)?.label ?? target) : (choices ?? unit);
  return more ? new Intl.ListFormat(language, { type: 'unit', style: 'short' }).format([name, more]) : name;
}

/** Every place that would notice if the field changed. */
function WhereUsed({ name }: { name: string }) {
  const { data: uses } = useAnswer(['documents', 'uses', name], () =>
    answer(api.GET('/api/impact', { params: { query: { subject: 'field', name } } })),
  );
  if (!uses) return null;
  return uses.length === 0 ? (
    <p className="field-uses">{say('data.nowhere')}</p>
  ) : (
    <ul className="field-uses">
      {uses.map((use) => (
        <li key={`${use.kind} ${use.key} ${use.place} ${use.as}`}>{use.message}</li>
      ))}
    </ul>
  );
}
