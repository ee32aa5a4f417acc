import { writeMoment } from '#form';
import { useEffect, useState } from 'react';
import { answer, api, type TokenInfo } from '../../api/client.ts';
import { useSession, useWords } from '../../shell/hooks.ts';
import { LocalizationForm } from './LocalizationForm.tsx';

/** What is one's own: the password, and the tokens by which programs act in one's name. */
export function AccountPage() {
  const session = useSession();
  const say = useWords();
  const [tokens, setTokens] = useState<TokenInfo[]>([]);
  const [made, setMade] = useState<TokenInfo>();
  const [name, setName] = useState('');
  const [days, setDays] = useState(90);
  const [scopes, setScopes] = useState<readonly string[]>([]);
  const [current, setCurrent] = useState('');
  const [next, setNext] = useState('');
  const [notice, setNotice] = useState<{ text: string; bad: boolean }>();
  const load = () => void answer(api.GET('/api/tokens')).then(setTokens, () => undefined);
  useEffect(load, []);
  const failed = (error: Error) => setNotice({ text: error.message, bad: true });
  const change = () =>
    answer(api.PUT('/api/session/password', { body: { current: current || null, new: next } })).then(() => {
      setCurrent('');
      setNext('');
      setNotice({ text: say('passwordChanged'), bad: false });
    }, failed);
  const createToken = () =>
    answer(api.POST('/api/tokens', { body: { name, days, scopes: scopes.length > 0 ? [...scopes] : null } })).then((token) => {
      setMade(token);
      setName('');
      setScopes([]);
      load();
    }, failed);
  const end = (token: TokenInfo) => {
    if (window.confirm(say('tokenEndAsk', token.name)))
      answer(api.DELETE('/api/tokens/{id}', { params: { path: { id: token.id } } })).then(() => load(), failed);
  };
  return (
    <>
      <header className="page-head">
        <h1>{session.person!.name}</h1>
      </header>
      {notice && (
        <p className="notice" data-tone={notice.bad ? 'bad' : 'good'} role="status">
          {notice.text}
        </p>
      )}
      <LocalizationForm onSaved={() => setNotice({ text: say('localizationSaved'), bad: false })} onFailed={failed} />
      <section className="account">
        <h2>{say('password')}</h2>
        <form
          className="account-form"
          onSubmit={(event) => {
            event.preventDefault();
            void change();
          }}
        >
          <label htmlFor="current">{say('passwordCurrent')}</label>
          <input
            id="current"
            className="bt-input"
            type="password"
            autoComplete="current-password"
            value={current}
            onChange={(event) => setCurrent(event.target.value)}
          />
          <label htmlFor="next">{say('passwordNew')}</label>
          <input
            id="next"
            className="bt-input"
            type="password"
            autoComplete="new-password"
            minLength={12}
            required
            value={next}
            onChange={(event) => setNext(event.target.value)}
          />
          <button type="submit" className="button">
            {say('changePassword')}
          </button>
        </form>
      </section>
      <section className="account">
        <h2>{say('tokens')}</h2>
        <p>{say('tokensAbout')}</p>
        {made && (
          <p className="notice" data-tone="good" role="status">
            {say('tokenMade', made.name)} <code className="secret">{made.secret}</code>
          </p>
        )}
        {tokens.length > 0 && (
          <div className="table-frame">
            <table className="table">
              <thead>
                <tr>
                  <th scope="col">{say('tokenName')}</th>
                  <th scope="col">{say('tokenFor')}</th>
                  <th scope="col">{say('tokenUntil')}</th>
                  <th scope="col">
                    <span className="bt-visually-hidden">{say('tokenEnd')}</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {tokens.map((token) => (
                  <tr key={token.id}>
                    <td data-label={say('tokenName')}>{token.name}</td>
                    <td data-label={say('tokenFor')}>{token.scopes?.join(', ') ?? say('tokenAll')}</td>
                    <td data-label={say('tokenUntil')}>
                      {writeMoment(new Date(token.expires), session.language, { dateStyle: 'medium' })}
                    </td>
                    <td>
                      <button type="button" className="button" onClick={() => end(token)}>
                        {say('tokenEnd')}
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
        <form
          className="account-form"
          onSubmit={(event) => {
            event.preventDefault();
            void createToken();
          }}
        >
          <label htmlFor="token-name">{say('tokenName')}</label>
          <input
            id="token-name"
            className="bt-input"
            required
            maxLength={100}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <label htmlFor="token-days">{say('tokenDays')}</label>
          <input
            id="token-days"
            className="bt-input"
            type="number"
            min={1}
            max={365}
            required
            value={days}
            onChange={(event) => setDays(Number(event.target.value))}
          />
          <fieldset className="ticks">
            <legend>{say('tokenScopes')}</legend>
            {session.permissions.map((permission) => (
              <label key={permission}>
                <input
                  type="checkbox"
                  checked={scopes.includes(permission)}
                  onChange={(event) =>
                    setScopes(event.target.checked ? [...scopes, permission] : scopes.filter((each) => each !== permission))
                  }
                />{' '}
                {permission}
              </label>
            ))}
          </fieldset>
          <button type="submit" className="button primary">
            {say('tokenMake')}
          </button>
        </form>
      </section>
    </>
  );
}
