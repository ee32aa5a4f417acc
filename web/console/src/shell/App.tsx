import { lazy, Suspense, useEffect, useState } from 'react';
import { answer, api, setAntiforgery, type EntitySummary, type Session } from '../api/client.ts';
import { ListPage } from '../running/ListPage.tsx';
import { RecordPage } from '../running/RecordPage.tsx';
import { startEvents } from './events.ts';
import { address, usePlace } from './location.ts';
import { may, SessionContext } from './session.tsx';
import { SignIn } from './SignIn.tsx';

// Designing is loaded when it is opened; whoever only works with records never fetches it.
const Designer = lazy(() => import('../designing/index.ts').then((module) => ({ default: module.Designer })));
const LayoutsPage = lazy(() => import('../releases/LayoutsPage.tsx').then((module) => ({ default: module.LayoutsPage })));
const ReleasesPage = lazy(() => import('../releases/ReleasesPage.tsx').then((module) => ({ default: module.ReleasesPage })));

export function App() {
  const [session, setSession] = useState<Session>();
  const [problem, setProblem] = useState<string>();
  const enter = (next: Session) => {
    setAntiforgery(next.antiforgery);
    setSession(next);
    document.title = next.application.title;
    if (next.person) startEvents();
  };
  useEffect(() => {
    answer(api.GET('/api/session')).then(enter, (error: Error) => setProblem(error.message));
  }, []);
  if (problem) return <main className="page"><p className="notice" role="alert">{problem}</p></main>;
  if (!session) return null;
  if (!session.person) return <SignIn session={session} onSignedIn={enter} />;
  return <SessionContext value={session}><Shell session={session} /></SessionContext>;
}

function Shell({ session }: { session: Session }) {
  const [where, key, third] = usePlace();
  const [entities, setEntities] = useState<EntitySummary[]>([]);
  useEffect(() => {
    answer(api.GET('/api/entities')).then(setEntities, () => setEntities([]));
  }, []);
  if (where === 'design' && key && may(session, 'configure')) {
    return <Suspense fallback={<p className="waiting">Opening the designer…</p>}><Designer key={key} layoutKey={key} section={third} /></Suspense>;
  }
  const entity = where === 'records' ? (key ?? entities[0]?.key) : undefined;
  const first = entities.find((each) => each.key === 'vessel') ?? entities[0];
  const current = where === undefined ? first?.key : entity;
  return (
    <div className="shell">
      <nav className="menu" aria-label="Main">
        <a className="menu-title" href="#/">{session.application.title}</a>
        {entities.map((each) => (
          <a key={each.key} className="menu-entry" href={address('records', each.key)} aria-current={each.key === current ? 'page' : undefined}>{each.plural}</a>
        ))}
        {may(session, 'configure') && (
          <>
            <span className="menu-group">Design</span>
            <a className="menu-entry" href={address('layouts')} aria-current={where === 'layouts' ? 'page' : undefined}>Layouts</a>
            <a className="menu-entry" href={address('releases')} aria-current={where === 'releases' ? 'page' : undefined}>Releases</a>
          </>
        )}
        <span className="menu-space" />
        <span className="menu-who">{session.person!.name}<small>{session.person!.roles.map((role) => session.application.roles.find((each) => each.key === role)?.label ?? role).join(', ')}</small></span>
        <button className="menu-entry" type="button" onClick={() => void signOut()}>Sign out</button>
      </nav>
      <main className="page">
        <Suspense fallback={<p className="waiting">Loading…</p>}>
          {where === 'layouts' ? <LayoutsPage entities={entities} />
            : where === 'releases' ? <ReleasesPage />
            : current === undefined ? null
            : third === undefined ? <ListPage key={current} entity={current} />
            : <RecordPage key={`${current}/${third}`} entity={current} id={third === 'new' ? undefined : Number(third)} />}
        </Suspense>
      </main>
    </div>
  );
}

async function signOut(): Promise<void> {
  await api.DELETE('/api/session');
  window.location.reload();
}
