import { useEffect, useRef, useState } from 'react';
import { useTold } from '../hooks.ts';
import { say } from '../texts.ts';
import type { Json, RecordName } from '../types.ts';
import { common, type EditorProps } from './props.ts';

/** A value as a condition writes it. */
const literal = (value: Json, type: string) => (typeof value === 'number' ? (type === 'decimal' || type === 'money' ? value.toFixed(6) : String(value)) : typeof value === 'boolean' ? String(value) : `'${String(value).replace(/\\/g, '\\\\').replace(/'/g, "\\'")}'`);

/** Searches the records a reference may point at while one types: the combobox pattern of the ARIA practices, with a list box. */
export function LookUpEditor(props: EditorProps) {
  const { item, type } = props;
  const store = useTold(item.filterBy ? 'values' : `field:${item.field}`);
  const { language } = store.form;
  const target = type.target!;
  const [typed, setTyped] = useState<string>();
  const [found, setFound] = useState<RecordName[]>([]);
  const [lately, setLately] = useState(0);
  const [at, setAt] = useState(0);
  const asked = useRef(0);
  const box = useRef<HTMLInputElement>(null);
  const open = typed !== undefined;
  // Only what is filtered by other fields redraws with them.
  const filter = Object.entries(item.filterBy ?? {}).flatMap(([theirs, ours]) => {
    const value = store.get(ours);
    return value === null || value === undefined || value === '' || Array.isArray(value) ? [] : [`record.${theirs} == ${literal(value, store.form.fields[ours]?.type ?? 'text')}`];
  }).join(' && ');

  useEffect(() => {
    if (typed === undefined) return undefined;
    const ask = ++asked.current;
    const how = { ...(filter ? { filter } : {}), ...(item.display ? { display: item.display } : {}) };
    const wait = setTimeout(() => {
      // Before anything is typed, what was picked lately comes first.
      const recent = typed === '' && !filter ? (store.surroundings.recent?.(target) ?? []) : [];
      Promise.all([recent.length > 0 ? store.surroundings.lookUp(target, '', { ...how, ids: recent }) : [], store.surroundings.lookUp(target, typed, how)]).then(
        ([first, names]) => {
          // Answers may overtake each other; only the last question counts.
          if (ask !== asked.current) return;
          setLately(first.length);
          setFound([...first, ...names.filter((name) => !first.some((each) => each.id === name.id))]);
          setAt(0);
        },
        () => setFound([]),
      );
    }, 120);
    return () => clearTimeout(wait);
  }, [typed, store, target, filter, item.display]);

  const choose = (name: RecordName | undefined) => {
    if (!name) return;
    store.remember(item.field, name);
    store.surroundings.picked?.(target, name.id);
    props.onChange(name.id);
    setTyped(undefined);
    if (item.copies) store.copy(item.field, target, name.id, item.copies);
  };
  const make = async () => {
    setTyped(undefined);
    choose(await store.surroundings.create?.(target));
    box.current?.focus();
  };
  const list = `${props.id}-list`;
  const name = store.name(item.field);
  const can = item.creates === true && store.surroundings.create !== undefined;
  return (
    <span className="bt-lookup" onBlur={(event) => { if (!event.currentTarget.contains(event.relatedTarget)) setTyped(undefined); }}>
      <input
        {...common(props)} ref={box} type="text" className="bt-input" role="combobox" dir="auto" autoComplete="off" aria-expanded={open} aria-controls={list} aria-autocomplete="list"
        aria-activedescendant={open && found[at] ? `${list}-${found[at].id}` : undefined}
        placeholder={item.hint ?? say(language, 'search')} value={typed ?? name?.title ?? (props.value === null ? '' : `${props.value as number}`)}
        onClick={() => { if (!open && props.value === null) setTyped(''); }}
        onChange={(event) => {
          setTyped(event.target.value);
          if (event.target.value === '') props.onChange(null);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') {
            event.preventDefault();
            if (open) setAt(Math.min(at + 1, found.length - 1));
            else setTyped('');
          } else if (event.key === 'ArrowUp' && open) {
            event.preventDefault();
            setAt(Math.max(at - 1, 0));
          } else if (event.key === 'Enter' && open) {
            event.preventDefault();
            choose(found[at]);
          } else if (event.key === 'Escape' && open) {
            event.stopPropagation();
            setTyped(undefined);
          }
        }}
      />
      {props.value !== null && !open && (
        <span className="bt-lookup-acts">
          {store.surroundings.open && <button type="button" className="bt-clear" aria-label={say(language, 'openBeside', name?.title ?? '')} title={say(language, 'openBeside', name?.title ?? '')} onClick={() => store.surroundings.open!(target, props.value as number)}><span aria-hidden className="bt-open-mark">↗</span></button>}
          <button type="button" className="bt-clear bt-lookup-clear" aria-label={say(language, 'clear')} onClick={() => { props.onChange(null); box.current?.focus(); }}>×</button>
        </span>
      )}
      {open && (
        <div className="bt-list">
          <ul id={list} role="listbox" aria-labelledby={props.labelId}>
            {found.length === 0 && <li className="bt-list-none">{say(language, 'none')}</li>}
            {found.map((each, i) => (
              <li key={each.id} id={`${list}-${each.id}`} role="option" aria-selected={i === at} className="bt-list-option" data-lately={i < lately ? '' : undefined} onMouseDown={(event) => event.preventDefault()} onClick={() => choose(each)}>
                {each.title}{i < lately && <small>{say(language, 'lately')}</small>}
              </li>
            ))}
          </ul>
          {can && <button type="button" className="bt-list-make" onMouseDown={(event) => event.preventDefault()} onClick={() => void make()}>{say(language, 'makeOne')}</button>}
        </div>
      )}
    </span>
  );
}
