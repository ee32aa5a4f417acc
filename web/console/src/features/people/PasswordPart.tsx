import { useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { useWords } from '../../shell/hooks.ts';

/** One's own password, changed by whoever knows it. */
export function PasswordPart({ onChanged, onFailed }: { onChanged: () => void; onFailed: (error: Error) => void }) {
  const say = useWords();
  const [current, setCurrent] = useState('');
  const [next, setNext] = useState('');
  const change = () =>
    answer(api.PUT('/api/session/password', { body: { current: current || null, new: next } })).then(() => {
      setCurrent('');
      setNext('');
      onChanged();
    }, onFailed);
  return (
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
  );
}
