import { useEffect, useRef, useState } from 'react';
import { check, dayEditor, type DayEditor, type Editor, type Json } from '#form';
import { useSession } from '../shell/hooks.ts';
import { formHost } from '../shell/session.ts';

interface DateFieldProps {
  kind: Extract<DayEditor, 'date' | 'date-time'>;
  /** A day in ISO 8601, or a moment in UTC; empty is none. */
  value: string;
  label: string;
  required?: boolean;
  onChange: (value: string) => void;
}

/** The form's own editor of days, on a page that is no form. A text that is no day is none, and is told so. */
export function DateField({ kind, value, label, required = false, onChange }: DateFieldProps) {
  const { language } = useSession();
  const frame = useRef<HTMLSpanElement>(null);
  const editor = useRef<Editor>(undefined);
  const [unread, setUnread] = useState<string>();
  const change = useRef<(next: Json) => void>(undefined);
  useEffect(() => {
    change.current = (next) => {
      const wrong = check({ type: kind === 'date' ? 'date' : 'dateTime', label }, label, next, false, language);
      setUnread(wrong === undefined ? undefined : String(next));
      frame.current!.querySelector('input')!.setCustomValidity(wrong ?? '');
      onChange(wrong === undefined ? String(next ?? '') : '');
    };
  });
  useEffect(() => {
    editor.current = dayEditor(kind, { id: '', language, host: formHost(), value: null, change: (next) => change.current!(next) });
    frame.current!.replaceChildren(editor.current.element);
  }, [kind, language]);
  useEffect(() => {
    editor.current!.show({ value: (unread ?? value) || null, required, invalid: unread !== undefined, describedBy: undefined });
    const input = frame.current!.querySelector('input')!;
    input.required = required;
    input.ariaLabel = label;
  });
  return <span ref={frame} className="date-field" />;
}
