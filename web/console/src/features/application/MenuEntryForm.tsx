import type { EntitySummary } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { textIn, withText } from '../../shell/localTexts.ts';
import type { Entry } from './menuTree.ts';

interface MenuEntryFormProps {
  entry: Entry;
  entities: EntitySummary[];
  /** The names of the icons there are. */
  icons: string[];
  language: string;
  onLanguage: (language: string) => void;
  onChange: (more: Partial<Entry>) => void;
}

/** One entry of the menu: what it is called in each language, where it leads, who sees it. */
export function MenuEntryForm({ entry, entities, icons, language, onLanguage, onChange }: MenuEntryFormProps) {
  const { application } = useSession();
  return (
    <>
      <label>
        {say('menuPart.in')}{' '}
        <select className="bt-input bt-select" value={language} onChange={(event) => onLanguage(event.target.value)}>
          {application.languages.map((tag) => (
            <option key={tag}>{tag}</option>
          ))}
        </select>
      </label>
      <label>
        {say('common.title')}{' '}
        <input
          className="bt-input"
          dir="auto"
          value={textIn(entry.title, language)}
          onChange={(event) =>
            onChange({
              title: (withText(entry.title, event.target.value, language, [...application.languages]) ?? '') as Entry['title'],
            })
          }
        />
      </label>
      <label>
        {say('menuPart.icon')}{' '}
        <select
          className="bt-input bt-select"
          value={entry.icon ?? ''}
          onChange={(event) => onChange({ icon: event.target.value || undefined })}
        >
          <option value="">{say('common.none')}</option>
          {icons.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      <Target entry={entry} entities={entities} onChange={onChange} />
      <EntryRoles entry={entry} onChange={(roles) => onChange({ roles })} />
    </>
  );
}

/** The roles that see an entry; everybody without any. */
function EntryRoles({ entry, onChange }: { entry: Entry; onChange: (roles: string[] | undefined) => void }) {
  const { application } = useSession();
  return (
    <fieldset>
      <legend>{say('common.seenBy')}</legend>
      {application.roles.map((each) => (
        <label key={each.key}>
          <input
            type="checkbox"
            checked={entry.roles?.includes(each.key) ?? false}
            onChange={(event) => {
              const next = application.roles
                .map((one) => one.key)
                .filter((key) => (key === each.key ? event.target.checked : entry.roles?.includes(key)));
              onChange(next.length > 0 ? next : undefined);
            }}
          />{' '}
          {each.label}
        </label>
      ))}
      <small>{entry.roles?.length ? '' : say('menuPart.nobodyIsNamedEveryoneSees')}</small>
    </fieldset>
  );
}

/** Where an entry leads: a list, an address, or nowhere. */
function Target({ entry, entities, onChange }: Pick<MenuEntryFormProps, 'entry' | 'entities' | 'onChange'>) {
  return (
    <>
      <label>
        {say('menuPart.leadsTo')}{' '}
        <select
          className="bt-input bt-select"
          value={entry.entity ?? (entry.address === undefined ? '' : '/')}
          onChange={(event) =>
            onChange(
              event.target.value === '/'
                ? { entity: undefined, address: 'https://' }
                : { entity: event.target.value || undefined, address: undefined },
            )
          }
        >
          <option value="">{say('menuPart.nothingItIsAHeading')}</option>
          {entities.map((each) => (
            <option key={each.key} value={each.key}>
              {say('menuPart.theListOf', each.plural.toLowerCase())}
            </option>
          ))}
          <option value="/">{say('menuPart.anAddress')}</option>
        </select>
      </label>
      {entry.address !== undefined && (
        <label>
          {say('menuPart.address')}{' '}
          <input className="bt-input" dir="ltr" value={entry.address} onChange={(event) => onChange({ address: event.target.value })} />
        </label>
      )}
    </>
  );
}
