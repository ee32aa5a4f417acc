import { answer, api, type EntitySummary } from '../../api/client.ts';
import { useWords } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { listAs, readViews, viewsOf } from './savedViews.ts';

/** One's own views of lists, each a press away. */
export function SavedViewsPart({ entities }: { entities: EntitySummary[] }) {
  const say = useWords();
  const { data: lists = [] } = useAnswer(['views'], async () => {
    const names = await answer(api.GET('/api/preferences', { params: { query: { prefix: viewsOf('') } } }));
    const kept = entities.filter((entity) => names.includes(viewsOf(entity.key)));
    return Promise.all(kept.map(async (entity) => ({ entity, views: await readViews(entity.key) })));
  });
  const all = lists.flatMap(({ entity, views }) => views.map((each) => ({ entity, ...each })));
  if (all.length === 0) return null;
  return (
    <section className="home-group">
      <h2>{say('savedViews')}</h2>
      <ul className="home-list">
        {all.map(({ entity, name, view }) => (
          <li key={`${entity.key} ${name}`}>
            <a href={address('records', entity.key)} onClick={() => listAs(entity.key, view)}>
              {name}
            </a>
            <small>{entity.plural}</small>
          </li>
        ))}
      </ul>
    </section>
  );
}
