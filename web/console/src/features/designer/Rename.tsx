import { useRef, useState } from 'react';
import { say } from '../../shell/configurator/texts.ts';

/** A name written where it stands: Enter keeps it, Escape leaves it as it was. */
export function Rename({ name, onDone }: { name: string; onDone: (name: string | undefined) => void }) {
  const [typed, setTyped] = useState(name);
  const over = useRef(false);
  // Enter takes the input away, which leaves it too: done is done once.
  const done = (said: string | undefined) => {
    if (over.current) return;
    over.current = true;
    onDone(said);
  };
  return (
    <input
      className="mark-rename"
      aria-label={say('common.name')}
      dir="auto"
      autoFocus
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={() => done(typed)}
      onClick={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') done(typed);
        if (event.key === 'Escape') done(undefined);
      }}
    />
  );
}
