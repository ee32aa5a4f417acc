import { useId, useRef, useState, type ReactNode } from 'react';
import { flushSync } from 'react-dom';

interface PopoverProps {
  /** What the button says. */
  label: string;
  /** What is opened, for whoever hears it. */
  name: string;
  /** How the button looks. */
  className?: string;
  onOpen?: () => void;
  children: ReactNode;
}

/**
 * What is seldom changed, one press away: a button, and what it opens beneath it. It is the browser's own: Escape and a press elsewhere
 * close it (HTML, the popover attribute).
 */
export function Popover({ label, name, className = 'tool', onOpen, children }: PopoverProps) {
  const id = useId();
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const place = () => {
    const [at, element] = [button.current!.getBoundingClientRect(), panel.current!];
    // In what is drawn smaller, a pixel is smaller too.
    const { width, height } = element.getBoundingClientRect();
    const zoom = width / (element.offsetWidth || width || 1) || 1;
    const left = Math.max(8, Math.min(at.right - width, window.innerWidth - width - 8));
    const below = at.bottom + 4 + height < window.innerHeight ? at.bottom + 4 : Math.max(8, at.top - height - 4);
    element.style.top = `${below / zoom}px`;
    element.style.left = `${left / zoom}px`;
  };
  return (
    <>
      <button ref={button} type="button" className={className} popoverTarget={id} title={className === 'tool' ? undefined : name}>
        {label}
      </button>
      <div
        ref={panel}
        id={id}
        className="popover"
        popover="auto"
        role="dialog"
        aria-label={name}
        onBeforeToggle={(event) => {
          if (event.newState === 'open') flushSync(() => setOpen(true));
        }}
        onToggle={(event) => {
          if (event.newState !== 'open') return setOpen(false);
          place();
          onOpen?.();
        }}
      >
        {open && children}
      </div>
    </>
  );
}
