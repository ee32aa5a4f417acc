import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { isList, type Subject, type TreeNode } from '#layout';
import type { EntityInfo, FieldInfo, Piece } from '../../api/client.ts';
import { partsFor } from './parts.ts';
import { placedOn } from './placedFields.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';

const noFields: FieldInfo[] = [];

interface PaletteProps {
  onStart: (subject: Subject) => void;
  onStartSeveral: (subjects: Subject[]) => void;
  entity: EntityInfo | undefined;
  tree: TreeNode;
  pieces: Piece[];
  onSelect: (id: string) => void;
  onAddField: (() => void) | undefined;
}

/** Fields and parts: the fields that are not on the layout, with the reason, parts and pieces; and which fields are on it. */
export function Palette({ entity, tree, pieces, onStart, onStartSeveral, onSelect, onAddField }: PaletteProps) {
  const [search, setSearch] = useState('');
  const fields = entity?.fields ?? noFields;
  const placed = placedOn(tree);
  const list = isList(tree);
  // Moving things about changes nothing here: only what is placed and what is searched for does.
  const key = [...placed.keys()].join(' ');
  const shown = useFieldLists({ fields, key, search, onStart, onStartSeveral, onSelect: (field) => onSelect(placed.get(field)!) });
  const lines = useNextInLine(key);
  return (
    <div className="palette" ref={lines}>
      <input
        className="tool-input"
        type="search"
        placeholder={say('palette.searchFieldsAndPieces')}
        aria-label={say('palette.searchFieldsAndPieces')}
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      <h3>
        {say(list ? 'palette.notInList' : 'palette.notOnForm')} <small>{shown.left}</small>
      </h3>
      {shown.unplaced}
      {shown.left === 0 && (
        <p className="palette-none">{say(search ? 'palette.noSuchField' : list ? 'palette.allInList' : 'palette.allOnForm')}</p>
      )}
      {onAddField && (
        <button type="button" className="tool palette-add" onClick={onAddField}>
          {say('palette.addAField')}
        </button>
      )}
      <PartsAndPieces tree={tree} entity={entity} pieces={list ? [] : pieces} search={search} onStart={onStart} />
      <h3>
        {list ? say('palette.inTheList') : say('palette.onTheForm')} <small>{shown.on}</small>
      </h3>
      {shown.used}
    </div>
  );
}

interface PartsAndPiecesProps {
  tree: TreeNode;
  entity: EntityInfo | undefined;
  pieces: Piece[];
  search: string;
  onStart: (subject: Subject) => void;
}

/** What can be put on a form beside its fields. */
function PartsAndPieces({ tree, entity, pieces, search, onStart }: PartsAndPiecesProps) {
  return (
    <>
      {partsFor(tree, entity).map((group) => {
        const matching = group.parts.filter((part) => part.name.toLowerCase().includes(search.toLowerCase()));
        return (
          matching.length > 0 && (
            <section key={group.name}>
              <h3>{group.name}</h3>
              <ul className={group.parts[0]?.subject.part === 'related' ? undefined : 'palette-parts'}>
                {matching.map((part) => (
                  <Entry key={part.name} subject={part.subject} name={part.name} onPress={() => onStart(part.subject)} />
                ))}
              </ul>
            </section>
          )
        );
      })}
      {pieces.length > 0 && (
        <h3>
          {say('palette.pieces')} <small>{pieces.length}</small>
        </h3>
      )}
      <ul>
        {pieces
          .filter((piece) => piece.title.toLowerCase().includes(search.toLowerCase()))
          .map((piece) => (
            <Entry
              key={piece.key}
              subject={{ piece: piece.key }}
              name={piece.title}
              kind={say('palette.uses', piece.uses.length)}
              onPress={() => onStart({ piece: piece.key })}
            />
          ))}
      </ul>
    </>
  );
}

/** Some twenty at a time, of which only those in sight are painted: a pane of hundreds of fields costs no more than a screen of them. */
const Many = ({ of, children }: { of: FieldInfo[]; children: (field: FieldInfo) => React.ReactNode }) =>
  Array.from({ length: Math.ceil(of.length / 20) }, (_, i) => (
    <ul key={i} className={of.length > 20 ? 'palette-many' : undefined}>
      {of.slice(i * 20, i * 20 + 20).map(children)}
    </ul>
  ));

/**
 * What a press on a field of a list comes to: it is placed, with all that are picked; with Ctrl it is picked too, with Shift all between.
 */
function pressed(order: string[], picked: readonly string[], field: string, event: PressKeys): { next: string[]; placing: string[] } {
  if (event.ctrlKey || event.metaKey)
    return { next: picked.includes(field) ? picked.filter((each) => each !== field) : [...picked, field], placing: [] };
  if (event.shiftKey && picked.length > 0) {
    const [from = 0, to = 0] = [order.indexOf(picked.at(-1)!), order.indexOf(field)].sort((a, b) => a - b);
    return { next: [...new Set([...picked, ...order.slice(from, to + 1)])], placing: [] };
  }
  return { next: [], placing: picked.includes(field) ? order.filter((each) => picked.includes(each)) : [field] };
}

type PressKeys = Pick<MouseEvent, 'ctrlKey' | 'metaKey' | 'shiftKey'>;

/**
 * Where a field that had the focus is placed, the one that takes its place in the list has it next: pressed again, the next follows.
 * @param placed what changes when something is placed
 */
function useNextInLine(placed: string) {
  const list = useRef<HTMLDivElement>(null);
  const line = useRef(-1);
  useEffect(() => {
    const element = list.current!;
    const entries = () => [...element.querySelectorAll<HTMLElement>('.palette-entry')];
    const note = (event: FocusEvent) => (line.current = entries().indexOf(event.target as HTMLElement));
    element.addEventListener('focusin', note);
    return () => element.removeEventListener('focusin', note);
  }, []);
  useEffect(() => {
    if (document.activeElement !== document.body || line.current < 0) return;
    list.current?.querySelectorAll<HTMLElement>('.palette-entry')[line.current]?.focus({ preventScroll: true });
  }, [placed]);
  return list;
}

interface EntryProps {
  subject: Subject;
  name: string;
  kind?: string;
  note?: string | undefined;
  /** The fields that are picked with it, in their order. */
  picked?: readonly string[] | undefined;
  onPress: (event: PressKeys) => void;
}

/** Dragged with the mouse; a press places it at once. */
function Entry({ subject, name, kind, note, picked, onPress }: EntryProps) {
  const element = useRef<HTMLButtonElement>(null);
  const key = JSON.stringify(subject);
  const several = picked && picked.length > 1 ? picked.join(' ') : '';
  useEffect(
    () =>
      draggable({
        element: element.current!,
        getInitialData: () => ({
          subject: JSON.parse(key) as Subject,
          ...(several ? { subjects: several.split(' ').map((field) => ({ field })) } : {}),
        }),
      }),
    [key, several],
  );
  return (
    <li>
      <button
        ref={element}
        type="button"
        className="palette-entry"
        data-subject={key}
        aria-pressed={picked ? true : undefined}
        title={say('palette.dragItToTheForm')}
        onClick={onPress}
      >
        <span>{name}</span>
        {kind && <small>{kind}</small>}
        {note && (
          <small className="palette-note" data-note={note}>
            {note}
          </small>
        )}
      </button>
    </li>
  );
}

/** What is to be known of a field before it is placed. */
function noteOf(field: FieldInfo): string | undefined {
  if (field.retired) return say('palette.retired');
  if (field.required) return say('palette.required');
  return field.advised ? say('palette.advised') : undefined;
}

interface FieldListsProps extends Pick<PaletteProps, 'onStart' | 'onStartSeveral'> {
  fields: readonly FieldInfo[];
  /** The keys of the placed ones, with spaces between. */
  key: string;
  search: string;
  onSelect: (field: string) => void;
}

/** The fields that are not placed and those that are, as they are drawn, and how many these are. */
function useFieldLists({ fields, key, search, onStart, onStartSeveral, onSelect }: FieldListsProps) {
  const acts = useRef({ onStart, onStartSeveral, onSelect });
  useLayoutEffect(() => {
    acts.current = { onStart, onStartSeveral, onSelect };
  });
  const [picked, setPicked] = useState<readonly string[]>([]);
  return useMemo(() => {
    const { unplaced, used } = parted(fields, key.split(' '), search);
    const order = unplaced.map((field) => field.key);
    const chosen = order.filter((each) => picked.includes(each));
    const press = (field: string, event: PressKeys) => {
      const { next, placing } = pressed(order, picked, field, event);
      setPicked(next);
      if (placing.length > 1) acts.current.onStartSeveral(placing.map((each) => ({ field: each })));
      else if (placing.length === 1) acts.current.onStart({ field: placing[0]! });
    };
    return {
      left: unplaced.length,
      on: used.length,
      unplaced: (
        <Many of={unplaced}>
          {(field) => (
            <Entry
              key={field.key}
              subject={{ field: field.key }}
              name={field.label}
              kind={sayGrammar('word', field.type)}
              note={noteOf(field)}
              picked={chosen.includes(field.key) ? chosen : undefined}
              onPress={(event) => press(field.key, event)}
            />
          )}
        </Many>
      ),
      used: (
        <Many of={used}>
          {(field) => (
            <li key={field.key}>
              <button type="button" className="palette-used" onClick={() => acts.current.onSelect(field.key)}>
                <span>{field.label}</span>
                <small>{sayGrammar('word', field.type)}</small>
              </button>
            </li>
          )}
        </Many>
      ),
    };
  }, [fields, key, search, picked]);
}

/** The fields that are searched for: those not placed, required ones first and retired ones last; and those that are. */
function parted(fields: readonly FieldInfo[], placed: readonly string[], search: string) {
  const on = new Set(placed);
  const matching = fields.filter((field) => `${field.label} ${field.key} ${field.type}`.toLowerCase().includes(search.toLowerCase()));
  const unplaced = matching
    .filter((field) => !on.has(field.key))
    .sort((a, b) => Number(b.required) - Number(a.required) || Number(a.retired) - Number(b.retired));
  return { unplaced, used: matching.filter((field) => on.has(field.key)) };
}
