import { useEffect, useId, useRef, useState, type ReactNode } from 'react';
import { Dialog, useDialog } from './Dialog.tsx';
import { say } from '../shell/configurator/texts.ts';

/** What a form answers that is not done: the dialog stays open. */
export const stay = Symbol('stay');

interface FormDialogProps<T> {
  title: ReactNode;
  className?: string;
  submit: string;
  /** Whether the form cannot be sent as it is. */
  incomplete?: boolean;
  cancel?: string;
  /** What stands against it, where the caller knows; what sending throws is shown by itself. */
  problem?: ReactNode;
  /** Sends the form; the dialog closes with what it answers. */
  onSubmit: () => T | typeof stay | Promise<T | typeof stay>;
  /** The dialog is closed: with what sending answered, or with nothing where it was left. */
  onClose: (result: T | undefined) => void;
  /** The button that sends takes the focus: what is filled in already needs a look and one key. */
  ready?: boolean;
  children: ReactNode;
}

/** A form over the page. */
export function FormDialog<T>({ title, className, submit, incomplete, cancel, problem, ready, children, ...acts }: FormDialogProps<T>) {
  const dialog = useDialog();
  const sending = useRef<HTMLButtonElement>(null);
  const result = useRef<T>(undefined);
  const [busy, setBusy] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const heading = useId();
  useEffect(() => {
    if (ready) sending.current?.focus();
  }, [ready]);
  const send = async () => {
    setBusy(true);
    setRefusal(undefined);
    try {
      const answered = await acts.onSubmit();
      if (answered === stay) return;
      result.current = answered;
      dialog.current?.close();
    } catch (error) {
      setRefusal((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog
      dialog={dialog}
      className={className ? `dialog ${className}` : 'dialog'}
      labelledBy={heading}
      onClose={() => acts.onClose(result.current)}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <h2 id={heading}>{title}</h2>
        {(problem ?? refusal) && <DialogProblem>{problem ?? refusal}</DialogProblem>}
        {children}
        <div className="dialog-acts">
          <button type="button" className="button" onClick={() => dialog.current?.close()}>
            {cancel ?? say('common.cancel')}
          </button>
          <button ref={sending} type="submit" className="button primary" disabled={busy || incomplete}>
            {submit}
          </button>
        </div>
      </form>
    </Dialog>
  );
}

/** What stands against what was asked for. */
export const DialogProblem = ({ children }: { children: ReactNode }) => (
  <div className="dialog-problem" role="alert">
    {children}
  </div>
);
