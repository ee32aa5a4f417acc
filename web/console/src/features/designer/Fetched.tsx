import { Suspense, useEffect, useEffectEvent, useRef, type ReactNode } from 'react';

interface FetchedProps {
  /** The id the control has once it is there. */
  id: string;
  /** What it says. */
  value: string;
  children: ReactNode;
}

/** A control that is fetched when it is first needed: until then what it says is read in its place, and the focus goes over to it. */
export function Fetched({ id, value, children }: FetchedProps) {
  const held = useRef(false);
  return (
    <Suspense fallback={<textarea id={id} className="tool-input" readOnly value={value} rows={1} onFocus={() => (held.current = true)} />}>
      {children}
      <Arrival
        run={() => {
          const control = document.getElementById(id);
          if (document.getElementById(`${id}-about`)) control?.setAttribute('aria-describedby', `${id}-about`);
          // What goes takes the focus with it; somebody who went on has it elsewhere.
          if (held.current && document.activeElement === document.body) control?.focus();
        }}
      />
    </Suspense>
  );
}

/** Does something once what stands beside it is there. */
function Arrival({ run }: { run: () => void }) {
  const arrive = useEffectEvent(run);
  useEffect(() => arrive(), []);
  return null;
}
