import { say } from '../../shell/configurator/texts.ts';
import { drawers } from './DeskDrawer.tsx';
import type { Desk, Drawer } from './useDesk.ts';
import type { Draft } from './draftState.ts';
import { Findings } from './Findings.tsx';
import { LengthMeter } from './LengthMeter.tsx';
import { flowing } from './parts.ts';
import { StatusLine } from './StatusLine.tsx';

/** One line under the sheet: what the checks find, how long the form is, what was just done; each opens over the whole width. */
export function DeskFoot({ desk, draft, kind }: { desk: Desk; draft: Draft; kind: string }) {
  return (
    <footer className="desk-foot">
      <Findings findings={draft.findings} onSelect={desk.select} onMend={(edits, label) => void desk.state.apply(edits, label)} />
      {kind !== 'list' && kind !== 'card' && <LengthMeter preview={desk.preview} now={desk.lengths} published={draft.published} />}
      <StatusLine desk={desk} />
      <DrawerButtons desk={desk} kind={kind} />
    </footer>
  );
}

/** What opens the drawers; how many comments are open is always seen. */
function DrawerButtons({ desk: { drawer, setDrawer, comments }, kind }: { desk: Desk; kind: string }) {
  const said = [...comments.open.values()].reduce((sum, count) => sum + count, 0);
  return (
    <span className="drawer-buttons">
      {(Object.keys(drawers) as Drawer[])
        .filter((each) => each !== 'proposals' || flowing.includes(kind))
        .map((each) => (
          <button key={each} type="button" aria-expanded={drawer === each} onClick={() => setDrawer(drawer === each ? undefined : each)}>
            {say(drawers[each])}
            {each === 'comments' && said > 0 && <span className="count">{said}</span>}
          </button>
        ))}
    </span>
  );
}
