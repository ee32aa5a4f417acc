import { useEffect, useRef, type ReactNode, type RefObject } from 'react';

interface DialogProps {
  className: string;
  /** Its name, or the id of the heading that names it. */
  label?: string | undefined;
  labelledBy?: string | undefined;
  onClose: () => void;
  /** Escape asks to close it instead of closing it. */
  onCancel?: (() => void) | undefined;
  /** A click beside it closes it. */
  light?: boolean;
  /** The dialog itself, to close it or to look for something in it. */
  dialog: RefObject<HTMLDialogElement | null>;
  children: ReactNode;
}

/**
 * The browser's own modal dialog: it keeps the focus, closes on Escape and gives the focus back. Keys pressed in it are not the page's.
 */
export function Dialog({ className, label, labelledBy, onClose, onCancel, light, dialog, children }: DialogProps) {
  useEffect(() => dialog.current?.showModal(), [dialog]);
  return (
    <dialog
      ref={dialog}
      className={className}
      aria-label={label}
      aria-labelledby={labelledBy}
      onClose={onClose}
      onCancel={(event) => {
        if (!onCancel) return;
        event.preventDefault();
        onCancel();
      }}
      onClick={(event) => {
        if (light && event.target === dialog.current) dialog.current.close();
      }}
      onKeyDown={(event) => event.stopPropagation()}
    >
      {children}
    </dialog>
  );
}

/** A dialog's own element, for whoever draws it. */
export const useDialog = () => useRef<HTMLDialogElement>(null);
