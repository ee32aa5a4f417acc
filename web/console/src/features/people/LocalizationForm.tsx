import { useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { useSession, useWords } from '../../shell/hooks.ts';
import { RegionChoice } from './RegionChoice.tsx';

/** One's own language, and the region whose dates and numbers are written; what is open follows by itself. */
export function LocalizationForm({ onSaved, onFailed }: { onSaved: () => void; onFailed: (error: Error) => void }) {
  const session = useSession();
  const say = useWords();
  const [language, setLanguage] = useState(session.language);
  const [region, setRegion] = useState(session.person!.region ?? null);
  const names = new Intl.DisplayNames([session.language], { type: 'language' });
  return (
    <section className="account">
      <h2>{say('localization')}</h2>
      <form
        className="account-form"
        onSubmit={(event) => {
          event.preventDefault();
          answer(api.PUT('/api/session/localization', { body: { language, region } })).then(onSaved, onFailed);
        }}
      >
        <label htmlFor="own-language">{say('language')}</label>
        <select id="own-language" className="bt-input" value={language} onChange={(event) => setLanguage(event.target.value)}>
          {session.application.languages.map((each) => (
            <option key={each} value={each}>
              {names.of(each)}
            </option>
          ))}
        </select>
        <RegionChoice id="own-region" language={language} value={region} onChange={setRegion} />
        <button type="submit" className="button">
          {say('save')}
        </button>
      </form>
    </section>
  );
}
