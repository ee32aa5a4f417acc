import { useEffect, useRef, useState } from 'react';
import { answer, api, type EntitySummary, type LayoutSummary } from '../../api/client.ts';
import { keyOf } from '../../shell/keys.ts';
import { navigate } from '../../shell/location.ts';
import { rich, say } from '../../shell/configuring/texts.ts';

const kinds = {
  full: 'newLayoutKind.full',
  short: 'newLayoutKind.short',
  card: 'newLayoutKind.card',
  list: 'newLayoutKind.list',
  print: 'newLayoutKind.print',
} as const;

interface NewLayoutDialogProps {
  entities: EntitySummary[];
  layouts: LayoutSummary[];
  onClose: () => void;
}

/** Where a new layout begins: with everything, with what is required, as another one is, or as a family from a template. Its name is asked for before it is made. */
export function NewLayoutDialog({ entities, layouts, onClose }: NewLayoutDialogProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [entity, setEntity] = useState(entities[0]?.key ?? '');
  const [from, setFrom] = useState('generated');
  const [kind, setKind] = useState<keyof typeof kinds>('full');
  const [title, setTitle] = useState('');
  const [examples, setExamples] = useState<{ key: string; title: string }[]>([]);
  const [templates, setTemplates] = useState<string[]>([]);
  const [unmatched, setUnmatched] = useState<{ key: string; unmatched: readonly string[] }[]>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    dialog.current?.showModal();
    answer(api.GET('/api/documents')).then(
      (all) => setTemplates(all.filter((each) => each.kind === 'template').map((each) => each.key)),
      () => undefined,
    );
  }, []);
  useEffect(() => {
    if (!entity) return undefined;
    let left = false;
    answer(api.GET('/api/entities/{entity}/examples', { params: { path: { entity } } })).then(
      (found) => {
        if (!left) setExamples([...found]);
      },
      () => undefined,
    );
    return () => {
      left = true;
    };
  }, [entity]);
  const template = from.startsWith('template:') ? from.slice('template:'.length) : undefined;
  const copies = layouts.filter((layout) => layout.entity === entity);
  const chosen = entities.find((each) => each.key === entity);
  const key = keyOf(
    title,
    layouts.map((layout) => layout.key),
  );
  const createLayout = async () => {
    setProblem(undefined);
    try {
      if (template) {
        const created = await answer(
          api.POST('/api/templates/{key}/layouts', { params: { path: { key: template } }, body: { entity, key } }),
        );
        // What found no field of this entity to stand for it is said before one goes on.
        if (created.some((each) => each.unmatched.length > 0)) setUnmatched([...created]);
        else navigate('design', created[0]!.key);
      } else {
        const created = await answer(api.POST('/api/layouts', { body: { entity, key, from, kind, title: title.trim() } }));
        navigate('design', created.key);
      }
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  if (unmatched) {
    return (
      <dialog ref={dialog} className="dialog" aria-labelledby="unmatched-title" onClose={onClose}>
        <h2 id="unmatched-title">{say('newLayoutDialog.createdWithUnmatchedFields')}</h2>
        <p>{say('newLayoutDialog.thesePartsOfTheTemplate', chosen?.label.toLowerCase() ?? '')}</p>
        <ul>
          {unmatched
            .filter((each) => each.unmatched.length > 0)
            .map((each) => (
              <li key={each.key}>
                <b>{each.key}</b>: {each.unmatched.join(', ')}
              </li>
            ))}
        </ul>
        <div className="dialog-acts">
          <button type="button" className="button primary" autoFocus onClick={() => navigate('design', unmatched[0]!.key)}>
            {say('newLayoutDialog.openTheFirstOne')}
          </button>
        </div>
      </dialog>
    );
  }
  return (
    <dialog ref={dialog} className="dialog new-layout" aria-labelledby="new-layout-title" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void createLayout();
        }}
      >
        <h2 id="new-layout-title">{say('newLayoutDialog.aNewLayout')}</h2>
        <label>
          {say('common.recordsOf')}
          <select
            className="bt-input"
            value={entity}
            onChange={(event) => {
              setEntity(event.target.value);
              setFrom('generated');
            }}
          >
            {entities.map((each) => (
              <option key={each.key} value={each.key}>
                {each.label}
              </option>
            ))}
          </select>
        </label>
        <label>
          {say('newLayoutDialog.itBegins')}
          <select className="bt-input" value={from} onChange={(event) => setFrom(event.target.value)}>
            <option value="generated">{say('newLayoutDialog.withAllFieldsInGroups')}</option>
            <option value="empty">{say('newLayoutDialog.withWhatIsRequiredOnly')}</option>
            {copies.length > 0 && (
              <optgroup label={say('newLayoutDialog.copyOf')}>
                {copies.map((layout) => (
                  <option key={layout.key} value={layout.key}>
                    {layout.title}
                  </option>
                ))}
              </optgroup>
            )}
            {examples.length > 0 && (
              <optgroup label={say('newLayoutDialog.copyOfAWorkedExample')}>
                {examples.map((each) => (
                  <option key={each.key} value={`example:${each.key}`}>
                    {each.title}
                  </option>
                ))}
              </optgroup>
            )}
            {templates.length > 0 && (
              <optgroup label={say('newLayoutDialog.setFromATemplate')}>
                {templates.map((each) => (
                  <option key={each} value={`template:${each}`}>
                    {each}
                  </option>
                ))}
              </optgroup>
            )}
          </select>
        </label>
        {(from === 'generated' || from === 'empty') && (
          <label>
            {say('common.kind')}
            <select className="bt-input" value={kind} onChange={(event) => setKind(event.target.value as typeof kind)}>
              {Object.entries(kinds).map(([each, name]) => (
                <option key={each} value={each}>
                  {say(name)}
                </option>
              ))}
            </select>
          </label>
        )}
        <label>
          {say('common.title')}
          <input
            className="bt-input"
            required
            autoFocus
            autoComplete="off"
            dir="auto"
            maxLength={100}
            value={title}
            onChange={(event) => setTitle(event.target.value)}
          />
        </label>
        <p className="bt-help">{title.trim() ? <>{rich('newLayoutDialog.key', <code>{key}</code>)}</> : ' '}</p>
        {problem && (
          <p className="bt-error" role="alert">
            {problem}
          </p>
        )}
        <div className="dialog-acts">
          <button type="button" className="button" onClick={() => dialog.current?.close()}>
            {say('common.cancel')}
          </button>
          <button type="submit" className="button primary" disabled={!title.trim()}>
            {say('common.create')}
          </button>
        </div>
      </form>
    </dialog>
  );
}
