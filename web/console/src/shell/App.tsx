import { isRightToLeft } from '#form';
import { lazy, Suspense, useCallback, useEffect, useState } from 'react';
import { answer, api, type CommentInfo, type EntitySummary, type Session } from '../api/client.ts';
import { expectsSomebody } from '../api/early.ts';
import { forgetPerson, withhold } from '../running/unsaved.ts';
import { prepare } from '../running/opening.ts';
import { RecordPage } from '../running/RecordPage.tsx';
import { startEvents, useHappenings } from './events.ts';
import { beginning, leaveAll, usePlace } from './location.ts';
import { Menu } from './Menu.tsx';
import { enter, may, SessionContext } from './session.tsx';
import { SignIn } from './SignIn.tsx';
import { useWords } from './words.ts';

const HomePage = lazy(() => import('../running/HomePage.tsx').then((module) => ({ default: module.HomePage })));
const ListPage = lazy(() => import('../running/ListPage.tsx').then((module) => ({ default: module.ListPage })));
const PrintPage = lazy(() => import('../running/PrintPage.tsx').then((module) => ({ default: module.PrintPage })));
// Designing is loaded when it is opened; whoever only works with records never fetches it.
const Designer = lazy(() => import('../designing/index.ts').then((module) => ({ default: module.Designer })));
const LayoutsPage = lazy(() => import('../releases/LayoutsPage.tsx').then((module) => ({ default: module.LayoutsPage })));
const ReleasesPage = lazy(() => import('../releases/ReleasesPage.tsx').then((module) => ({ default: module.ReleasesPage })));

export function App() {
  const [session, setSession] = useState<Session>();
  const [problem, setProblem] = useState<string>();
  const signedIn = (next: Session) => {
    enter(next);
    setSession(next);
    document.title = next.application.title;
    if (!next.person) return;
    startEvents();
    void withhold(next.person.id);
  };
  const look = useCallback(() => answer(api.GET('/api/session')).then(signedIn, (error: Error) => setProblem(error.message)), []);
  useEffect(() => {
    if (expectsSomebody()) void prepare(beginning()).then(look);
    else void look();
  }, [look]);
  // Other roles, another language: everything open follows.
  const person = session?.person?.id;
  useHappenings(useCallback((happening) => { if (happening.type === 'person' && happening.data.person === person) void look(); }, [look, person]));
  if (problem) return <main className="page"><p className="notice" role="alert">{problem}</p></main>;
  if (!session) return null;
  if (!session.person) return <SignIn session={session} onSignedIn={signedIn} />;
  return <SessionContext value={session}><Shell session={session} /></SessionContext>;
}

function Shell({ session }: { session: Session }) {
  const [where, key, third] = usePlace();
  const say = useWords();
  const [entities, setEntities] = useState<EntitySummary[]>([]);
  const [mentions, setMentions] = useState<CommentInfo[]>([]);
  const look = useCallback(() => {
    answer(api.GET('/api/mentions')).then(setMentions, () => setMentions([]));
  }, []);
  useEffect(() => {
    // Once what one came for is drawn.
    const soon = setTimeout(() => {
      answer(api.GET('/api/entities')).then(setEntities, () => setEntities([]));
      look();
    });
    return () => clearTimeout(soon);
  }, [look, session]);
  useHappenings(useCallback((happening) => { if (happening.type === 'comment') look(); }, [look]));
  const designing = where === 'design' && key && may(session, 'configure');
  // Designing speaks English; the business application speaks the language of whoever works in it.
  const language = designing ? 'en' : session.person!.language;
  useEffect(() => {
    // Said again, even the same costs the styles of the whole page.
    const { documentElement: page } = document;
    const dir = isRightToLeft(language) ? 'rtl' : 'ltr';
    if (page.lang !== language) page.lang = language;
    if (page.dir !== dir) page.dir = dir;
  }, [language]);
  if (designing) {
    return <Suspense fallback={<p className="waiting">Opening the designer…</p>}><Designer key={key} layoutKey={key} section={third} /></Suspense>;
  }
  if (where === 'print' && key && third) return <Suspense><PrintPage entity={key} id={Number(third)} /></Suspense>;
  const entity = where === 'records' && third === undefined ? entities.find((each) => each.key === key) : undefined;
  return (
    <div className="shell">
      <a className="skip" href="#content" onClick={(event) => { event.preventDefault(); document.getElementById('content')?.focus(); }}>{say('skip')}</a>
      <Menu entities={entities} current={where === 'records' ? key : undefined} where={where} mentions={mentions.length} onSignOut={() => void signOut(session)} />
      <main className="page" id="content" tabIndex={-1}>
        <Suspense fallback={<p className="waiting">{say('loading')}</p>}>
          {where === 'layouts' ? <LayoutsPage entities={entities} />
            : where === 'releases' ? <ReleasesPage />
            : entity ? <ListPage key={`${entity.key} ${session.person!.roles.join(' ')}`} entity={entity} />
            : where === 'records' && key && third !== undefined ? <RecordPage key={`${key}/${third}`} entity={key} id={third === 'new' ? undefined : Number(third)} onLooked={look} />
            : where === undefined && entities.length > 0 ? <HomePage entities={entities} mentions={mentions} />
            : null}
        </Suspense>
      </main>
    </div>
  );
}

async function signOut(session: Session): Promise<void> {
  if (!leaveAll()) return;
  await forgetPerson(session.person!.id);
  await api.DELETE('/api/session');
  window.location.hash = '';
  window.location.reload();
}
