import { useCallback, useEffect, useState } from 'react';
import { answer, api, type EntitySummary, type LayoutSummary } from '../../api/client.ts';
import { address } from '../../shell/location.ts';
import { useSession } from '../../shell/hooks.ts';
import { may } from '../../shell/session.ts';
import { usePeople } from '../../shell/people.ts';
import { DamagedDocuments } from './DamagedDocuments.tsx';
import { NewLayoutDialog } from './NewLayoutDialog.tsx';
import { moment } from '../../shell/moment.ts';

/** So many of something; nothing where there is none. */
const counted = (count: number, what: string) => (count === 0 ? '' : `${count} ${what}${count === 1 ? '' : 's'}`);

/** All layouts: what is published, what is not, what is wrong; and where new ones begin. */
export function LayoutsPage({ entities }: { entities: EntitySummary[] }) {
  const [layouts, setLayouts] = useState<LayoutSummary[]>([]);
  const [problem, setProblem] = useState<string>();
  const load = useCallback(() => void answer(api.GET('/api/layouts')).then(setLayouts, (error: Error) => setProblem(error.message)), []);
  useEffect(load, [load]);
  const [making, setMaking] = useState(false);
  const people = usePeople();
  const session = useSession();
  return (
    <>
      <header className="page-head"><h1>Layouts</h1>{entities.length > 0 && may(session, 'configure') && <button type="button" className="button primary" onClick={() => setMaking(true)}>New layout…</button>}</header>
      {problem && <p className="notice" data-tone="bad" role="alert">{problem}</p>}
      <DamagedDocuments mayChange={may(session, 'configure')} onMended={load} />
      <div className="table-frame">
        <table className="table">
          <thead><tr><th scope="col">Layout</th><th scope="col">Kind</th><th scope="col">Entity</th><th scope="col">State</th><th scope="col">Findings</th><th scope="col">Comments</th><th scope="col">Last changed</th></tr></thead>
          <tbody>
            {layouts.map((layout) => (
              <tr key={layout.key}>
                <td data-label="Layout">{layout.damaged ? layout.title : <a href={address('design', layout.key)}>{layout.title}</a>}</td>
                <td data-label="Kind">{layout.kind}</td>
                <td data-label="Entity">{entities.find((each) => each.key === layout.entity)?.label ?? layout.entity}</td>
                <td data-label="State">{layout.damaged ? 'damaged' : layout.published === null ? 'never published' : layout.published === layout.revision ? 'published' : `${layout.revision - layout.published!} not published`}</td>
                <td data-label="Findings">{[counted(Number(layout.errors), 'error'), counted(Number(layout.warnings), 'warning')].filter(Boolean).join(', ') || 'none'}</td>
                <td data-label="Comments">{layout.comments > 0 ? <a href={address('design', layout.key, 'comments')}>{layout.comments} open</a> : 'none'}</td>
                <td data-label="Last changed">{moment(layout.changedAt)} by {people.name(layout.changedBy)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {making && <NewLayoutDialog entities={entities} layouts={layouts} onClose={() => setMaking(false)} />}
    </>
  );
}
