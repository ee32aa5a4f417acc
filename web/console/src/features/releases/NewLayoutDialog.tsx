import { useState } from 'react';
import { FormDialog, stay } from '../../ui/FormDialog.tsx';
import { answer, api, type EntitySummary, type LayoutSummary, type TemplateInfo } from '../../api/client.ts';
import { Select } from '../../ui/Select.tsx';
import { useAnswer } from '../../shell/queries.ts';
import { keyOf } from '../../shell/keys.ts';
import { navigate } from '../../shell/location.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';
import { Beginnings } from './Beginnings.tsx';
import { useLayoutsOf, useTakenKeys } from './layoutSearch.ts';

const kinds = ['full', 'short', 'card', 'list', 'print'] as const;

interface CreatedLayout {
  key: string;
  /** What of the template found no field. */
  unmatched: readonly string[];
}

interface NewLayoutDialogProps {
  entities: EntitySummary[];
  /** What it begins as a copy of. */
  copied?: LayoutSummary | undefined;
  onClose: () => void;
}

type Kind = (typeof kinds)[number];

/**
 * Where a new layout begins: with everything, with what is required, with nothing, as another one is, or as a family from a template. Its
 * name is asked for before it is made; the rest of its family can be made with it.
 */
export function NewLayoutDialog({ entities, copied, onClose }: NewLayoutDialogProps) {
  const [entity, setEntity] = useState(copied?.entity ?? entities[0]?.key ?? '');
  const [from, setFrom] = useState(copied?.key ?? 'generated');
  const [kind, setKind] = useState<Kind>(kinds.find((each) => each === copied?.kind) ?? 'full');
  const [also, setAlso] = useState<readonly string[]>([]);
  const [without, setWithout] = useState<readonly string[]>([]);
  const [title, setTitle] = useState('');
  const { data: templates = [] } = useAnswer(['documents', 'templates'], () => answer(api.GET('/api/templates')));
  const [unmatched, setUnmatched] = useState<CreatedLayout[]>();
  const template = templates.find((each) => from === `template:${each.key}`);
  const chosen = entities.find((each) => each.key === entity);
  const key = keyOf(title, useTakenKeys(title));
  const copies = useLayoutsOf(entity).filter((layout) => layout.entity === entity && !layout.damaged);
  // What it begins with is of an entity and a kind.
  const anew =
    <T,>(set: (next: T) => void) =>
    (next: T) => {
      set(next);
      setFrom('generated');
    };
  const createLayouts = async () => {
    const named = { entity, key, title: title.trim() };
    if (!template) return navigate('design', await createLayout(named, from, kind, also));
    const created = await createFrom(template.key, { ...named, without: [...without] });
    if (created.every((each) => each.unmatched.length === 0)) return navigate('design', created[0]!.key);
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
      incomplete={!title.trim() || template?.kinds.every((each) => without.includes(each))}
      onSubmit={createLayouts}
      onClose={onClose}
    >
      <div className="new-layout-what">
        <TitleInput title={title} layoutKey={key} onChange={setTitle} />
        <label>
          {say('common.recordsOf')}
          <Select value={entity} options={entities} onChange={anew(setEntity)} />
        </label>
        <KindChoice value={kind} onChange={anew(setKind)} />
        {template ? (
          <TemplateParts template={template} without={without} onChange={setWithout} />
        ) : (
          <FamilyChoice kind={kind} value={also} onChange={setAlso} />
        )}
      </div>
      <Beginnings value={from} entity={entity} kind={kind} templates={templates} copies={copies} onChange={setFrom} />
    </FormDialog>
  );
}

/** The kinds of layout, each with what it is for. */
function KindChoice({ value, onChange }: { value: Kind; onChange: (kind: Kind) => void }) {
  return (
    <fieldset>
      <legend>{say('common.kind')}</legend>
      {kinds.map((each) => (
        <label key={each} className="kind-choice" data-on={each === value ? '' : undefined}>
          <input type="radio" name="kind" checked={each === value} onChange={() => onChange(each)} />
          <span>
            <b>{say(`newLayoutKind.${each}`)}</b> <small>{say(`newLayoutKind.${each}.about`)}</small>
          </span>
        </label>
      ))}
    </fieldset>
  );
}

const menuEntry = 'menu';

/** What else is made in the same act, or nothing. */
function FamilyChoice({ kind, value, onChange }: { kind: Kind; value: readonly string[]; onChange: (also: readonly string[]) => void }) {
  const parts = [...kinds.filter((each) => each !== kind), menuEntry] as const;
  return (
    <fieldset className="family-choice">
      <legend>{say('newLayoutDialog.also')}</legend>
      {parts.map((each) => (
        <label key={each}>
          <input
            type="checkbox"
            checked={value.includes(each)}
            onChange={({ target }) => onChange(target.checked ? [...value, each] : value.filter((other) => other !== each))}
          />
          {each === menuEntry ? say('newLayoutDialog.menuEntry') : say(`newLayoutKind.${each}`)}
        </label>
      ))}
    </fieldset>
  );
}

interface TemplatePartsProps {
  template: TemplateInfo;
  without: readonly string[];
  onChange: (without: readonly string[]) => void;
}

/** What the template makes, each of which can be left out. */
function TemplateParts({ template, without, onChange }: TemplatePartsProps) {
  return (
    <fieldset className="family-choice">
      <legend>{say('newLayoutDialog.templateMakes')}</legend>
      {template.about && <p className="bt-help">{template.about}</p>}
      {template.kinds.map((each) => (
        <label key={each}>
          <input
            type="checkbox"
            checked={!without.includes(each)}
            onChange={({ target }) => onChange(target.checked ? without.filter((other) => other !== each) : [...without, each])}
          />
          {say(`newLayoutKind.${each as Kind}`)}
        </label>
      ))}
    </fieldset>
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

/** What it is called, and the key that makes. */
function TitleInput({ title, layoutKey, onChange }: { title: string; layoutKey: string; onChange: (title: string) => void }) {
  return (
    <>
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
          onChange={(event) => onChange(event.target.value)}
        />
      </label>
      <p className="bt-help">{title.trim() ? <>{rich('newLayoutDialog.key', <code>{layoutKey}</code>)}</> : '\u00a0'}</p>
    </>
  );
}

/** Makes a layout, with what else of its family is wanted; its key. */
async function createLayout(named: { entity: string; key: string; title: string }, from: string, kind: Kind, also: readonly string[]) {
  const family = { also: also.filter((each) => each !== menuEntry && each !== kind), menuEntry: also.includes(menuEntry) };
  return (await answer(api.POST('/api/layouts', { body: { ...named, from, kind, ...family } }))).key;
}

const createFrom = (template: string, body: { entity: string; key: string; title: string; without: string[] }) =>
  answer(api.POST('/api/templates/{key}/layouts', { params: { path: { key: template } }, body }));
