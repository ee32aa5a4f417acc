import { useEffect, useRef } from 'react';
import { useStore } from '../hooks.ts';
import { say } from '../texts.ts';
import type { FieldType, Json } from '../types.ts';
import { common, type EditorProps } from './props.ts';

/** Retired choices are offered only to the record that has one. */
const offered = (type: FieldType, value: Json) => (type.choices ?? []).filter((choice) => !choice.retired || choice.key === value || (Array.isArray(value) && value.includes(choice.key)));

export function SelectEditor(props: EditorProps) {
  const { language } = useStore().form;
  return (
    <select {...common(props)} className="bt-input bt-select" value={(props.value as string | null) ?? ''} onChange={(event) => props.onChange(event.target.value || null)}>
      <option value="">{props.item.hint ?? say(language, 'choose')}</option>
      {offered(props.type, props.value).map((choice) => <option key={choice.key} value={choice.key}>{choice.label}</option>)}
    </select>
  );
}

function Options<T extends string | boolean | number>(props: EditorProps & { options: { key: T | null; label: string }[]; chosen: T | null; className?: string }) {
  return (
    <div className={`bt-options ${props.className ?? ''}`} role="radiogroup" aria-labelledby={props.labelId} aria-required={props.required || undefined} aria-invalid={props.invalid || undefined} aria-describedby={props.describedBy}>
      {props.options.map((option, i) => (
        <label className="bt-option" key={String(option.key)}>
          <input id={i === 0 ? props.id : undefined} type="radio" name={props.id} checked={option.key === props.chosen} onChange={() => props.onChange(option.key)} />
          <span>{option.label}</span>
        </label>
      ))}
    </div>
  );
}

export function RadioEditor(props: EditorProps) {
  return <Options {...props} chosen={props.value as string | null} options={offered(props.type, props.value)} />;
}

/** Yes, no, and that nobody has said. */
export function YesNoEditor(props: EditorProps) {
  const { language } = useStore().form;
  const options = [{ key: true, label: say(language, 'yes') }, { key: false, label: say(language, 'no') }, ...(props.required ? [] : [{ key: null, label: say(language, 'notSaid') }])];
  return <Options<boolean> {...props} chosen={props.value as boolean | null} options={options} />;
}

export function StarsEditor(props: EditorProps) {
  const { language } = useStore().form;
  const max = props.type.max ?? 5;
  return (
    <div className="bt-stars" role="radiogroup" aria-labelledby={props.labelId} aria-describedby={props.describedBy} aria-invalid={props.invalid || undefined}>
      {Array.from({ length: max }, (_, i) => i + 1).map((star) => (
        <label key={star} className="bt-star" data-on={typeof props.value === 'number' && star <= props.value ? '' : undefined}>
          <input id={star === 1 ? props.id : undefined} type="radio" name={props.id} checked={props.value === star} aria-label={say(language, 'stars', String(star), String(max))} onChange={() => props.onChange(star)} />
          <span aria-hidden>★</span>
        </label>
      ))}
      {props.value !== null && <button type="button" className="bt-clear" onClick={() => props.onChange(null)}>{say(language, 'clear')}</button>}
    </div>
  );
}

/** A box that nobody has ticked or unticked yet shows a third state. */
export function CheckEditor(props: EditorProps) {
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (box.current) box.current.indeterminate = props.value === null;
  }, [props.value]);
  return (
    <input {...common(props)} ref={box} type="checkbox" role={props.item.editor === 'switch' ? 'switch' : undefined} className={props.item.editor === 'switch' ? 'bt-switch' : 'bt-check'} checked={props.value === true} onChange={(event) => props.onChange(event.target.checked)} />
  );
}

export function ChecksEditor(props: EditorProps) {
  const chosen = (props.value as string[] | null) ?? [];
  const choices = offered(props.type, props.value);
  return (
    <div className="bt-options" role="group" aria-labelledby={props.labelId} aria-describedby={props.describedBy}>
      {choices.map((choice, i) => (
        <label className="bt-option" key={choice.key}>
          <input
            id={i === 0 ? props.id : undefined} type="checkbox" checked={chosen.includes(choice.key)}
            onChange={(event) => {
              const next = choices.filter((each) => (each.key === choice.key ? event.target.checked : chosen.includes(each.key))).map((each) => each.key);
              props.onChange(next.length > 0 ? next : null);
            }}
          />
          <span>{choice.label}</span>
        </label>
      ))}
    </div>
  );
}
