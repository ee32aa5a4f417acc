import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { isList, walk, type Subject, type TreeNode } from '#layout';
import type { EntityInfo, FieldInfo, Piece } from '../../api/client.ts';
import { partsFor } from './parts.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';

/** The fields on a form, each with the node that shows it; a piece brings the fields its slots are bound to. */
export const placedOn = (tree: TreeNode) =>
  new Map(
    [...walk(tree)].flatMap((node): [string, string][] =>
      node.kind === 'field' || node.kind === 'column'
        ? [[String(node.properties[node.kind]), node.id]]
        : node.kind === 'piece'
          ? Object.values((node.properties['slots'] ?? {}) as Record<string, string>).map((field) => [field, node.id])
          : [],
    ),
  );

const noFields: FieldInfo[] = [];

/** Fields and parts: the fields that are not on the layout, with the reason, parts and pieces; and which fields are on it. */
export function Palette({
  entity,
  tree,
  pieces,
  onStart,
  onSelect,
  onAddField,
}: {
  entity: EntityInfo | undefined;
  tree: TreeNode;
  pieces: Piece[];
  onStart: (subject: Subject) => void;
  onSelect: (id: string) => void;
  onAddField: (() => void) | undefined;
}) {
  const [search, setSearch] = useState('');
  const fields = entity?.fields ?? noFields;
  const placed = placedOn(tree);
  const list = isList(tree);
  const acts = useRef({ onStart, onSelect, placed });
  useLayoutEffect(() => {
    acts.current = { onStart, onSelect, placed };
  });
  // Moving things about changes nothing here: only what is placed and what is searched for does.
  const key = [...placed.keys()].join(' ');
  const shown = useMemo(() => {
    const on = new Set(key.split(' '));
    const matching = fields.filter((field) => `${field.label} ${field.key} ${field.type}`.toLowerCase().includes(search.toLowerCase()));
    const unplaced = matching
      .filter((field) => !on.has(field.key))
      .sort((a, b) => Number(b.required) - Number(a.required) || Number(a.retired) - Number(b.retired));
    const used = matching.filter((field) => on.has(field.key));
    const start = (subject: Subject) => acts.current.onStart(subject);
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
              onStart={start}
            />
          )}
        </Many>
      ),
      used: (
        <Many of={used}>
          {(field) => (
            <li key={field.key}>
              <button type="button" className="palette-used" onClick={() => acts.current.onSelect(acts.current.placed.get(field.key)!)}>
                <span>{field.label}</span>
                <small>{sayGrammar('word', field.type)}</small>
              </button>
            </li>
          )}
        </Many>
      ),
    };
  }, [fields, key, search]);
  return (
    <div className="palette">
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
                  <Entry key={part.name} subject={part.subject} name={part.name} onStart={onStart} />
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
              onStart={onStart}
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

/** Dragged with the mouse; with Enter it is placed by keyboard. */
function Entry({
  subject,
  name,
  kind,
  note,
  onStart,
}: {
  subject: Subject;
  name: string;
  kind?: string;
  note?: string | undefined;
  onStart: (subject: Subject) => void;
}) {
  const element = useRef<HTMLButtonElement>(null);
  const key = JSON.stringify(subject);
  useEffect(() => draggable({ element: element.current!, getInitialData: () => ({ subject: JSON.parse(key) as Subject }) }), [key]);
  return (
    <li>
      <button
        ref={element}
        type="button"
        className="palette-entry"
        data-subject={key}
        title={say('palette.dragItToTheForm')}
        onClick={() => onStart(subject)}
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
