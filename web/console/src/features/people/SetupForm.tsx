import { useState } from 'react';
import { answer, api, ApiError, type Session } from '../../api/client.ts';
import { navigate } from '../../shell/location.ts';
import type { Translate, Word } from '../../shell/words.ts';
import { NoticeBox } from '../../ui/Notice.tsx';

interface SetupValues {
  code: string;
  name: string;
  person: string;
  password: string;
  title: string;
  languages: string;
  currency: string;
  timeZone: string;
}

/** A name as one signs in by it: small letters, digits, hyphens. */
const asId = (name: string) =>
  name
    .normalize('NFD')
    .replaceAll(/\p{M}/gu, '')
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^[^a-z]+|-+$/g, '')
    .slice(0, 60);

const begun = (): SetupValues => ({
  code: '',
  name: '',
  person: '',
  password: '',
  title: '',
  languages: navigator.language.split('-')[0] ?? 'en',
  currency: 'EUR',
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
});

interface SetupFormProps {
  say: Translate;
  onSignedIn: (session: Session) => void;
  onOtherWay: () => void;
}

/** A new service: who administers it, and what the application is; with the code it printed when it began. */
export function SetupForm({ say, onSignedIn, onOtherWay }: SetupFormProps) {
  const [given, setGiven] = useState(begun);
  const [problem, setProblem] = useState<ApiError>();
  const [busy, setBusy] = useState(false);
  const send = async () => {
    setBusy(true);
    try {
      const session = await answer(api.POST('/api/setup', { body: bodyOf(given) }));
      navigate('data');
      onSignedIn(session);
    } catch (error) {
      setProblem(error as ApiError);
      setBusy(false);
    }
  };
  const wrong = problem instanceof ApiError ? problem.problem.problems : undefined;
  const input = (name: keyof SetupValues, word: Word, more: React.InputHTMLAttributes<HTMLInputElement> = {}) => {
    const said = wrong?.find((part) => part.pointer.startsWith(`/${name}`))?.message;
    const change = (value: string) => setGiven({ ...given, [name]: value });
    return <SetupInput name={name} label={say(word)} value={given[name]} wrong={said} onChange={change} more={more} />;
  };
  return (
    <form
      className="token setup"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <p>{say('setupAbout')}</p>
      {problem && (
        <NoticeBox tone="bad" urgent>
          {problem.message}
        </NoticeBox>
      )}
      {input('code', 'setupCode', { autoComplete: 'off', spellCheck: false, autoFocus: true })}
      <fieldset>
        <legend>{say('setupYou')}</legend>
        {input('name', 'setupName', { autoComplete: 'name', maxLength: 100 })}
        {input('person', 'personName', { autoComplete: 'username', placeholder: asId(given.name) || 'administrator', required: false })}
        {input('password', 'password', { type: 'password', autoComplete: 'new-password', minLength: 12 })}
      </fieldset>
      <fieldset>
        <legend>{say('application')}</legend>
        {input('title', 'setupTitle', { maxLength: 100 })}
        {input('languages', 'setupLanguages')}
        {input('currency', 'setupCurrency', { maxLength: 3, list: 'setup-currencies' })}
        {input('timeZone', 'setupTimeZone', { list: 'setup-zones' })}
      </fieldset>
      <SetupLists />
      <button type="submit" className="primary" disabled={busy}>
        {say('setupDone')}
      </button>
      <button type="button" className="bt-link" onClick={onOtherWay}>
        {say('setupSignIn')}
      </button>
    </form>
  );
}

const bodyOf = ({ languages, person, ...rest }: SetupValues) => ({
  ...rest,
  person: person || asId(rest.name) || 'administrator',
  languages: languages.split(/[\s,;]+/).filter(Boolean),
});

interface SetupInputProps {
  name: string;
  label: string;
  value: string;
  /** What the service says against it. */
  wrong: string | undefined;
  onChange: (value: string) => void;
  more: React.InputHTMLAttributes<HTMLInputElement>;
}

/** A line to fill in, with what is wrong with it. */
function SetupInput({ name, label, value, wrong, onChange, more }: SetupInputProps) {
  const id = `setup-${name}`;
  return (
    <div>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        className="bt-input"
        required
        value={value}
        aria-invalid={wrong ? true : undefined}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        onChange={(event) => onChange(event.target.value)}
        {...more}
      />
      {wrong && (
        <small className="setup-wrong" id={`${id}-wrong`}>
          {wrong}
        </small>
      )}
    </div>
  );
}

/** The currencies and time zones that are offered. */
function SetupLists() {
  const lists = {
    'setup-currencies': ['EUR', 'GBP', 'USD', 'CHF', 'SAR', 'AED', 'EGP'],
    'setup-zones': Intl.supportedValuesOf('timeZone'),
  };
  return Object.entries(lists).map(([id, values]) => (
    <datalist key={id} id={id}>
      {values.map((each) => (
        <option key={each} value={each} />
      ))}
    </datalist>
  ));
}
