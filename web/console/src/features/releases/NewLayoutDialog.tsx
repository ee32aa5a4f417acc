import { useState } from 'react';
import { FormDialog, stay } from '../../ui/FormDialog.tsx';
import { answer, api, type EntitySummary, type LayoutSummary } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { Select } from '../../ui/Select.tsx';
import { keyOf } from '../../shell/keys.ts';
import { navigate } from '../../shell/location.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';

const kinds = ['full', 'short', 'card', 'list', 'print'] as const;

interface CreatedLayout {
  key: string;
  /** What of the template found no field. */
  unmatched: readonly string[];
}

interface NewLayoutDialogProps {
  entities: EntitySummary[];
  layouts: LayoutSummary[];
  onClose: () => void;
}

/**
 * Where a new layout begins: with everything, with what is required, as another one is, or as a family from a template. Its name is asked
 * for before it is made.
 */
export function NewLayoutDialog({ entities, layouts, onClose }: NewLayoutDialogProps) {
  const [entity, setEntity] = useState(entities[0]?.key ?? '');
  const [from, setFrom] = useState('generated');
  const [kind, setKind] = useState<(typeof kinds)[number]>('full');
  const [title, setTitle] = useState('');
  const [unmatched, setUnmatched] = useState<CreatedLayout[]>();
  const template = from.startsWith('template:') ? from.slice('template:'.length) : undefined;
  const copies = layouts.filter((layout) => layout.entity === entity);
  const chosen = entities.find((each) => each.key === entity);
  const key = keyOf(
    title,
    layouts.map((layout) => layout.key),
  );
  const createLayout = async () => {
    if (!template) {
      const body = { entity, key, from, kind, title: title.trim() };
      navigate('design', (await answer(api.POST('/api/layouts', { body }))).key);
      return;
    }
    const created = await answer(api.POST('/api/templates/{key}/layouts', { params: { path: { key: template } }, body: { entity, key } }));
    if (created.every((each) => each.unmatched.length === 0)) {
      navigate('design', created[0]!.key);
      return;
    }
    // What found no field of this entity to stand for it is said before one goes on.
    setUnmatched([...created]);
    return stay;
  };
  if (unmatched) return <Unmatched entity={chosen?.label ?? ''} created={unmatched} onClose={onClose} />;
  return (
    <FormDialog
      title={say('newLayoutDialog.aNewLayout')}
      className="new-layout"
      submit={say('common.create')}
      incomplete={!title.trim()}
      onSubmit={createLayout}
      onClose={onClose}
    >
      <label>
        {say('common.recordsOf')}
        <Select
          value={entity}
          options={entities}
          onChange={(next) => {
            setEntity(next);
            setFrom('generated');
          }}
        />
      </label>
      <BeginChoice value={from} entity={entity} copies={copies} onChange={setFrom} />
      {(from === 'generated' || from === 'empty') && (
        <label>
          {say('common.kind')}
          <Select value={kind} options={kinds.map((each) => ({ key: each, label: say(`newLayoutKind.${each}`) }))} onChange={setKind} />
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
    </FormDialog>
  );
}

/** A family of layouts was created from a template, and parts of it found no field to show. */
function Unmatched({ entity, created, onClose }: { entity: string; created: CreatedLayout[]; onClose: () => void }) {
  return (
    <FormDialog
      title={say('newLayoutDialog.createdWithUnmatchedFields')}
      submit={say('newLayoutDialog.openTheFirstOne')}
      cancel={say('common.close')}
      ready
      onSubmit={() => navigate('design', created[0]!.key)}
      onClose={onClose}
    >
      <p>{say('newLayoutDialog.thesePartsOfTheTemplate', entity.toLowerCase())}</p>
      <ul>
        {created
          .filter((each) => each.unmatched.length > 0)
          .map((each) => (
            <li key={each.key}>
              <b>{each.key}</b>: {each.unmatched.join(', ')}
            </li>
          ))}
      </ul>
    </FormDialog>
  );
}

interface BeginChoiceProps {
  value: string;
  entity: string;
  copies: LayoutSummary[];
  onChange: (from: string) => void;
}

/** What a new layout begins with. */
function BeginChoice({ value, entity, copies, onChange }: BeginChoiceProps) {
  const { data: documents = [] } = useAnswer(['documents'], () => answer(api.GET('/api/documents')));
  const { data: examples = [] } = useAnswer(
    ['entities', 'examples', entity],
    entity ? () => answer(api.GET('/api/entities/{entity}/examples', { params: { path: { entity } } })) : undefined,
  );
  const templates = documents.filter((each) => each.kind === 'template').map((each) => each.key);
  return (
    <label>
      {say('newLayoutDialog.itBegins')}
      <select className="bt-input" value={value} onChange={(event) => onChange(event.target.value)}>
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
  );
}
