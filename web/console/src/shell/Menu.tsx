import { Icon } from '#form';
import { useEffect, useState } from 'react';
import { answer, api, type EntitySummary, type MenuEntry } from '../api/client.ts';
import { useHappenings } from './events.ts';
import { address } from './location.ts';
import { may, useSession } from './session.tsx';
import { useWords } from './words.ts';

interface MenuProps {
  entities: EntitySummary[];
  /** The entity one is at, if any. */
  current: string | undefined;
  where: string | undefined;
  mentions: number;
  onSignOut: () => void;
}

/** The business application's menu, as it is published; where none is, every entity. */
export function Menu({ entities, current, where, mentions, onSignOut }: MenuProps) {
  const session = useSession();
  const say = useWords();
  const [entries, setEntries] = useState<MenuEntry[]>([]);
  const [round, setRound] = useState(0);
  useHappenings((happening) => { if (happening.type === 'release') setRound((before) => before + 1); });
  useEffect(() => {
    answer(api.GET('/api/navigation')).then(setEntries, () => setEntries([]));
  }, [round]);
  return (
    <nav className="menu" aria-label={say('mainMenu')}>
      <a className="menu-title" href="#/" aria-current={where === undefined ? 'page' : undefined}>{session.application.title}{mentions > 0 && <span className="count" title={say('toldYou')}>{mentions}</span>}</a>
      <Entries entries={entries} current={current} />
      {entries.length === 0 && entities.map((each) => <a key={each.key} className="menu-entry" href={address('records', each.key)} aria-current={each.key === current ? 'page' : undefined}>{each.plural}</a>)}
      {may(session, 'configure') && (
        <>
          <span className="menu-group">{say('design')}</span>
          <a className="menu-entry" href={address('layouts')} aria-current={where === 'layouts' ? 'page' : undefined}>{say('layouts')}</a>
          <a className="menu-entry" href={address('releases')} aria-current={where === 'releases' ? 'page' : undefined}>{say('releases')}</a>
        </>
      )}
      <span className="menu-space" />
      <span className="menu-who">{session.person!.name}<small>{session.person!.roles.map((role) => session.application.roles.find((each) => each.key === role)?.label ?? role).join(', ')}</small></span>
      <button className="menu-entry" type="button" onClick={onSignOut}>{say('signOut')}</button>
    </nav>
  );
}

function Entries({ entries, current }: { entries: readonly MenuEntry[]; current: string | undefined }) {
  return entries.map((entry) => {
    const link = entry.entity ? address('records', entry.entity) : entry.address;
    return entry.entries.length > 0 ? (
      <div key={entry.key} className="menu-part" role="group" aria-label={entry.title}>
        {link ? <a className="menu-group" href={link}><Icon path={entry.icon} />{entry.title}</a> : <span className="menu-group"><Icon path={entry.icon} />{entry.title}</span>}
        <Entries entries={entry.entries} current={current} />
      </div>
    ) : link ? (
      <a key={entry.key} className="menu-entry" href={link} aria-current={entry.entity !== null && entry.entity === current ? 'page' : undefined}><Icon path={entry.icon} />{entry.title}</a>
    ) : null;
  });
}
