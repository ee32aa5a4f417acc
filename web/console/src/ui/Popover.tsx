import { useId, useRef, type ReactNode } from 'react';

/**
 * What is seldom changed, one press away: a button, and what it opens beneath it. It is the browser's own: Escape and a press elsewhere
 * close it (HTML, the popover attribute).
 */
export function Popover({ label, name, children }: { label: string; name: string; children: ReactNode }) {
  const id = useId();
  const button = useRef<HTMLButtonElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const place = () => {
    const [at, element] = [button.current!.getBoundingClientRect(), panel.current!];
    const room = window.innerWidth - element.offsetWidth - 8;
    element.style.top = `${at.bottom + 4}px`;
    element.style.left = `${Math.max(8, Math.min(at.right - element.offsetWidth, room))}px`;
  };
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
          if (event.newState === 'open') place();
        }}
      >
        {children}
      </div>
    </>
  );
}
