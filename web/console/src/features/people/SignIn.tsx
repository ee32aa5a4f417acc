import { useState } from 'react';
import { isRightToLeft } from '#form';
import { answer, api, ApiError, type Person } from '../../api/client.ts';
import { translateIn, type Translate, type Word } from '../../shell/words.ts';
import { useAnswer } from '../../shell/queries.ts';
import type { Notice } from '../../ui/Notice.tsx';
import type { SignInProps } from '../../runtime/parts.ts';
import { NoticeBox } from '../../ui/Notice.tsx';
import { SetupForm } from './SetupForm.tsx';
import '../../pages.css';

interface Credentials {
  person?: string;
  token?: string;
  password?: string;
  newPassword?: string;
}

/** Where people can be picked, a list of them; elsewhere a password, a personal token, or the way to the identity provider. */
export function SignIn({ session, onSignedIn }: SignInProps) {
  /** A new service is set up first, in the browser's language: it has none of its own yet. */
  const [settingUp, setSettingUp] = useState(session.unclaimed ?? false);
  const language = session.unclaimed ? navigator.language : session.language;
  const say = translateIn(language);
  /** Somebody else set the password: one's own is asked for with it. */
  const [changing, setChanging] = useState(false);
  const [tried, setProblem] = useState<Notice>();
  const picked = useAnswer(['people', 'picked'], session.peopleCanBePicked ? () => answer(api.GET('/api/session/people')) : undefined);
  const problem = tried ?? (picked.problem && { text: picked.problem.message, bad: true });
  const signIn = (body: Credentials) => {
    answer(api.POST('/api/session', { body })).then(onSignedIn, (error: Error) => {
      const toChange = error instanceof ApiError && error.problem.code === 'password-to-change';
      if (toChange) setChanging(true);
      // Until one has tried, it is nothing that went wrong.
      setProblem(toChange ? { text: say('chooseOwn'), bad: false } : { text: error.message, bad: true });
    });
  };
  const roles = (person: Person) =>
    person.roles.map((role) => session.application.roles.find((each) => each.key === role)?.label ?? role).join(', ');
  return (
    <main className="sign-in" data-setup={settingUp ? '' : undefined} lang={language} dir={isRightToLeft(language) ? 'rtl' : 'ltr'}>
      <img src="/icon.svg" alt="" width="48" height="48" />
      <h1>{session.unclaimed ? say('product') : session.application.title}</h1>
      {problem && (
        <NoticeBox tone={problem.bad ? 'bad' : undefined} urgent>
          {problem.text}
        </NoticeBox>
      )}
      {settingUp ? (
        <SetupForm say={say} onSignedIn={onSignedIn} onOtherWay={() => setSettingUp(false)} />
      ) : session.peopleCanBePicked ? (
        <>
          <p>{say('pickPerson')}</p>
          <ul className="people">
            {picked.data?.map((person) => (
              <li key={person.id}>
                <button type="button" onClick={() => signIn({ person: person.id })}>
                  <b>{person.name}</b>
                  <span>{roles(person)}</span>
                </button>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <>
          {session.provider && (
            <a className="button primary sign-in-provider" href={`/sign-in?back=${encodeURIComponent(window.location.pathname)}`}>
              {say('byProvider', session.provider)}
            </a>
          )}
          <CredentialsForm say={say} changing={changing} onSignIn={signIn} onOtherWay={() => setProblem(undefined)} />
        </>
      )}
    </main>
  );
}

interface CredentialsFormProps {
  say: Translate;
  /** A password of one's own is asked for. */
  changing: boolean;
  onSignIn: (credentials: Credentials) => void;
  onOtherWay: () => void;
}

/** A name with its password, or a personal token. */
function CredentialsForm({ say, changing, onSignIn, onOtherWay }: CredentialsFormProps) {
  const [byToken, setByToken] = useState(false);
  const [given, setGiven] = useState<Credentials>({});
  const input = (name: keyof Credentials, word: Word, type: string, complete: string) => (
    <>
      <label htmlFor={`sign-in-${name}`}>{say(word)}</label>
      <input
        id={`sign-in-${name}`}
        className="bt-input"
        type={type}
        autoComplete={complete}
        required
        autoFocus={name === 'newPassword'}
        value={given[name] ?? ''}
        onChange={(event) => setGiven({ ...given, [name]: event.target.value })}
      />
    </>
  );
  return (
    <form
      className="token"
      onSubmit={(event) => {
        event.preventDefault();
        onSignIn(
          byToken
            ? { token: given.token ?? '' }
            : {
                person: given.person ?? '',
                password: given.password ?? '',
                ...(changing ? { newPassword: given.newPassword ?? '' } : {}),
              },
        );
      }}
    >
      {byToken ? (
        input('token', 'token', 'password', 'off')
      ) : (
        <>
          {input('person', 'personName', 'text', 'username')}
          {input('password', 'password', 'password', 'current-password')}
          {changing && input('newPassword', 'newPassword', 'password', 'new-password')}
        </>
      )}
      <button type="submit" className="primary">
        {say('signIn')}
      </button>
      <button
        type="button"
        className="bt-link"
        onClick={() => {
          setByToken(!byToken);
          onOtherWay();
        }}
      >
        {say(byToken ? 'byPassword' : 'byToken')}
      </button>
    </form>
  );
}
