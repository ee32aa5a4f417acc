import type { RecordName } from '../../api/client.ts';
import type { PreviewContext } from './usePreviewForm.ts';
import { besides, deskRoom } from './measures.ts';
import { samples } from './samples.ts';
import { useSession } from '../../shell/hooks.ts';
import { Popover } from '../../ui/Popover.tsx';
import { Select } from '../../ui/Select.tsx';
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
  const set = (change: Partial<PreviewContext>) => onChange({ ...context, ...change });
  return (
    <div className="preview-bar">
      <span>{say('common.seenBy')}</span>
      <Select
        className=""
        label={say('previewBar.role')}
        value={context.role}
        options={[{ key: '', label: say('common.someoneInEveryRole') }, ...session.application.roles]}
        onChange={(role) => set({ role })}
      />
      {editable && (
        <Select
          className=""
          label={say('previewBar.mode')}
          value={context.mode}
          options={[
            { key: 'edit', label: say('previewBar.editing') },
            { key: 'view', label: say('previewBar.viewing') },
            { key: 'create', label: say('previewBar.creating') },
          ]}
          onChange={(mode) => set({ mode })}
        />
      )}
      {kind !== 'list' && <RecordChoice context={context} names={names} onChange={set} />}
      <span>{say('previewBar.in')}</span>
      <LanguageChoice context={context} onChange={set} />
      <span>{say('previewBar.at')}</span>
      <input
        aria-label={say('previewBar.widthInPixels')}
        type="number"
        min={narrowest}
        max={widest}
        step={10}
        value={context.width}
        onChange={(event) => set({ width: within(Number(event.target.value)) })}
      />
      <span data-unit>{say('previewBar.pxWide')}</span>
      <Popover label={say('previewBar.more')} name={say('previewBar.moreAboutThePreview')}>
        <MoreOptions context={context} editable={editable} trying={trying} onChange={set} />
      </Popover>
    </div>
  );
}

interface ChoiceProps {
  context: PreviewContext;
  onChange: (change: Partial<PreviewContext>) => void;
}

interface MoreOptionsProps {
  context: PreviewContext;
  editable: boolean;
  trying: boolean;
  onChange: (change: Partial<PreviewContext>) => void;
}

/** Another width beside it, how large it is drawn, and what is shown of it beside what users see. */
function MoreOptions({ context, editable, trying, onChange }: MoreOptionsProps) {
  return (
    <>
      <label className="popover-line">
        {say('previewBar.besideIt')}
        <Select
          label={say('previewBar.besideIt')}
          value={`${context.beside ?? ''}`}
          options={[
            { key: '', label: say('previewBar.alone') },
            ...[390, 768, 1200].map((width) => ({ key: `${width}`, label: say('previewBar.besidePx', width) })),
          ]}
          onChange={(beside) => onChange(besides(context.width, Number(beside) || undefined, deskRoom()))}
        />
      </label>
      <label className="popover-line">
        {say('previewBar.zoom')}
        <Select
          label={say('previewBar.zoom')}
          value={`${context.zoom}`}
          options={[...new Set([context.zoom, 1, 0.75, 0.5])]
            .toSorted((a, b) => b - a)
            .map((zoom) => ({ key: `${zoom}`, label: `${Math.round(zoom * 100)} %` }))}
          onChange={(zoom) => onChange({ zoom: Number(zoom) })}
        />
      </label>
      {!trying && (
        <label className="preview-option">
          <input type="checkbox" checked={context.showHidden} onChange={(event) => onChange({ showHidden: event.target.checked })} />{' '}
          {say('common.showHiddenItems')}
        </label>
      )}
      {!trying && editable && (
        <label className="preview-option">
          <input type="checkbox" checked={context.tabOrder} onChange={(event) => onChange({ tabOrder: event.target.checked })} />{' '}
          {say('previewBar.tabOrder')}
        </label>
      )}
    </>
  );
}

/** Which record it is shown with. */
function RecordChoice({ context, names, onChange }: ChoiceProps & { names: RecordName[] }) {
  if (context.mode === 'create') return <span>{say('previewBar.aNewRecord')}</span>;
  return (
    <Select
      className=""
      label={say('common.record')}
      value={`${context.record ?? ''}`}
      options={[
        ...names.map((name) => ({ key: `${name.id}`, label: name.title })),
        ...Object.entries(samples).map(([id, name]) => ({ key: id, label: say(name) })),
      ]}
      onChange={(record) => onChange({ record: Number(record) })}
    />
  );
}

/** The language it is shown in; one has longer texts, to see whether they fit. */
function LanguageChoice({ context, onChange }: ChoiceProps) {
  const { languages } = useSession().application;
  const languageName = (tag: string) => new Intl.DisplayNames([spoken()], { type: 'language' }).of(tag) ?? tag;
  return (
    <Select
      className=""
      label={say('common.language')}
      value={context.language}
      options={[
        ...languages.map((tag) => ({ key: tag as string, label: languageName(tag) })),
        { key: `${languages[0]}-x-pseudo`, label: say('previewBar.longerTextsForTesting') },
      ]}
      onChange={(language) => onChange({ language })}
    />
  );
}
