import { useState } from 'react';

interface NameFormProps {
  label: string;
  submit: string;
  /** Whether there are as many as there may be. */
  full?: boolean;
  onAdd: (name: string) => void;
}

/** One more of something, by its name. */
export function NameForm({ label, submit, full = false, onAdd }: NameFormProps) {
  const [name, setName] = useState('');
  return (
    <form
      className="application-acts"
      onSubmit={(event) => {
        event.preventDefault();
        if (!name.trim()) return;
        onAdd(name.trim());
        setName('');
      }}
    >
      <input
        className="bt-input"
        dir="auto"
        maxLength={100}
        aria-label={label}
        placeholder={label}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <button type="submit" className="button" disabled={!name.trim() || full}>
        {submit}
      </button>
    </form>
  );
}
