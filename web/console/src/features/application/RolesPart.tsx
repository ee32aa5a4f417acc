import { useState } from 'react';
import type { EntitySummary } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { textIn, withText } from '../../shell/localTexts.ts';
import { may } from '../../shell/session.ts';
import { Select } from '../../ui/Select.tsx';
import { PartHead, useDocument, UseList } from '../documents/index.ts';
import { NameForm } from './NameForm.tsx';
import { noApplication, type ApplicationFile, type RoleFile } from './applicationFile.ts';

const permissions = ['read-records', 'write-records', 'configure', 'review', 'publish', 'override', 'administer'] as const;

type Permission = (typeof permissions)[number];

/** Who there is: the roles people have, what each may do, and of what. What a role does with single fields is said at the entity. */
export function RolesPart({ entities }: { entities: EntitySummary[] }) {
  const session = useSession();
  const { languages } = session.application;
  const stored = useDocument<ApplicationFile>('application', 'application', noApplication);
  const { value, change } = stored;
  const [language, setLanguage] = useState(languages[0]!);
  // Who may do what is changed by those who administer alone.
  const changes = may(session, 'administer');
  if (!value) return <PartHead about="" kept={stored} />;
  const roles = value.roles ?? [];
  const set = (i: number, more: Partial<RoleFile>) => change({ ...value, roles: roles.with(i, { ...roles[i]!, ...more }) });
  const add = (name: string) => {
    const taken = roles.map((each) => each.key);
    const label = withText(undefined, name, language, [...languages]) as RoleFile['label'];
    // It may read records until more is ticked.
    change({ ...value, roles: [...roles, { key: roleKey(name, taken), label, may: ['read-records'] }] });
  };
  return (
    <>
      <PartHead about={say('rolesPart.about')} kept={stored} title={say('applicationPart.roles')} />
      <label className="label-language">
        {say('stylesPart.labelsIn')}{' '}
        <Select value={language} options={languages.map((tag) => ({ key: tag, label: tag }))} onChange={setLanguage} />
      </label>
      <div className="table-frame">
        <table className="table sketch roles">
          <RolesHead />
          <tbody>
            {roles.map((role, i) => (
              <RoleLine
                key={role.key}
                role={role}
                label={textIn(role.label, language)}
                entities={entities}
                disabled={!changes}
                onLabel={(text) =>
                  set(i, { label: (withText(role.label, text, language, [...languages]) ?? role.key) as RoleFile['label'] })
                }
                onChange={(more) => set(i, more)}
                onRemove={() => change({ ...value, roles: roles.toSpliced(i, 1) })}
              />
            ))}
          </tbody>
        </table>
      </div>
      {changes && <NameForm label={say('rolesPart.newRole')} submit={say('rolesPart.add')} onAdd={add} />}
    </>
  );
}

/** A role's key as people write roles: small letters and hyphens. */
function roleKey(name: string, taken: readonly string[]): string {
  const key = keyOf(name, [])
    .replace(/([a-z0-9])([A-Z])/g, '$1-$2')
    .toLowerCase();
  let free = key;
  for (let number = 2; taken.includes(free); number++) free = `${key}-${number}`;
  return free;
}

function RolesHead() {
  return (
    <thead>
      <tr>
        <th scope="col">{say('rolesPart.role')}</th>
        <th scope="col">{say('data.key')}</th>
        {permissions.map((each) => (
          <th key={each} scope="col" className="roles-may">
            {say(`rolesPart.may.${each}`)}
          </th>
        ))}
        <th scope="col">{say('rolesPart.entities')}</th>
        <td />
      </tr>
    </thead>
  );
}

interface RoleLineProps {
  role: RoleFile;
  label: string;
  entities: EntitySummary[];
  disabled: boolean;
  onLabel: (text: string) => void;
  onChange: (more: Partial<RoleFile>) => void;
  onRemove: () => void;
}

/** A role: what it is called, what it may do, of which entities, and what there is of it elsewhere. */
function RoleLine({ role, label, entities, disabled, onLabel, onChange, onRemove }: RoleLineProps) {
  const [asked, setAsked] = useState(false);
  const grants = role.may ?? [];
  const only = role.entities ?? [];
  const grant = (permission: Permission, on: boolean) =>
    onChange({ may: permissions.filter((each) => (each === permission ? on : grants.includes(each))) });
  const toggle = (key: string, on: boolean) => {
    const next = on ? [...only, key] : only.filter((each) => each !== key);
    onChange({ entities: next.length > 0 ? next : undefined });
  };
  return (
    <tr>
      <td data-label={say('rolesPart.role')}>
        <input
          key={label}
          className="bt-input"
          aria-label={say('rolesPart.nameOf', role.key)}
          dir="auto"
          maxLength={100}
          defaultValue={label}
          disabled={disabled}
          onBlur={(event) => event.target.value !== label && onLabel(event.target.value)}
        />
      </td>
      <td data-label={say('data.key')}>{role.key}</td>
      {permissions.map((each) => (
        <td key={each} data-label={say(`rolesPart.may.${each}`)}>
          <input
            type="checkbox"
            aria-label={`${label}: ${say(`rolesPart.may.${each}`)}`}
            checked={grants.includes(each)}
            disabled={disabled}
            onChange={(event) => grant(each, event.target.checked)}
          />
        </td>
      ))}
      <td data-label={say('rolesPart.entities')}>
        <details>
          <summary>{only.length === 0 ? say('rolesPart.allEntities') : say('rolesPart.someEntities', only.length)}</summary>
          {entities.map((each) => (
            <label key={each.key}>
              <input
                type="checkbox"
                checked={only.includes(each.key)}
                disabled={disabled}
                onChange={(event) => toggle(each.key, event.target.checked)}
              />{' '}
              {each.plural}
            </label>
          ))}
        </details>
      </td>
      <td>
        <span className="acts">
          <button type="button" className="button quiet" aria-expanded={asked} onClick={() => setAsked(!asked)}>
            {say('data.whereUsed')}
          </button>
          <button type="button" className="button quiet" disabled={disabled} onClick={onRemove}>
            {say('common.remove')}
          </button>
        </span>
        {asked && <UseList subject="role" name={role.key} />}
      </td>
    </tr>
  );
}
