import { useEffect, useState } from 'react';
import type { Edit } from '#layout';
import { answer, api, type LayoutSummary } from '../../api/client.ts';
import { usePeople } from '../../shell/people.ts';
import type { Draft } from './useDraft.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { say } from '../../shell/configurator/texts.ts';

interface Change {
  revision: number;
  by: string;
  at: string;
  label: string;
}

export interface DiffResult {
  edits: Edit[];
  summary: readonly string[];
}

export const backToGenerated = () => say('common.replaceWithGenerated');

interface ChangesProps {
  draft: Draft;
  onEdit: (edits: Edit[], label: string) => void;
  /** What is to be shown on the form: what was found, or nothing. */
  onShow: (compared: DiffResult | undefined) => void;
  shown: boolean;
}

/**
 * What leads from a draft as it is to how it was, or to another layout: edits like any other, which can be undone, and over which what
 * others do meanwhile stands.
 */
export async function leadingTo(key: string, to: string): Promise<Edit[]> {
  const found = await answer(api.GET('/api/layouts/{key}/diff', { params: { path: { key }, query: { from: to, reverse: true } } }));
  return found.edits as unknown as Edit[];
}

/**
 * How the draft differs from what is published, from how it was, or from another layout, in words and on the form; and what happened to it,
 * any point of which can be gone back to.
 */
export function Changes({ draft, shown, onEdit, onShow }: ChangesProps) {
  const [from, setFrom] = useState('released');
  const [compared, setCompared] = useState<DiffResult>();
  const [others, setOthers] = useState<LayoutSummary[]>([]);
  const [history, setHistory] = useState<readonly Change[]>([]);
  const [releases, setReleases] = useState<readonly number[]>([]);
  const [problem, setProblem] = useState<string>();
  const { key, revision, published } = draft;
  const people = usePeople();
  useEffect(() => {
    let left = false;
    const path = { key };
    const show = (found: DiffResult | undefined) => {
      if (left) return;
      setCompared(found);
      if (shown) onShow(found);
    };
    if (published !== null || from !== 'released')
      answer(api.GET('/api/layouts/{key}/diff', { params: { path, query: { from } } })).then(
        (found) => show(found as unknown as DiffResult),
        () => show(undefined),
      );
    answer(api.GET('/api/layouts/{key}/changes', { params: { path } })).then(
      (found) => {
        if (!left) setHistory(found);
      },
      () => undefined,
    );
    return () => {
      left = true;
    };
  }, [key, revision, published, from, shown, onShow]);
  useEffect(() => {
    answer(api.GET('/api/layouts')).then(
      (found) => setOthers(found.filter((each) => each.entity === draft.entity && each.key !== key)),
      () => undefined,
    );
  }, [key, draft.entity]);
  useEffect(() => {
    // Those of releases that held it.
    answer(api.GET('/api/releases')).then(
      (found) =>
        setReleases(
          found
            .filter((each) =>
              each.documents.some((document) => document.kind === 'layout' && document.key === key && document.change !== 'removed'),
            )
            .map((each) => Number(each.number)),
        ),
      () => undefined,
    );
  }, [key, published]);
  const back = async (to: string, label: string) => {
    try {
      onEdit(await leadingTo(key, to), label);
      setProblem(undefined);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <div className="changes">
      <h3>
        <label htmlFor="compared-with">{say('changes.comparedWith')}</label>
      </h3>
      <select id="compared-with" className="tool-input" value={from} onChange={(event) => setFrom(event.target.value)}>
        <option value="released">{say('changes.whatIsPublished')}</option>
        {[...history]
          .reverse()
          .filter((change) => change.revision !== revision)
          .map((change) => (
            <option key={change.revision} value={`revision:${change.revision}`}>
              {say('changes.howItWasAfter', change.label || `revision ${change.revision}`)}
            </option>
          ))}
        {releases.map((number) => (
          <option key={number} value={`release:${number}`}>
            {say('changes.release', number)}
          </option>
        ))}
        {draft.entity !== '' && <option value="generated">{say('changes.whatIsGenerated')}</option>}
        {others.map((other) => (
          <option key={other.key} value={other.key}>
            {other.title} ({other.key})
          </option>
        ))}
      </select>
      {from === 'released' && published === null ? (
        <p>{say('changes.notPublishedYet')}</p>
      ) : compared?.summary.length === 0 ? (
        <p>{from === 'released' ? say('changes.itIsAsItIs') : say('changes.thereIsNoDifference')}</p>
      ) : (
        <ul>
          {compared?.summary.map((each, i) => (
            <li key={i}>{each}</li>
          ))}
        </ul>
      )}
      {compared && compared.summary.length > 0 && (
        <button type="button" className="tool" aria-pressed={shown} onClick={() => onShow(shown ? undefined : compared)}>
          {say('changes.showItOnTheForm')}
        </button>
      )}
      {from === 'generated' && compared && compared.summary.length > 0 && (
        <button type="button" className="tool" onClick={() => void back('generated', backToGenerated())}>
          {backToGenerated()}
        </button>
      )}
      <h3>{say('changes.history')}</h3>
      {problem && (
        <p className="property-wrong" role="alert">
          {problem}
        </p>
      )}
      <ol>
        {[...history].reverse().map((change) => (
          <li key={change.revision}>
            <span>{change.label || say('changes.revision', change.revision)}</span>
            <small>
              {people.name(change.by)}, {moment(change.at)}
            </small>
            {change.revision !== revision && (
              <button
                type="button"
                className="tool"
                onClick={() =>
                  void back(`revision:${change.revision}`, say('changes.backTo', change.label || `revision ${change.revision}`))
                }
              >
                {say('common.restore')}
              </button>
            )}
          </li>
        ))}
      </ol>
    </div>
  );
}
