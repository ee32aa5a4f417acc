import { useEffect, useRef, useState } from 'react';
import { answer, api, type Person } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { say } from '../../shell/configuring/texts.ts';

const nobody: Person = { id: '', name: '', roles: [], language: 'en', vouched: false };

/** Who there is and what they may: for administrators. */
export function PeoplePage() {
  const session = useSession();
  const [people, setPeople] = useState<Person[]>([]);
  const [editing, setEditing] = useState<Person>();
  const [notice, setNotice] = useState<{ text: string; bad: boolean }>();
  const load = () => void answer(api.GET('/api/people')).then(setPeople, (error: Error) => setNotice({ text: error.message, bad: true }));
  useEffect(load, []);
  const label = (key: string) => session.application.roles.find((role) => role.key === key)?.label ?? key;
  return (
    <>
      <header className="page-head">
        <h1>{say('peoplePage.people')}</h1>
        <button type="button" className="button primary" onClick={() => setEditing(nobody)}>
          {say('peoplePage.newPerson')}
        </button>
      </header>
      {notice && (
        <p className="notice" data-tone={notice.bad ? 'bad' : 'good'} role="status">
          {notice.text}
        </p>
      )}
      <div className="table-frame">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">{say('common.name')}</th>
              <th scope="col">{say('peoplePage.userName')}</th>
              <th scope="col">{say('peoplePage.roles')}</th>
              <th scope="col">{say('common.language')}</th>
            </tr>
          </thead>
          <tbody>
            {people.map((person) => (
              <tr key={person.id}>
                <td data-label="Name">
                  <button type="button" className="bt-link" onClick={() => setEditing(person)}>
                    {person.name}
                  </button>
                </td>
                <td data-label="User name">{person.id}</td>
                <td data-label="Roles">
                  {person.roles.map(label).join(', ') || 'none'}
                  {person.vouched && <small> {say('peoplePage.byTheIdentityProvider')}</small>}
                </td>
                <td data-label="Language">{person.language}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {editing && (
        <PersonDialog
          person={editing}
          onClose={(said) => {
            setEditing(undefined);
            if (said) {
              setNotice({ text: said, bad: false });
              load();
            }
          }}
        />
      )}
    </>
  );
}

/** One person: her name, roles and language, and a first password. */
function PersonDialog({ person, onClose }: { person: Person; onClose: (said?: string) => void }) {
  const session = useSession();
  const dialog = useRef<HTMLDialogElement>(null);
  const [is, setIs] = useState(person);
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<string>();
  useEffect(() => dialog.current?.showModal(), []);
  const fresh = person.id === '';
  const save = async () => {
    try {
      await answer(
        api.PUT('/api/people/{id}', {
          params: { path: { id: is.id } },
          headers: fresh ? { 'If-None-Match': '*' } : {},
          body: { name: is.name, roles: is.roles, language: is.language },
        }),
      );
      if (password) await answer(api.PUT('/api/people/{id}/password', { params: { path: { id: is.id } }, body: { password } }));
      onClose(say(password ? 'peoplePage.savedWithPassword' : 'peoplePage.saved', is.name));
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <dialog ref={dialog} className="dialog" aria-labelledby="person-title" onClose={() => onClose()}>
      <form
        method="dialog"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <h2 id="person-title">{fresh ? say('peoplePage.newPerson2') : person.name}</h2>
        {problem && (
          <div className="dialog-problem" role="alert">
            {problem}
          </div>
        )}
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
        <fieldset className="ticks" disabled={is.vouched}>
          <legend>{is.vouched ? say('peoplePage.rolesAsTheIdentityProvider') : say('peoplePage.roles')}</legend>
          {session.application.roles.map((role) => (
            <label key={role.key}>
              <input
                type="checkbox"
                checked={is.roles.includes(role.key)}
                onChange={(event) =>
                  setIs({ ...is, roles: event.target.checked ? [...is.roles, role.key] : is.roles.filter((each) => each !== role.key) })
                }
              />{' '}
              {role.label}
              {role.entities.length > 0 && <small> {say('peoplePage.only', role.entities.join(', '))}</small>}
            </label>
          ))}
        </fieldset>
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
        <div className="dialog-acts">
          <button type="button" className="button" onClick={() => dialog.current?.close()}>
            {say('common.cancel')}
          </button>
          <button type="submit" className="button primary">
            {say('peoplePage.save')}
          </button>
        </div>
      </form>
    </dialog>
  );
}
