import { useEffect, useEffectEvent, type KeyboardEvent as KeyPress } from 'react';
import { parentOf, type TreeNode } from '#layout';
import type { DeskActs } from './acts.ts';
import type { Desk } from './useDesk.ts';

const directions: Record<string, 'up' | 'down' | 'left' | 'right'> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};

/** Where the menu opens that a key asked for: at what is selected. */
function besideMark(root: HTMLElement | null): { x: number; y: number } | undefined {
  const box = [...(root?.querySelectorAll('.mark-selected') ?? [])].at(-1)?.getBoundingClientRect();
  return box && { x: box.left + 16, y: box.top + 24 };
}

function* walkUp(tree: TreeNode, id: string): Generator<TreeNode> {
  for (let node = parentOf(tree, id); node; node = parentOf(tree, node.id)) yield node;
}

/** What a key does on the form; nothing when it means nothing there. */
function meaning(desk: Desk, acts: DeskActs, event: KeyPress, at: TreeNode): (() => void) | undefined {
  const { placing, selected } = desk;
  const { parts, reuse } = acts;
  const direction = directions[event.key];
  if (placing.spot) return placing.key(event, direction, (chosen, subject) => void acts.place(chosen, subject));
  if (direction && !(event.altKey && selected)) return () => desk.walkTo(direction === 'up' || direction === 'left', event.shiftKey);
  if (!selected) return undefined;
  if (direction)
    return event.shiftKey
      ? () => parts.widen((direction === 'right') !== desk.context.language.startsWith('ar') ? 1 : -1)
      : () => parts.move(direction);
  if (event.ctrlKey || event.metaKey) return { c: () => void reuse.copy(), x: () => void reuse.cut() }[event.key];
  return {
    Delete: parts.remove,
    F2: acts.beginRename,
    g: () => void parts.wrap(),
    m: () => acts.start({ node: selected }),
    ContextMenu: () => acts.listCommands('selection', besideMark(desk.root)),
    Escape: () => desk.select([...walkUp(at, selected)].find((node) => node.kind === 'section' || node.kind === 'page')?.id),
    Enter: () => desk.root?.querySelector<HTMLElement>('.properties :is(input, textarea, select)')?.focus(),
  }[event.key];
}

/** Keys on the form and in the outline. */
export function canvasKeys(desk: Desk, acts: DeskActs) {
  return (event: KeyPress): void => {
    if (!desk.tree) return;
    if (event.key === 'Tab' && event.shiftKey) {
      // Behind the sheet lie the form's own inputs, which are not for designing.
      event.preventDefault();
      [...(desk.root?.querySelectorAll<HTMLElement>('.preview-bar > :is(select, input, button)') ?? [])].at(-1)?.focus();
      return;
    }
    const act = meaning(desk, acts, event, desk.tree);
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  };
}

/** From pane to pane. */
function toPane(root: HTMLElement | null, back: boolean): void {
  const all = [...(root?.querySelectorAll<HTMLElement>('[data-pane]') ?? [])];
  const at = all.findIndex((pane) => pane.contains(document.activeElement));
  const pane = all[(at + (back ? all.length - 1 : 1)) % all.length];
  const first =
    pane?.querySelector<HTMLElement>('.canvas-layer') ??
    pane?.querySelector<HTMLElement>('a, button:not(:disabled), input, select, summary, [tabindex="0"]');
  first?.focus();
}

interface WindowKeys {
  root: HTMLElement | null;
  undo: () => void;
  redo: () => void;
  listCommands: () => void;
}

/** Keys anywhere: on the window, since right after opening nothing in the designer has the focus yet. */
export function useWindowKeys({ root, undo, redo, listCommands }: WindowKeys): void {
  const press = useEffectEvent((event: KeyboardEvent) => {
    const command = event.ctrlKey || event.metaKey;
    const typing = (event.target as HTMLElement).matches('input, textarea, select');
    const key = event.key.toLowerCase();
    const act =
      event.key === 'F6'
        ? () => toPane(root, event.shiftKey)
        : command && !typing && key === 'z'
          ? event.shiftKey
            ? redo
            : undo
          : command && !typing && key === 'y'
            ? redo
            : command && key === 'k'
              ? listCommands
              : undefined;
    if (!act) return;
    event.preventDefault();
    act();
  });
  useEffect(() => {
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
