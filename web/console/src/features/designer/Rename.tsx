import { useLayoutEffect, useRef, useState, type ChangeEvent, type FocusEvent, type KeyboardEvent, type MouseEvent } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { zoomOf } from './measures.ts';

interface RenameProps {
  name: string;
  /** Whether it is a text of lines: Shift+Enter begins another. */
  lines?: boolean;
  onDone: (name: string | undefined) => void;
  /** What is drawn of it on the form, and in that its words; where there are none yet, they are written where they would be. */
  over?: () => { drawn: Element; words: Element } | undefined;
}

/** How far the frame of what is written stands from the words it is written over, in pixels. */
const around = { side: 10, top: 4 };

/** Lays an input over the words it changes, and writes it as they are written. */
function layOver(input: HTMLElement, { drawn, words }: { drawn: Element; words: Element }): void {
  const [whole, own, zoom] = [drawn.getBoundingClientRect(), words.getBoundingClientRect(), zoomOf(drawn)];
  // Words that are not there have no place.
  const at = own.height > 0 ? own : new DOMRect(whole.left, whole.top, 0, 0);
  const { fontSize, fontWeight, direction } = getComputedStyle(words);
  const start = direction === 'rtl' ? whole.right - (at.width > 0 ? at.right : whole.right) : at.left - whole.left;
  Object.assign(input.style, {
    insetInlineStart: `${start / zoom - around.side}px`,
    top: `${(at.top - whole.top) / zoom - around.top}px`,
    minHeight: `${at.height / zoom + 2 * around.top}px`,
    fontSize,
    fontWeight,
  });
}

/** A name or a text written where it stands: Enter or leaving it keeps it, Escape leaves it as it was. */
export function Rename({ name, lines = name.includes('\n'), onDone, over: words }: RenameProps) {
  const [typed, setTyped] = useState(name);
  const input = useRef<HTMLInputElement & HTMLTextAreaElement>(null);
  // After each drawing, like all marks. A text of lines is as wide as it stands.
  useLayoutEffect(() => {
    const place = lines ? undefined : words?.();
    if (place && input.current) layOver(input.current, place);
  });
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
  return lines ? (
    <textarea {...writing} ref={input} data-lines="" rows={Math.max(3, typed.split('\n').length + 1)} />
  ) : (
    <input {...writing} ref={input} />
  );
}
