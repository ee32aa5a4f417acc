import { useState } from 'react';
import { useStore } from '../hooks.ts';
import { formatNumber, fromLocal, parseNumber, toLocal } from '../values.ts';
import { common, type EditorProps } from './props.ts';

const text = (value: EditorProps['value']) => (value === null ? '' : String(value));

const kinds: Record<string, { type: string; inputMode?: 'email' | 'tel' | 'url'; autoComplete?: string }> = {
  'e-mail': { type: 'email', inputMode: 'email' },
  phone: { type: 'tel', inputMode: 'tel' },
  'web-address': { type: 'url', inputMode: 'url' },
};

/** Drawn without a component of its own, as forms are mostly such lines. */
export function line(props: EditorProps) {
  const { type, ...rest } = kinds[props.item.editor] ?? { type: 'text' };
  return (
    <input
      {...common(props)} {...rest} type={type} className="bt-input" dir="auto" autoComplete="off" placeholder={props.item.hint} value={text(props.value)}
      onChange={(event) => props.onChange(event.target.value === '' ? null : event.target.value)}
    />
  );
}

export function lines(props: EditorProps) {
  return (
    <textarea
      {...common(props)} className="bt-input bt-textarea" dir="auto" rows={Math.max(2, props.item.lines)} placeholder={props.item.hint} value={text(props.value)}
      onChange={(event) => props.onChange(event.target.value === '' ? null : event.target.value)}
    />
  );
}

/** Keeps the text as it is typed; what is no number stays in view and is said to be wrong on leaving. */
export function NumberEditor(props: EditorProps) {
  const { language } = useStore().form;
  const shown = typeof props.value === 'number' ? formatNumber(props.value, props.type, language) : text(props.value);
  const [typing, setTyping] = useState<string>();
  return (
    <span className="bt-affixed">
      <input
        {...common(props)} type="text" inputMode={props.type.type === 'integer' || props.type.type === 'rating' ? 'numeric' : 'decimal'} className="bt-input bt-number" dir="ltr"
        autoComplete="off" placeholder={props.item.hint} value={typing ?? shown}
        onChange={(event) => {
          setTyping(event.target.value);
          const trimmed = event.target.value.trim();
          props.onChange(trimmed === '' ? null : (parseNumber(trimmed, language) ?? trimmed));
        }}
        onBlur={() => setTyping(undefined)}
      />
      {props.type.unit && <span className="bt-unit">{props.type.unit}</span>}
    </span>
  );
}

export function SliderEditor(props: EditorProps) {
  const { language } = useStore().form;
  const [min, max] = [props.type.min ?? 0, props.type.max ?? 100];
  const empty = typeof props.value !== 'number';
  return (
    <span className="bt-affixed" data-empty={empty ? '' : undefined}>
      <input
        {...common(props)} type="range" className="bt-slider" min={min} max={max} step={10 ** -(props.type.scale ?? 0)} value={empty ? min : (props.value as number)}
        onChange={(event) => props.onChange(Number(event.target.value))}
      />
      <output className="bt-unit" htmlFor={props.id}>{empty ? '–' : `${formatNumber(props.value as number, props.type, language)}${props.type.unit ? `\u00a0${props.type.unit}` : ''}`}</output>
    </span>
  );
}

export function date(props: EditorProps) {
  return <input {...common(props)} type="date" className="bt-input" max="9999-12-31" value={text(props.value)} onChange={(event) => props.onChange(event.target.value || null)} />;
}

export function time(props: EditorProps) {
  return <input {...common(props)} type="time" className="bt-input" value={text(props.value)} onChange={(event) => props.onChange(event.target.value || null)} />;
}

/** Shown and entered by the clock of the viewer's time zone, kept in UTC. */
export function DateTimeEditor(props: EditorProps) {
  const { timeZone } = useStore().surroundings;
  return (
    <input
      {...common(props)} type="datetime-local" className="bt-input" max="9999-12-31T23:59" value={props.value === null ? '' : toLocal(props.value as string, timeZone)}
      onChange={(event) => props.onChange(event.target.value ? fromLocal(event.target.value.slice(0, 16), timeZone) : null)}
    />
  );
}
