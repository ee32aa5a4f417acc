import type { ReactNode, RefObject } from 'react';
import { Dialog, useDialog } from './Dialog.tsx';
import '../styles/sideDialog.css';

interface SideDialogProps {
  /** What it is called; drawn as its heading. */
  title: string;
  /** What it is called where it has no heading yet. */
  name?: string;
  className?: string;
  /** Buttons in its bar. */
  acts: ReactNode;
  onClose: () => void;
  /** The dialog itself, where somebody has to look for something in it. */
  dialog?: RefObject<HTMLDialogElement | null>;
  children: ReactNode;
}

/** A sheet beside the page with a bar of its own; Escape asks to close it. */
export function SideDialog({ title, name, className, acts, onClose, dialog, children }: SideDialogProps) {
  const own = useDialog();
  return (
    <Dialog
      dialog={dialog ?? own}
      className={className ? `beside ${className}` : 'beside'}
      label={title || name}
      onClose={onClose}
      onCancel={onClose}
    >
      <header className="record-bar">
        <strong className="beside-title">{title}</strong>
        <span className="bar-space" />
        {acts}
      </header>
      {children}
    </Dialog>
  );
}
