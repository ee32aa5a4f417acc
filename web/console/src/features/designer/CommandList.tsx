import { useEffect, useId, useRef, useState } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { Dialog, useDialog } from '../../ui/Dialog.tsx';
import { matching, type Command } from './commands.ts';

const most = 60;

interface CommandListProps {
  title: string;
  commands: Command[];
  /** Those there are because of what is typed. */
  typed?: ((text: string) => Command[]) | undefined;
  /** Where it opens: beside the pointer; without it, in the middle. */
  at?: { x: number; y: number } | undefined;
  /** Whether commands on parts are among them. */
  selected: boolean;
  onClose: (chosen?: Command) => void;
}

/**
 * Every command by its name: typing narrows the list, the arrows choose, Enter does it. What stands first is chosen at once, so that Enter
 * right behind the last letter does it.
 */
export function CommandList({ title, commands, typed: byText, at: pointer, selected, onClose }: CommandListProps) {
  const dialog = useDialog();
  useEffect(() => {
    if (pointer && dialog.current) placeAt(dialog.current, pointer);
  }, [dialog, pointer]);
  const prefix = useId();
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const chosen = useRef<Command>(undefined);
  const found = matching([...commands, ...(byText?.(typed) ?? [])], typed).slice(0, most);
  const current = Math.min(at, found.length - 1);
  const run = (command: Command | undefined) => {
    if (!command) return;
    chosen.current = command;
    dialog.current?.close();
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: found.length - 1 }[event.key];
    if (by === undefined && event.key !== 'Enter') return;
    event.preventDefault();
    if (by === undefined) run(found[current]);
    else setAt((current + by) % Math.max(1, found.length));
  };
  return (
    <Dialog
      dialog={dialog}
      className={pointer ? 'commands at-pointer' : 'commands'}
      label={title}
      light
      onClose={() => onClose(chosen.current)}
    >
      <input
        className="tool-input"
        type="text"
        role="combobox"
        aria-expanded
        aria-controls={`${prefix}-list`}
        aria-activedescendant={found.length > 0 ? `${prefix}-${current}` : undefined}
        aria-label={title}
        placeholder={say('commandList.searchCommands')}
        autoComplete="off"
        autoFocus
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
      />
      <Found found={found} current={current} id={prefix} label={title} onChoose={run} onCurrent={setAt} />
      {found.length === 0 && (
        <p className="palette-none" role="status">
          {say(selected ? 'commandList.noMatches' : 'commandList.noMatchesUnselected')}
        </p>
      )}
    </Dialog>
  );
}

/** Opens it where the pointer is, or as near as there is room. */
function placeAt(dialog: HTMLElement, { x, y }: { x: number; y: number }): void {
  const { width, height } = dialog.getBoundingClientRect();
  dialog.style.left = `${Math.max(8, Math.min(x, window.innerWidth - width - 8))}px`;
  dialog.style.top = `${Math.max(8, Math.min(y, window.innerHeight - height - 8))}px`;
}

interface FoundProps {
  found: readonly Command[];
  /** The one Enter does. */
  current: number;
  id: string;
  label: string;
  onChoose: (command: Command) => void;
  onCurrent: (index: number) => void;
}

/** The commands that fit what is typed; the current one is in sight. */
function Found({ found, current, id, label, onChoose, onCurrent }: FoundProps) {
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    list.current?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' });
  }, [found, current]);
  return (
    <ul ref={list} role="listbox" id={`${id}-list`} aria-label={label}>
      {found.map((command, i) => (
        <li
          key={command.name + String(i)}
          id={`${id}-${i}`}
          role="option"
          aria-selected={i === current}
          onClick={() => onChoose(command)}
          onPointerMove={() => onCurrent(i)}
        >
          <span>{command.name}</span>
          {command.keys && <kbd>{command.keys}</kbd>}
        </li>
      ))}
    </ul>
  );
}
