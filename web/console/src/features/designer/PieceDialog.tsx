import { useState } from 'react';
import { guessBinding } from '#layout';
import { FormDialog } from '../../ui/FormDialog.tsx';
import type { FieldInfo, Piece } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

export interface Binding {
  slots: Record<string, string>;
  /** Whether later changes of the piece show here too. */
  linked: boolean;
}

/** What each slot of a piece is bound to here, and whether the piece stays linked. */
export function PieceDialog({
  piece,
  fields,
  placed,
  onDone,
}: {
  piece: Piece;
  fields: FieldInfo[];
  placed: Set<string>;
  onDone: (binding: Binding | undefined) => void;
}) {
  const [linked, setLinked] = useState(true);
  const [slots, setSlots] = useState<Record<string, string>>(() => guessBinding(piece.slots, fields, placed).slots);
  const missing = piece.slots.filter((slot) => !slot.optional && !slots[slot.slot]);
  return (
    <FormDialog
      title={say('pieceDialog.whichFields', piece.title)}
      submit={say('pane.fields')}
      incomplete={missing.length > 0}
      ready
      onSubmit={() => ({ slots: Object.fromEntries(Object.entries(slots).filter(([, field]) => field)), linked })}
      onClose={onDone}
    >
      {piece.slots.map((slot) => (
        <SlotChoice
          key={slot.slot}
          slot={slot}
          fields={fields}
          placed={placed}
          value={slots[slot.slot] ?? ''}
          onChange={(field) => setSlots({ ...slots, [slot.slot]: field })}
        />
      ))}
      <label className="dialog-check">
        <input type="radio" name="linked" checked={linked} onChange={() => setLinked(true)} /> {say('pieceDialog.linkedLaterChangesOfThe')}
      </label>
      <label className="dialog-check">
        <input type="radio" name="linked" checked={!linked} onChange={() => setLinked(false)} /> {say('pieceDialog.aCopyOfItsOwn')}
      </label>
    </FormDialog>
  );
}

interface SlotChoiceProps {
  slot: Piece['slots'][number];
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
    <div className="slot">
      <label htmlFor={`slot-${slot.slot}`}>{slot.label}</label>
      <select id={`slot-${slot.slot}`} className="tool-input" value={value} onChange={(event) => onChange(event.target.value)}>
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
    </div>
  );
}
