import { useEffect, useState } from 'react';
import { answer, api, type EntitySummary, type LayoutSummary } from '../api/client.ts';
import { address, go } from '../shell/location.ts';

/** All layouts: what is published, what is not, what is wrong; and where new ones begin. */
export function LayoutsPage({ entities }: { entities: EntitySummary[] }) {
  const [layouts, setLayouts] = useState<LayoutSummary[]>([]);
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    answer(api.GET('/api/layouts')).then(setLayouts, (error: Error) => setProblem(error.message));
  }, []);
  const make = (entity: string) => {
    const key = window.prompt('A key for the new layout: letters, digits and dashes', layouts.some((layout) => layout.key === entity) ? `${entity}-2` : entity);
    if (key) answer(api.POST('/api/layouts', { body: { entity, key, from: 'generated', kind: 'full' } })).then((made) => go('design', made.key), (error: Error) => setProblem(error.message));
  };
  return (
    <>
      <header className="page-head"><h1>Layouts</h1></header>
      {problem && <p className="notice" data-tone="bad" role="alert">{problem}</p>}
      <div className="table-frame">
        <table className="table">
          <thead><tr><th scope="col">Layout</th><th scope="col">Entity</th><th scope="col">State</th><th scope="col">Findings</th><th scope="col">Last changed</th></tr></thead>
          <tbody>
            {layouts.map((layout) => (
              <tr key={layout.key}>
                <td data-label="Layout"><a href={address('design', layout.key)}>{layout.title}</a></td>
                <td data-label="Entity">{layout.entity}</td>
                <td data-label="State">{layout.published === null ? 'never published' : layout.published === layout.revision ? 'published' : `${layout.revision - layout.published!} not published`}</td>
                <td data-label="Findings">{layout.errors + layout.warnings === 0 ? 'none' : `${layout.errors} errors, ${layout.warnings} warnings`}</td>
                <td data-label="Last changed">{new Date(layout.changedAt).toLocaleString()} by {layout.changedBy}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="page-foot">Begin another with all fields of:{' '}
        {entities.map((entity) => <button key={entity.key} type="button" className="button" onClick={() => make(entity.key)}>{entity.label}</button>)}
      </p>
    </>
  );
}
