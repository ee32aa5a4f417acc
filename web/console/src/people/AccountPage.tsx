import { useEffect, useState } from 'react';
import { answer, api, type TokenInfo } from '../api/client.ts';
import { useSession } from '../shell/hooks.ts';

/** What is one's own: the password, and the tokens by which programs act in one's name. */
export function AccountPage() {
  const session = useSession();
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
  const change = () => answer(api.PUT('/api/session/password', { body: { current: current || null, new: next } })).then(() => {
    setCurrent('');
    setNext('');
    setNotice({ text: 'Your password is changed. Your other sessions have ended.', bad: false });
  }, failed);
  const make = () => answer(api.POST('/api/tokens', { body: { name, days, scopes: scopes.length > 0 ? [...scopes] : null } })).then((token) => {
    setMade(token);
    setName('');
    setScopes([]);
    load();
  }, failed);
  const end = (token: TokenInfo) => {
    if (window.confirm(`End the token ${token.name}? Whatever uses it stops working.`)) answer(api.DELETE('/api/tokens/{id}', { params: { path: { id: token.id } } })).then(() => load(), failed);
  };
  return (
    <>
      <header className="page-head"><h1>{session.person!.name}</h1></header>
      {notice && <p className="notice" data-tone={notice.bad ? 'bad' : 'good'} role="status">{notice.text}</p>}
      <section className="account">
        <h2>Password</h2>
        <form className="account-form" onSubmit={(event) => { event.preventDefault(); void change(); }}>
          <label htmlFor="current">The one up to now, if you have one</label>
          <input id="current" className="bt-input" type="password" autoComplete="current-password" value={current} onChange={(event) => setCurrent(event.target.value)} />
          <label htmlFor="next">The new one, of at least 12 characters</label>
          <input id="next" className="bt-input" type="password" autoComplete="new-password" minLength={12} required value={next} onChange={(event) => setNext(event.target.value)} />
          <button type="submit" className="button">Change it</button>
        </form>
      </section>
      <section className="account">
        <h2>Personal tokens</h2>
        <p>With a token a program acts in your name, such as the command line or a pipeline.</p>
        {made && <p className="notice" data-tone="good" role="status">The token {made.name}, shown this once: <code className="secret">{made.secret}</code></p>}
        {tokens.length > 0 && (
          <div className="table-frame"><table className="table">
            <thead><tr><th scope="col">Name</th><th scope="col">Good for</th><th scope="col">Until</th><th scope="col"><span className="bt-visually-hidden">End it</span></th></tr></thead>
            <tbody>{tokens.map((token) => <tr key={token.id}><td data-label="Name">{token.name}</td><td data-label="Good for">{token.scopes?.join(', ') ?? 'all you may do'}</td><td data-label="Until">{new Date(token.expires).toLocaleDateString()}</td><td><button type="button" className="button" onClick={() => end(token)}>End it</button></td></tr>)}</tbody>
          </table></div>
        )}
        <form className="account-form" onSubmit={(event) => { event.preventDefault(); void make(); }}>
          <label htmlFor="token-name">What it is for</label>
          <input id="token-name" className="bt-input" required maxLength={100} value={name} onChange={(event) => setName(event.target.value)} />
          <label htmlFor="token-days">Days it lasts</label>
          <input id="token-days" className="bt-input" type="number" min={1} max={365} required value={days} onChange={(event) => setDays(Number(event.target.value))} />
          <fieldset className="ticks"><legend>Good for these alone; with none, for all you may do</legend>{session.may.map((act) => <label key={act}><input type="checkbox" checked={scopes.includes(act)} onChange={(event) => setScopes(event.target.checked ? [...scopes, act] : scopes.filter((each) => each !== act))} /> {act}</label>)}</fieldset>
          <button type="submit" className="button primary">Make a token</button>
        </form>
      </section>
    </>
  );
}
