import { useRef, useState, type ChangeEvent, type FocusEvent, type KeyboardEvent, type MouseEvent } from 'react';
import { say } from '../../shell/configurator/texts.ts';

interface RenameProps {
  name: string;
  /** Whether it is a text of lines: Shift+Enter begins another. */
  lines?: boolean;
  onDone: (name: string | undefined) => void;
}

/** A name or a text written where it stands: Enter or leaving it keeps it, Escape leaves it as it was. */
export function Rename({ name, lines = name.includes('\n'), onDone }: RenameProps) {
  const [typed, setTyped] = useState(name);
  const over = useRef(false);
  // Enter takes the input away, which leaves it too: done is done once.
  const done = (said: string | undefined) => {
    if (over.current) return;
    over.current = true;
    onDone(said);
  };
  const writing = {
    className: 'mark-rename',
    'aria-label': say(lines ? 'common.text' : 'common.name'),
    title: lines ? say('rename.lines') : undefined,
    dir: 'auto',
    autoFocus: true,
    value: typed,
    onChange: (event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => setTyped(event.target.value),
    onFocus: (event: FocusEvent<HTMLInputElement | HTMLTextAreaElement>) => event.target.select(),
    onBlur: () => done(typed),
    onClick: (event: MouseEvent) => event.stopPropagation(),
    onDoubleClick: (event: MouseEvent) => event.stopPropagation(),
    onKeyDown: (event: KeyboardEvent) => {
      event.stopPropagation();
      if (event.key === 'Enter' && !(lines && event.shiftKey)) done(typed);
      if (event.key === 'Escape') done(undefined);
    },
  };
  return lines ? <textarea {...writing} data-lines="" rows={Math.max(3, typed.split('\n').length + 1)} /> : <input {...writing} />;
}
