import { useEffect, useId, useRef, useState } from 'react';
import { matching, type Command } from './commands.ts';
import { say } from '../../shell/configurator/texts.ts';

const most = 60;

/**
 * Every command by its name: typing narrows the list, the arrows choose, Enter does it.
 * @param selected Whether commands on parts are among them.
 */
export function CommandList({
  title,
  commands,
  selected,
  onClose,
}: {
  title: string;
  commands: Command[];
  selected: boolean;
  onClose: (chosen?: Command) => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  const list = useRef<HTMLUListElement>(null);
  const prefix = useId();
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const chosen = useRef<Command>(undefined);
  useEffect(() => dialog.current?.showModal(), []);
  const found = matching(commands, typed).slice(0, most);
  const current = found[Math.min(at, found.length - 1)];
  useEffect(() => {
    list.current?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' });
  }, [at, typed]);
  const runCommand = (command: Command | undefined) => {
    chosen.current = command;
    dialog.current?.close();
  };
  return (
    <dialog
      ref={dialog}
      className="commands"
      aria-label={title}
      onClose={() => onClose(chosen.current)}
      onClick={(event) => {
        if (event.target === dialog.current) runCommand(undefined);
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
          event.preventDefault();
          setAt((Math.min(at, found.length - 1) + (event.key === 'ArrowDown' ? 1 : found.length - 1)) % Math.max(1, found.length));
        } else if (event.key === 'Enter') {
          event.preventDefault();
          if (current) runCommand(current);
        }
      }}
    >
      <input
        className="tool-input"
        type="text"
        role="combobox"
        aria-expanded
        aria-controls={`${prefix}-list`}
        aria-activedescendant={current ? `${prefix}-${found.indexOf(current)}` : undefined}
        aria-label={title}
        placeholder={say('commandList.searchCommands')}
        autoComplete="off"
        autoFocus
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
      />
      <ul ref={list} role="listbox" id={`${prefix}-list`} aria-label={title}>
        {found.map((command, i) => (
          <li
            key={command.name + String(i)}
            id={`${prefix}-${i}`}
            role="option"
            aria-selected={command === current}
            onClick={() => runCommand(command)}
            onPointerMove={() => setAt(i)}
          >
            <span>{command.name}</span>
            {command.keys && <kbd>{command.keys}</kbd>}
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className="palette-none" role="status">
          {say(selected ? 'commandList.noMatches' : 'commandList.noMatchesUnselected')}
        </p>
      )}
    </dialog>
  );
}
