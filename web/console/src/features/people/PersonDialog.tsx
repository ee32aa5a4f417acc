import { useState } from 'react';
import { answer, api, type Person } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { RegionChoice } from './RegionChoice.tsx';

/** One person: her name, roles and language, and a first password. */
export function PersonDialog({ person, onClose }: { person: Person; onClose: (said: string | undefined) => void }) {
  const session = useSession();
  const [is, setIs] = useState(person);
  const [password, setPassword] = useState('');
  const fresh = person.id === '';
  const save = () => savePerson(is, fresh, password);
  return (
    <FormDialog
      title={fresh ? say('peoplePage.newPerson2') : person.name}
      submit={say('peoplePage.save')}
      onSubmit={save}
      onClose={onClose}
    >
      {fresh && (
        <>
          <label htmlFor="person-id">{say('peoplePage.userName')}</label>
          <input
            id="person-id"
            className="bt-input"
            required
            pattern="[a-z][a-z0-9\-]*"
            title={say('peoplePage.smallLettersDigitsAndHyphens')}
            value={is.id}
            onChange={(event) => setIs({ ...is, id: event.target.value })}
          />
        </>
      )}
      <label htmlFor="person-name">{say('common.name')}</label>
      <input
        id="person-name"
        className="bt-input"
        required
        value={is.name}
        onChange={(event) => setIs({ ...is, name: event.target.value })}
      />
      <RoleChoice is={is} onChange={(roles) => setIs({ ...is, roles })} />
      <label htmlFor="person-language">{say('common.language')}</label>
      <select
        id="person-language"
        className="bt-input"
        value={is.language}
        onChange={(event) => setIs({ ...is, language: event.target.value })}
      >
        {session.application.languages.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </select>
      <RegionChoice id="person-region" language={is.language} value={is.region ?? null} onChange={(region) => setIs({ ...is, region })} />
      <label htmlFor="person-password">{fresh ? say('peoplePage.firstPassword') : say('peoplePage.anotherPassword')}</label>
      <input
        id="person-password"
        className="bt-input"
        type="password"
        autoComplete="new-password"
        minLength={12}
        placeholder={fresh ? say('peoplePage.optional') : say('peoplePage.leftAsItIs')}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      {!fresh && password && <p>{say('peoplePage.thePersonSSessionsAnd')}</p>}
    </FormDialog>
  );
}

/** The roles somebody has; those of whoever signs in through an identity provider are said there. */
function RoleChoice({ is, onChange }: { is: Person; onChange: (roles: string[]) => void }) {
  const { roles } = useSession().application;
  return (
    <fieldset className="ticks" disabled={is.vouched}>
      <legend>{is.vouched ? say('peoplePage.rolesAsTheIdentityProvider') : say('peoplePage.roles')}</legend>
      {roles.map((role) => (
        <label key={role.key}>
          <input
            type="checkbox"
            checked={is.roles.includes(role.key)}
            onChange={(event) => onChange(event.target.checked ? [...is.roles, role.key] : is.roles.filter((each) => each !== role.key))}
          />{' '}
          {role.label}
          {role.entities.length > 0 && <small> {say('peoplePage.only', role.entities.join(', '))}</small>}
        </label>
      ))}
    </fieldset>
  );
}

/** Keeps a person, with a password where one is given; what is to be said of it. */
async function savePerson({ id, name, roles, language, region = null }: Person, fresh: boolean, password: string): Promise<string> {
  const params = { path: { id } };
  const headers = fresh ? { 'If-None-Match': '*' } : {};
  await answer(api.PUT('/api/people/{id}', { params, headers, body: { name, roles, language, region } }));
  if (password) await answer(api.PUT('/api/people/{id}/password', { params, body: { password } }));
  return say(password ? 'peoplePage.savedWithPassword' : 'peoplePage.saved', name);
}
