import { Suspense, useEffect, useState, type ComponentType } from 'react';
import { answer, api, type CommentInfo, type EntitySummary, type MenuEntry } from '../../api/client.ts';
import { useSession, useWords } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { address } from '../../shell/location.ts';
import { commentAddress } from '../../shell/commentAddress.ts';
import { recents } from '../../shell/recents.ts';
import { may, readsDrafts } from '../../shell/session.ts';
import { SavedViewsPart } from './SavedViewsPart.tsx';
import '../../pages.css';

interface HomePageProps {
  entities: EntitySummary[];
  mentions: CommentInfo[];
  /** What waits for one among the drafts, for whom there is such. */
  WaitingDrafts: ComponentType;
}

/** Where a day begins: one search over everything, what waits for one, what was opened lately, one's views and all lists. */
export function HomePage({ entities, mentions, WaitingDrafts }: HomePageProps) {
  const say = useWords();
  const session = useSession();
  const [text, setText] = useState('');
  const sought = useDeferredAsk(text.trim());
  const { data: found } = useAnswer(
    ['records', 'search', sought],
    sought ? () => answer(api.GET('/api/search', { params: { query: { q: sought } } })) : undefined,
  );
  const labelOf = (key: string) => entities.find((each) => each.key === key)?.label ?? key;
  return (
    <>
      <header className="page-head">
        <h1>{session.application.title}</h1>
      </header>
      <input
        className="bt-input home-search"
        type="search"
        placeholder={say('searchAll')}
        aria-label={say('searchAll')}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {found && (
        <section className="home-group" aria-label={say('found')}>
          {found.length === 0 && <p className="empty">{say('foundNone')}</p>}
          {found.map((group) => (
            <div key={group.entity}>
              <h2>{group.plural}</h2>
              <ul className="home-list">
                {group.records.map((record) => (
                  <li key={record.id}>
                    <a href={address('records', group.entity, record.id)}>{record.title}</a>
                  </li>
                ))}
              </ul>
            </div>
          ))}
        </section>
      )}
      <div className="home-columns">
        <div>
          <Mentions mentions={mentions} labelOf={labelOf} />
          {readsDrafts(session) && (
            <Suspense>
              <WaitingDrafts />
            </Suspense>
          )}
          <Recents labelOf={labelOf} />
        </div>
        <div>
          <SavedViewsPart entities={entities} />
          <Places entities={entities} />
        </div>
      </div>
    </>
  );
}

interface EntityLabels {
  labelOf: (entity: string) => string;
}

function Mentions({ mentions, labelOf }: EntityLabels & Pick<HomePageProps, 'mentions'>) {
  const say = useWords();
  if (mentions.length === 0) return null;
  return (
    <section className="home-group">
      <h2>{say('mentioned')}</h2>
      <ul className="home-list">
        {mentions.map((mention) => (
          <li key={mention.id}>
            <a href={mention.entity ? address('records', mention.entity, mention.record!) : commentAddress(mention.draft!)}>
              {mention.byName}: {mention.text}
            </a>
            <small>{mention.entity ? labelOf(mention.entity) : mention.draft!.key}</small>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Recents({ labelOf }: EntityLabels) {
  const say = useWords();
  const lately = recents(useSession().person!.id);
  return (
    <section className="home-group">
      <h2>{say('recent')}</h2>
      {lately.length === 0 ? (
        <p className="empty">{say('recentNone')}</p>
      ) : (
        <ul className="home-list">
          {lately.map((each) => (
            <li key={`${each.entity}/${each.id}`}>
              <a href={address('records', each.entity, each.id)}>{each.title}</a>
              <small>{labelOf(each.entity)}</small>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The lists of the menu, and a new record of each a press away; where there is no menu, all lists. */
function Places({ entities }: Pick<HomePageProps, 'entities'>) {
  const say = useWords();
  const writes = may(useSession(), 'write-records');
  const designs = may(useSession(), 'configure');
  const { data: menu } = useAnswer(['releases', 'menu'], () => answer(api.GET('/api/navigation')));
  if (!menu) return null;
  if (entities.length === 0 && designs)
    return (
      <p className="empty">
        <a href={address('data')}>{say('beginWithData')}</a>
      </p>
    );
  const listed = new Set(listsOf(menu));
  const places = listed.size > 0 ? [...listed].flatMap((key) => entities.find((each) => each.key === key) ?? []) : entities;
  return (
    <section className="home-group">
      <h2>{say('places')}</h2>
      <ul className="home-list">
        {places.map(({ key, label, plural }) => (
          <li key={key}>
            <a href={address('records', key)}>{plural}</a>
            {writes && (
              <a className="home-new" href={address('records', key, 'new')} aria-label={say('make', label.toLowerCase())}>
                + {say('makeShort')}
              </a>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

const listsOf = (entries: readonly MenuEntry[]): string[] =>
  entries.flatMap((entry) => [...(entry.entity ? [entry.entity] : []), ...listsOf(entry.entries)]);

/** A text once nobody has typed on it for a moment; at once where it is empty. */
function useDeferredAsk(text: string): string {
  const [asked, setAsked] = useState(text);
  useEffect(() => {
    const soon = setTimeout(() => setAsked(text), 150);
    return () => clearTimeout(soon);
  }, [text]);
  return text && asked;
}
