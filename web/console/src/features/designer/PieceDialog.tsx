import { FormStore, FormView, type FormHost, type ResolvedForm } from '#form';
import { useLayoutEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { guessBinding } from '#layout';
import { FormDialog } from '../../ui/FormDialog.tsx';
import type { FieldInfo, Piece } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useAnswer } from '../../shell/queries.ts';

export interface Binding {
  slots: Record<string, string>;
  /** Whether later changes of the piece show here too. */
  linked: boolean;
}

interface PieceDialogProps {
  piece: Piece;
  fields: FieldInfo[];
  placed: Set<string>;
  /** Reads how the piece is drawn by itself. */
  read: () => Promise<ResolvedForm>;
  host: FormHost;
  onDone: (binding: Binding | undefined) => void;
}

/** What each slot of a piece is bound to here, and whether the piece stays linked. */
export function PieceDialog({ piece, fields, placed, read, host, onDone }: PieceDialogProps) {
  const [linked, setLinked] = useState(true);
  const [slots, setSlots] = useState<Record<string, string>>(() => guessBinding(piece.slots, fields, placed).slots);
  const missing = piece.slots.filter((slot) => !slot.optional && !slots[slot.slot]);
  const choiceOf = (slot: Slot) => (
    <SlotChoice
      slot={slot}
      fields={fields}
      placed={placed}
      value={slots[slot.slot] ?? ''}
      onChange={(field) => setSlots({ ...slots, [slot.slot]: field })}
    />
  );
  return (
    <FormDialog
      title={say('pieceDialog.whichFields', piece.title)}
      className="wide"
      submit={say('pane.fields')}
      incomplete={missing.length > 0}
      ready
      onSubmit={() => ({ slots: Object.fromEntries(Object.entries(slots).filter(([, field]) => field)), linked })}
      onClose={onDone}
    >
      <PieceSlots piece={piece} read={read} host={host} choiceOf={choiceOf} />
      <label className="dialog-check">
        <input type="radio" name="linked" checked={linked} onChange={() => setLinked(true)} /> {say('pieceDialog.linkedLaterChangesOfThe')}
      </label>
      <label className="dialog-check">
        <input type="radio" name="linked" checked={!linked} onChange={() => setLinked(false)} /> {say('pieceDialog.aCopyOfItsOwn')}
      </label>
    </FormDialog>
  );
}

type Slot = Piece['slots'][number];

interface PieceSlotsProps {
  piece: Piece;
  read: () => Promise<ResolvedForm>;
  host: FormHost;
  choiceOf: (slot: Slot) => ReactNode;
}

/** The piece as it is drawn, with a choice of fields where it shows each slot; what it does not show comes beneath. */
function PieceSlots({ piece, read, host, choiceOf }: PieceSlotsProps) {
  const { data: form, problem } = useAnswer(['layouts', 'piece', piece.key], read);
  const frame = useRef<HTMLDivElement>(null);
  const drawing = useMemo(() => form && drawnSlots(form, piece.slots, host), [form, piece, host]);
  useLayoutEffect(() => {
    if (drawing) frame.current?.replaceChildren(drawing.element);
  }, [drawing]);
  if (!drawing && !problem) return <div className="piece-drawing" />;
  return (
    <>
      {drawing && <div className="piece-drawing" ref={frame} />}
      {piece.slots.map((slot) => {
        const place = drawing?.places.get(slot.slot);
        if (place) return createPortal(choiceOf(slot), place, slot.slot);
        return (
          <div key={slot.slot} className="slot">
            <label htmlFor={idOf(slot)}>{slot.label}</label>
            {choiceOf(slot)}
          </div>
        );
      })}
    </>
  );
}

const idOf = ({ slot }: Slot) => `slot-${slot}`;

/** A form that does nothing, and where in it each slot is shown. */
function drawnSlots(form: ResolvedForm, slots: readonly Slot[], host: FormHost): { element: HTMLElement; places: Map<string, Element> } {
  const view = new FormView(new FormStore(form, {}, {}, host, { showHidden: true }));
  const element = view.element.cloneNode(true) as HTMLElement;
  view.dispose();
  const places = new Map<string, Element>();
  for (const slot of slots) {
    const field = element.querySelector(`[data-field="${CSS.escape(slot.slot)}"]`);
    const control = field?.querySelector('.bt-control');
    if (!control) continue;
    control.replaceChildren();
    field!.querySelector('label')?.setAttribute('for', idOf(slot));
    places.set(slot.slot, control);
  }
  return { element, places };
}

interface SlotChoiceProps {
  slot: Slot;
  fields: FieldInfo[];
  placed: Set<string>;
  value: string;
  onChange: (field: string) => void;
}

/** Which field a slot is bound to, of those that fit. */
function SlotChoice({ slot, fields, placed, value, onChange }: SlotChoiceProps) {
  const fitting = fields.filter((field) => slot.types.includes(field.type) && !field.retired);
  const types = () => slot.types.reduce((one, other) => say('pieceDialog.or', one, other));
  return (
    <select id={idOf(slot)} className="tool-input" value={value} onChange={(event) => onChange(event.target.value)}>
      {(slot.optional || fitting.length === 0 || !value) && (
        <option value="">
          {slot.optional
            ? say('pieceDialog.nothing')
            : fitting.length === 0
              ? say('pieceDialog.noField', types())
              : say('pieceDialog.choose')}
        </option>
      )}
      {fitting.map((field) => (
        <option key={field.key} value={field.key}>
          {placed.has(field.key) ? say('pieceDialog.placed', field.label) : field.label}
        </option>
      ))}
    </select>
  );
}
