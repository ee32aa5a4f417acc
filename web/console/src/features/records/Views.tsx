import { useEffect, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { useWords } from '../../shell/hooks.ts';
import { readViews, viewsOf, type NamedView, type View } from './savedViews.ts';

export interface SavedViews {
  all: NamedView[];
  keep: (views: NamedView[]) => void;
  /** Why the last change was not kept. */
  problem: string | undefined;
}

/** A person's own views of a list, kept by the service. */
export function useViews(entity: string): SavedViews {
  const [all, setAll] = useState<NamedView[]>([]);
  const [problem, setProblem] = useState<string>();
  const name = viewsOf(entity);
  useEffect(() => {
    readViews(entity).then(setAll, () => undefined);
  }, [entity]);
  return {
    all,
    problem,
    keep: (views) => {
      setAll(views);
      setProblem(undefined);
      answer(api.PUT('/api/preferences/{name}', { params: { path: { name } }, body: { views } as never })).catch((error: Error) => {
        // What is shown is what is kept.
        setAll(all);
        setProblem(error.message);
      });
    },
  };
}

/** The saved views as a row of names; what is looked at now can be added to them. */
export function Views({ views, view, onTake }: { views: SavedViews; view: View; onTake: (view: View) => void }) {
  const say = useWords();
  const [naming, setNaming] = useState(false);
  const same = views.all.find((each) => JSON.stringify(each.view) === JSON.stringify(view));
  const isPlain = !view.search && !view.sort && Object.keys(view.filters).length === 0;
  if (views.all.length === 0 && isPlain && !views.problem) return null;
  const save = (name: string) => {
    views.keep([...views.all.filter((each) => each.name !== name), { name, view }]);
    setNaming(false);
  };
  return (
    <div className="views" role="group" aria-label={say('views')}>
      {views.all.map((each) => (
        <span key={each.name} className="view" data-current={each === same ? '' : undefined}>
          <button type="button" className="view-name" aria-pressed={each === same} onClick={() => onTake(each.view)}>
            {each.name}
          </button>
          {each === same && (
            <button
              type="button"
              className="view-remove"
              aria-label={say('removeView', each.name)}
              onClick={() => views.keep(views.all.filter((other) => other !== each))}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {!isPlain &&
        !same &&
        (!naming ? (
          <button type="button" className="bt-clear" onClick={() => setNaming(true)}>
            {say('saveView')}
          </button>
        ) : (
          <ViewNaming onSave={save} onLeave={() => setNaming(false)} />
        ))}
      {views.problem && (
        <span className="bt-error" role="alert">
          {views.problem}
        </span>
      )}
    </div>
  );
}

/** A name for what is looked at. */
function ViewNaming({ onSave, onLeave }: { onSave: (name: string) => void; onLeave: () => void }) {
  const say = useWords();
  const [name, setName] = useState('');
  return (
    <form
      className="view-naming"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) onSave(name.trim());
      }}
    >
      <input
        className="bt-input"
        autoFocus
        maxLength={60}
        placeholder={say('viewName')}
        aria-label={say('viewName')}
        value={name}
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') onLeave();
        }}
      />
      <button type="submit" className="button" disabled={!name.trim()}>
        {say('save')}
      </button>
    </form>
  );
}
