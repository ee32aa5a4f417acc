import { useEffect, useState } from 'react';
import { answer, api } from '../api/client.ts';
import type { Draft } from './useDraft.ts';
import type { Edit } from './tree.ts';

interface Change {
  revision: number;
  by: string;
  at: string;
  label: string;
}

/** What is not published yet, in words, and what happened to the draft, any point of which can be gone back to. */
export function Changes({ draft, onEdit }: { draft: Draft; onEdit: (edits: Edit[], label: string) => void }) {
  const [words, setWords] = useState<readonly string[]>();
  const [history, setHistory] = useState<readonly Change[]>([]);
  const [problem, setProblem] = useState<string>();
  const { key, revision, published } = draft;
  useEffect(() => {
    let left = false;
    const path = { key };
    if (published !== null) answer(api.GET('/api/layouts/{key}/compare', { params: { path } })).then((found) => { if (!left) setWords(found.words); }, () => { if (!left) setWords(undefined); });
    answer(api.GET('/api/layouts/{key}/changes', { params: { path } })).then((found) => { if (!left) setHistory(found); }, () => undefined);
    return () => {
      left = true;
    };
  }, [key, revision, published]);
  const back = async (to: Change) => {
    try {
      // What leads from now to then is an edit like any other: it can be undone, and what others do meanwhile stands.
      const found = await answer(api.GET('/api/layouts/{key}/compare', { params: { path: { key }, query: { from: `revision:${to.revision}`, backwards: true } } }));
      onEdit(found.edits as unknown as Edit[], `Back to “${to.label || `revision ${to.revision}`}”`);
      setProblem(undefined);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const time = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });
  return (
    <div className="changes">
      <h3>Not published yet</h3>
      {published === null ? <p>Nothing of it is published yet.</p> : words?.length === 0 ? <p>It is as it is published.</p> : <ul>{words?.map((each, i) => <li key={i}>{each}</li>)}</ul>}
      <h3>History</h3>
      {problem && <p className="property-wrong" role="alert">{problem}</p>}
      <ol>
        {[...history].reverse().map((change) => (
          <li key={change.revision}>
            <span>{change.label || `Revision ${change.revision}`}</span>
            <small>{change.by}, {time.format(new Date(change.at))}</small>
            {change.revision !== revision && <button type="button" className="tool" onClick={() => void back(change)}>Back to here</button>}
          </li>
        ))}
      </ol>
    </div>
  );
}
