import { writeMoment } from '#form';
import { useState } from 'react';
import { answer, api, type TokenInfo } from '../../api/client.ts';
import { useSession, useWords } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { NoticeBox } from '../../ui/Notice.tsx';

const none: TokenInfo[] = [];

/** The tokens by which programs act in one's name: made, shown once, ended. */
export function TokensPart({ onFailed }: { onFailed: (error: Error) => void }) {
  const session = useSession();
  const say = useWords();
  const [made, setMade] = useState<TokenInfo>();
  const { data: tokens = none, reload } = useAnswer(['tokens'], () => answer(api.GET('/api/tokens')));
  const end = (token: TokenInfo) => {
    if (window.confirm(say('tokenEndAsk', token.name)))
      answer(api.DELETE('/api/tokens/{id}', { params: { path: { id: token.id } } })).then(reload, onFailed);
  };
  return (
    <section className="account">
      <h2>{say('tokens')}</h2>
      <p>{say('tokensAbout')}</p>
      {made && (
        <NoticeBox tone="good">
          {say('tokenMade', made.name)} <code className="secret">{made.secret}</code>
        </NoticeBox>
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
                  <td data-label={say('tokenUntil')}>{writeMoment(new Date(token.expires), session.language, { dateStyle: 'medium' })}</td>
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
      <TokenForm
        onMade={(token) => {
          setMade(token);
          void reload();
        }}
        onFailed={onFailed}
      />
    </section>
  );
}

function TokenForm({ onMade, onFailed }: { onMade: (token: TokenInfo) => void; onFailed: (error: Error) => void }) {
  const session = useSession();
  const say = useWords();
  const [name, setName] = useState('');
  const [days, setDays] = useState(90);
  const [scopes, setScopes] = useState<readonly string[]>([]);
  const createToken = () =>
    answer(api.POST('/api/tokens', { body: { name, days, scopes: scopes.length > 0 ? [...scopes] : null } })).then((token) => {
      setName('');
      setScopes([]);
      onMade(token);
    }, onFailed);
  return (
    <form
      className="account-form"
      onSubmit={(event) => {
        event.preventDefault();
        void createToken();
      }}
    >
      <label htmlFor="token-name">{say('tokenName')}</label>
      <input id="token-name" className="bt-input" required maxLength={100} value={name} onChange={(event) => setName(event.target.value)} />
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
              onChange={(event) => setScopes(event.target.checked ? [...scopes, permission] : scopes.filter((each) => each !== permission))}
            />{' '}
            {permission}
          </label>
        ))}
      </fieldset>
      <button type="submit" className="button primary">
        {say('tokenMake')}
      </button>
    </form>
  );
}
