import { useEffect, useState } from 'react';
import { answer, api, type Person, type Session } from '../api/client.ts';
import { sayIn } from './words.ts';

/** Where people can be picked, a list of them; elsewhere, a personal token. */
export function SignIn({ session, onSignedIn }: { session: Session; onSignedIn: (session: Session) => void }) {
  const say = sayIn(session.language);
  const [people, setPeople] = useState<Person[]>([]);
  const [token, setToken] = useState('');
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    if (session.peopleCanBePicked) answer(api.GET('/api/session/people')).then(setPeople, (error: Error) => setProblem(error.message));
  }, [session.peopleCanBePicked]);
  const signIn = (body: { person?: string; token?: string }) => {
    answer(api.POST('/api/session', { body })).then(onSignedIn, (error: Error) => setProblem(error.message));
  };
  const roles = (person: Person) => person.roles.map((role) => session.application.roles.find((each) => each.key === role)?.label ?? role).join(', ');
  return (
    <main className="sign-in">
      <img src="/icon.svg" alt="" width="48" height="48" />
      <h1>{session.application.title}</h1>
      {session.peopleCanBePicked ? (
        <>
          <p>{say('beWhoever')}</p>
          <ul className="people">
            {people.map((person) => (
              <li key={person.id}><button type="button" onClick={() => signIn({ person: person.id })}><b>{person.name}</b><span>{roles(person)}</span></button></li>
            ))}
          </ul>
        </>
      ) : (
        <form className="token" onSubmit={(event) => { event.preventDefault(); signIn({ token }); }}>
          <label htmlFor="token">{say('token')}</label>
          <input id="token" className="bt-input" type="password" autoComplete="off" value={token} onChange={(event) => setToken(event.target.value)} />
          <button type="submit" className="primary">{say('signIn')}</button>
        </form>
      )}
      {problem && <p className="notice" role="alert">{problem}</p>}
    </main>
  );
}
