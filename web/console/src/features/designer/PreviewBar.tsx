import type { RecordName } from '../../api/client.ts';
import type { PreviewContext } from './usePreviewForm.ts';
import { samples } from './samples.ts';
import { useSession } from '../../shell/hooks.ts';
import { narrowest, widest, within } from './WidthScale.tsx';
import { say, spoken } from '../../shell/configurator/texts.ts';

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
  const languageName = (tag: string) => new Intl.DisplayNames([spoken()], { type: 'language' }).of(tag) ?? tag;
  return (
    <div className="preview-bar">
      <span>{say('common.seenBy')}</span>
      <select
        aria-label={say('previewBar.role')}
        value={context.role}
        onChange={(event) => onChange({ ...context, role: event.target.value })}
      >
        <option value="">{say('common.someoneInEveryRole')}</option>
        {session.application.roles.map((role) => (
          <option key={role.key} value={role.key}>
            {role.label}
          </option>
        ))}
      </select>
      {editable && (
        <select
          aria-label={say('previewBar.mode')}
          value={context.mode}
          onChange={(event) => onChange({ ...context, mode: event.target.value as PreviewContext['mode'] })}
        >
          <option value="edit">{say('previewBar.editing')}</option>
          <option value="view">{say('previewBar.viewing')}</option>
          <option value="create">{say('previewBar.creating')}</option>
        </select>
      )}
      {kind === 'list' ? null : context.mode === 'create' ? (
        <span>{say('previewBar.aNewRecord')}</span>
      ) : (
        <select
          aria-label={say('common.record')}
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
              {say(name)}
            </option>
          ))}
        </select>
      )}
      <span>{say('previewBar.in')}</span>
      <select
        aria-label={say('common.language')}
        value={context.language}
        onChange={(event) => onChange({ ...context, language: event.target.value })}
      >
        {session.application.languages.map((tag) => (
          <option key={tag} value={tag}>
            {languageName(tag)}
          </option>
        ))}
        <option value={`${session.application.languages[0]}-x-pseudo`}>{say('previewBar.longerTextsForTesting')}</option>
      </select>
      <span>{say('previewBar.at')}</span>
      <input
        aria-label={say('previewBar.widthInPixels')}
        type="number"
        min={narrowest}
        max={widest}
        step={10}
        value={context.width}
        onChange={(event) => onChange({ ...context, width: within(Number(event.target.value)) })}
      />
      <span>{say('previewBar.pxWide')}</span>
      <select
        aria-label={say('previewBar.besideIt')}
        value={context.beside ?? ''}
        onChange={(event) => onChange({ ...context, beside: Number(event.target.value) || undefined })}
      >
        <option value="">{say('previewBar.alone')}</option>
        {[390, 768, 1200].map((width) => (
          <option key={width} value={width}>
            {say('previewBar.besidePx', width)}
          </option>
        ))}
      </select>
      <select
        aria-label={say('previewBar.zoom')}
        value={context.zoom}
        onChange={(event) => onChange({ ...context, zoom: Number(event.target.value) })}
      >
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
          {say('common.showHiddenItems')}
        </label>
      )}
      {!trying && editable && (
        <label className="preview-option">
          <input
            type="checkbox"
            checked={context.tabOrder}
            onChange={(event) => onChange({ ...context, tabOrder: event.target.checked })}
          />{' '}
          {say('previewBar.tabOrder')}
        </label>
      )}
    </div>
  );
}
