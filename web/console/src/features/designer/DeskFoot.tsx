import type { Desk } from './useDesk.ts';
import type { Draft } from './draftState.ts';
import { Findings } from './Findings.tsx';
import { LengthMeter } from './LengthMeter.tsx';
import { StatusLine } from './StatusLine.tsx';

/** One line under the sheet: what the checks find, how long the form is, what was just done; each opens over the whole width. */
export function DeskFoot({ desk, draft, kind }: { desk: Desk; draft: Draft; kind: string }) {
  return (
    <footer className="desk-foot">
      <Findings findings={draft.findings} onSelect={desk.select} onMend={(edits, label) => void desk.state.apply(edits, label)} />
      {kind !== 'list' && kind !== 'card' && <LengthMeter preview={desk.preview} revision={draft.revision} published={draft.published} />}
      <StatusLine desk={desk} />
    </footer>
  );
}
