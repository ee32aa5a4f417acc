import type { RecordName } from '../../api/client.ts';
import type { PreviewContext } from './usePreviewForm.ts';
import { samples } from './samples.ts';
import { useSession } from '../../shell/hooks.ts';
import { narrowest, widest, within } from './WidthScale.tsx';
import { a } from './names.ts';

/** Through whose context: one sentence, each part of which is a control. Changing it never changes the layout. */
export function PreviewBar({
  context,
  names,
  kind,
  trying,
  onChange,
}: {
  context: PreviewContext;
  names: RecordName[];
  kind: string;
  trying: boolean;
  onChange: (context: PreviewContext) => void;
}) {
  const session = useSession();
  // A list, a card and a sheet of paper are only read.
  const editable = !['list', 'card', 'print'].includes(kind);
  const languageName = (tag: string) => new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag;
  return (
    <div className="preview-bar">
      <span>Seen by</span>
      <select aria-label="Role" value={context.role} onChange={(event) => onChange({ ...context, role: event.target.value })}>
        <option value="">someone in every role</option>
        {session.application.roles.map((role) => (
          <option key={role.key} value={role.key}>
            {a(role.label.toLowerCase())}
          </option>
        ))}
      </select>
      {editable && (
        <select
          aria-label="Mode"
          value={context.mode}
          onChange={(event) => onChange({ ...context, mode: event.target.value as PreviewContext['mode'] })}
        >
          <option value="edit">editing</option>
          <option value="view">viewing</option>
          <option value="create">creating</option>
        </select>
      )}
      {kind === 'list' ? null : context.mode === 'create' ? (
        <span>a new record</span>
      ) : (
        <select
          aria-label="Record"
          value={context.record ?? ''}
          onChange={(event) => onChange({ ...context, record: Number(event.target.value) })}
        >
          {names.map((name) => (
            <option key={name.id} value={name.id}>
              {name.title}
            </option>
          ))}
          {Object.entries(samples).map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      )}
      <span>in</span>
      <select aria-label="Language" value={context.language} onChange={(event) => onChange({ ...context, language: event.target.value })}>
        {session.application.languages.map((tag) => (
          <option key={tag} value={tag}>
            {languageName(tag)}
          </option>
        ))}
        <option value={`${session.application.languages[0]}-x-pseudo`}>longer texts, for testing</option>
      </select>
      <span>at</span>
      <input
        aria-label="Width in pixels"
        type="number"
        min={narrowest}
        max={widest}
        step={10}
        value={context.width}
        onChange={(event) => onChange({ ...context, width: within(Number(event.target.value)) })}
      />
      <span>px wide,</span>
      <select
        aria-label="Beside it"
        value={context.beside ?? ''}
        onChange={(event) => onChange({ ...context, beside: Number(event.target.value) || undefined })}
      >
        <option value="">alone</option>
        {[390, 768, 1200].map((width) => (
          <option key={width} value={width}>
            beside {width} px
          </option>
        ))}
      </select>
      <select aria-label="Zoom" value={context.zoom} onChange={(event) => onChange({ ...context, zoom: Number(event.target.value) })}>
        {[1, 0.75, 0.5].map((zoom) => (
          <option key={zoom} value={zoom}>
            {zoom * 100} %
          </option>
        ))}
      </select>
      {!trying && (
        <label className="preview-option">
          <input
            type="checkbox"
            checked={context.showHidden}
            onChange={(event) => onChange({ ...context, showHidden: event.target.checked })}
          />{' '}
          Show hidden items
        </label>
      )}
      {!trying && editable && (
        <label className="preview-option">
          <input
            type="checkbox"
            checked={context.tabOrder}
            onChange={(event) => onChange({ ...context, tabOrder: event.target.checked })}
          />{' '}
          Tab order
        </label>
      )}
    </div>
  );
}
