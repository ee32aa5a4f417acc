import { useId, useRef, type ReactNode } from 'react';
import { placeBeneath } from '#form';

/**
 * What is seldom changed, one press away: a button, and what it opens beneath it. It is the browser's own: Escape and a press elsewhere
 * close it (HTML, the popover attribute).
 */
export function Popover({ label, name, children }: { label: string; name: string; children: ReactNode }) {
  const id = useId();
  const button = useRef<HTMLButtonElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  return (
    <>
      <button ref={button} type="button" className="tool" popoverTarget={id}>
        {label}
      </button>
      <div
        ref={panel}
        id={id}
        className="popover"
        popover="auto"
        role="dialog"
        aria-label={name}
        onToggle={(event) => {
          if (event.newState === 'open') placeBeneath(panel.current!, button.current!);
        }}
      >
        {children}
      </div>
    </>
  );
}
