import { useState } from 'react';
import { usePageTitle, useSession, useWords } from '../../shell/hooks.ts';
import { NoticeLine, type Notice } from '../../ui/Notice.tsx';
import { LocalizationForm } from './LocalizationForm.tsx';
import { PasswordPart } from './PasswordPart.tsx';
import { TokensPart } from './TokensPart.tsx';
import '../../pages.css';

/** What is one's own: the language, the password, and the tokens by which programs act in one's name. */
export function AccountPage() {
  const session = useSession();
  const say = useWords();
  usePageTitle(say('account'));
  const [notice, setNotice] = useState<Notice>();
  const failed = (error: Error) => setNotice({ text: error.message, bad: true });
  return (
    <>
      <header className="page-head">
        <h1>{session.person!.name}</h1>
      </header>
      <NoticeLine notice={notice} />
      <LocalizationForm onSaved={() => setNotice({ text: say('localizationSaved'), bad: false })} onFailed={failed} />
      <PasswordPart onChanged={() => setNotice({ text: say('passwordChanged'), bad: false })} onFailed={failed} />
      <TokensPart onFailed={failed} />
    </>
  );
}
