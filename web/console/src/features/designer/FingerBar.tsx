import { say } from '../../shell/configurator/texts.ts';
import type { DeskActs } from './acts.ts';
import type { Desk } from './useDesk.ts';

interface FingerBarProps {
  desk: Desk;
  acts: DeskActs;
  /** Whether what is touched is taken into what is selected. */
  gathering: boolean;
  onGathering: (gathering: boolean) => void;
}

/** What a finger has where a mouse has keys: gathering several, moving, removing, and every other command. */
export function FingerBar({ desk, acts, gathering, onGathering }: FingerBarProps) {
  const { selection, selected } = desk;
  return (
    <div className="finger-bar" role="toolbar" aria-label={say('fingerBar.selection')}>
      <button type="button" aria-pressed={gathering} onClick={() => onGathering(!gathering)}>
        {say('fingerBar.selectSeveral')}
        {selection.length > 1 && <span className="count">{selection.length}</span>}
      </button>
      <button type="button" disabled={selection.length !== 1} onClick={() => acts.start({ node: selected! })}>
        {say('fingerBar.move')}
      </button>
      <button type="button" onClick={acts.parts.remove}>
        {say(desk.width ? 'fingerBar.hide' : 'common.remove')}
      </button>
      <button
        type="button"
        onClick={(event) => {
          const { left, top } = event.currentTarget.getBoundingClientRect();
          acts.listCommands('selection', { x: left, y: top });
        }}
      >
        {say('fingerBar.more')}
      </button>
    </div>
  );
}
