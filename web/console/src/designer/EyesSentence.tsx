import type { RecordName } from '../api/client.ts';
import { a } from './tree.ts';
import type { Eyes } from './useDraft.ts';
import { samples } from './samples.ts';
import { useSession } from '../shell/hooks.ts';
import { narrowest, widest, within } from './WidthScale.tsx';

/** Through whose eyes: one sentence, each part of which is a control. Changing it never changes the layout. */
export function EyesSentence({ eyes, names, kind, trying, onChange }: { eyes: Eyes; names: RecordName[]; kind: string; trying: boolean; onChange: (eyes: Eyes) => void }) {
  const session = useSession();
  // A list, a card and a sheet of paper are only read.
  const editable = !['list', 'card', 'print'].includes(kind);
  const languageName = (tag: string) => new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag;
  return (
    <div className="eyes">
      <span>Seen by</span>
      <select aria-label="Role" value={eyes.role} onChange={(event) => onChange({ ...eyes, role: event.target.value })}>
        <option value="">someone in every role</option>
        {session.application.roles.map((role) => <option key={role.key} value={role.key}>{a(role.label.toLowerCase())}</option>)}
      </select>
      {editable && <select aria-label="Mode" value={eyes.mode} onChange={(event) => onChange({ ...eyes, mode: event.target.value as Eyes['mode'] })}>
        <option value="edit">editing</option><option value="view">viewing</option><option value="create">creating</option>
      </select>}
      {kind === 'list' ? null : eyes.mode === 'create' ? <span>a new record</span> : (
        <select aria-label="Record" value={eyes.record ?? ''} onChange={(event) => onChange({ ...eyes, record: Number(event.target.value) })}>
          {names.map((name) => <option key={name.id} value={name.id}>{name.title}</option>)}
          {Object.entries(samples).map(([id, name]) => <option key={id} value={id}>{name}</option>)}
        </select>
      )}
      <span>in</span>
      <select aria-label="Language" value={eyes.language} onChange={(event) => onChange({ ...eyes, language: event.target.value })}>
        {session.application.languages.map((tag) => <option key={tag} value={tag}>{languageName(tag)}</option>)}
        <option value={`${session.application.languages[0]}-x-pseudo`}>longer texts, for testing</option>
      </select>
      <span>at</span>
      <input aria-label="Width in pixels" type="number" min={narrowest} max={widest} step={10} value={eyes.width} onChange={(event) => onChange({ ...eyes, width: within(Number(event.target.value)) })} />
      <span>px wide,</span>
      <select aria-label="Beside it" value={eyes.beside ?? ''} onChange={(event) => onChange({ ...eyes, beside: Number(event.target.value) || undefined })}>
        <option value="">alone</option>{[390, 768, 1200].map((width) => <option key={width} value={width}>beside {width} px</option>)}
      </select>
      <select aria-label="Zoom" value={eyes.zoom} onChange={(event) => onChange({ ...eyes, zoom: Number(event.target.value) })}>
        {[1, 0.75, 0.5].map((zoom) => <option key={zoom} value={zoom}>{zoom * 100} %</option>)}
      </select>
      {!trying && <label className="eyes-hidden"><input type="checkbox" checked={eyes.showHidden} onChange={(event) => onChange({ ...eyes, showHidden: event.target.checked })} /> Show what is hidden</label>}
      {!trying && editable && <label className="eyes-hidden"><input type="checkbox" checked={eyes.tabOrder} onChange={(event) => onChange({ ...eyes, tabOrder: event.target.checked })} /> Order of Tab</label>}
    </div>
  );
}
