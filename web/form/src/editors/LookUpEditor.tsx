import { useEffect, useRef, useState } from 'react';
import { useStore } from '../hooks.ts';
import { say } from '../texts.ts';
import type { RecordName } from '../types.ts';
import { common, type EditorProps } from './props.ts';

/** Searches the records a reference may point at while one types: the combobox pattern of the ARIA practices, with a list box. */
export function LookUpEditor(props: EditorProps) {
  const store = useStore();
  const { language } = store.form;
  const [typed, setTyped] = useState<string>();
  const [found, setFound] = useState<RecordName[]>([]);
  const [at, setAt] = useState(0);
  const asked = useRef(0);
  const open = typed !== undefined;

  useEffect(() => {
    if (typed === undefined) return;
    const ask = ++asked.current;
    const wait = setTimeout(() => {
      store.surroundings.lookUp(props.type.target!, typed).then(
        (names) => {
          // Answers may overtake each other; only the last question counts.
          if (ask === asked.current) {
            setFound(names);
            setAt(0);
          }
        },
        () => setFound([]),
      );
    }, 120);
    return () => clearTimeout(wait);
  }, [typed, store, props.type.target]);

  const choose = (name: RecordName | undefined) => {
    if (!name) return;
    store.remember(props.item.field, name);
    props.onChange(name.id);
    setTyped(undefined);
  };
  const list = `${props.id}-list`;
  return (
    <span className="bt-lookup" onBlur={(event) => { if (!event.currentTarget.contains(event.relatedTarget)) setTyped(undefined); }}>
      <input
        {...common(props)} type="text" className="bt-input" role="combobox" dir="auto" autoComplete="off" aria-expanded={open} aria-controls={list} aria-autocomplete="list"
        aria-activedescendant={open && found[at] ? `${list}-${found[at].id}` : undefined}
        placeholder={props.item.hint ?? say(language, 'search')} value={typed ?? store.name(props.item.field)?.title ?? (props.value === null ? '' : `${props.value as number}`)}
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
      {props.value !== null && !open && <button type="button" className="bt-clear bt-lookup-clear" aria-label={say(language, 'clear')} onClick={() => props.onChange(null)}>×</button>}
      {open && (
        <ul className="bt-list" id={list} role="listbox" aria-labelledby={props.labelId}>
          {found.length === 0 && <li className="bt-list-none">{say(language, 'none')}</li>}
          {found.map((name, i) => (
            <li key={name.id} id={`${list}-${name.id}`} role="option" aria-selected={i === at} className="bt-list-option" onMouseDown={(event) => event.preventDefault()} onClick={() => choose(name)}>
              {name.title}
            </li>
          ))}
        </ul>
      )}
    </span>
  );
}
