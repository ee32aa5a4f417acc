import { useEffect, useState } from 'react';
import type { Edit } from '#layout';
import { answer, api } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { usePeople } from '../../shell/people.ts';
import type { Draft } from './draftState.ts';
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

const none: Change[] = [];

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
  const [problem, setProblem] = useState<string>();
  const { key, revision, published } = draft;
  const { data: history = none } = useAnswer(['layouts', 'changes', key, revision], () =>
    answer(api.GET('/api/layouts/{key}/changes', { params: { path: { key } } })),
  );
  const { data } = useAnswer(
    ['layouts', 'diff', key, revision, published, from],
    published === null && from === 'released'
      ? undefined
      : () => answer(api.GET('/api/layouts/{key}/diff', { params: { path: { key }, query: { from } } })),
  );
  const compared = data as unknown as DiffResult | undefined;
  useEffect(() => {
    if (shown) onShow(compared);
  }, [shown, compared, onShow]);
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
      <ComparedWith draft={draft} history={history} value={from} onChange={setFrom} />
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
      <History
        history={history}
        revision={revision}
        onBack={(change) => void back(`revision:${change.revision}`, say('changes.backTo', nameOf(change)))}
      />
    </div>
  );
}

const nameOf = (change: Change) => change.label || say('changes.revision', change.revision);

interface ComparedWithProps {
  draft: Draft;
  history: readonly Change[];
  value: string;
  onChange: (from: string) => void;
}

/** What a draft can be compared with: itself at another time, what is generated, other layouts of its entity. */
function ComparedWith({ draft, history, value, onChange }: ComparedWithProps) {
  const { data: layouts = [] } = useAnswer(['layouts'], () => answer(api.GET('/api/layouts')));
  const document = `layout/${draft.key}`;
  const { data: all = [] } = useAnswer(['releases', 'of', document], () =>
    answer(api.GET('/api/releases', { params: { query: { document } } })),
  );
  const others = layouts.filter((each) => each.entity === draft.entity && each.key !== draft.key);
  // Those of releases that changed it and held it still: the others have it as the one before. Of many documents none is told.
  const isGone = (change: { kind: string; key: string; change: string }) =>
    change.kind === 'layout' && change.key === draft.key && change.change === 'removed';
  const releases = all.filter((each) => !each.documents.some(isGone)).map((each) => Number(each.number));
  return (
    <select id="compared-with" className="tool-input" value={value} onChange={(event) => onChange(event.target.value)}>
      <option value="released">{say('changes.whatIsPublished')}</option>
      {[...history]
        .reverse()
        .filter((change) => change.revision !== draft.revision)
        .map((change) => (
          <option key={change.revision} value={`revision:${change.revision}`}>
            {say('changes.howItWasAfter', nameOf(change))}
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
  );
}

interface HistoryProps {
  history: readonly Change[];
  revision: number;
  onBack: (change: Change) => void;
}

function History({ history, revision, onBack }: HistoryProps) {
  const people = usePeople();
  return (
    <ol>
      {[...history].reverse().map((change) => (
        <li key={change.revision}>
          <span>{nameOf(change)}</span>
          <small>
            {people.name(change.by)}, {moment(change.at)}
          </small>
          {change.revision !== revision && (
            <button type="button" className="tool" onClick={() => onBack(change)}>
              {say('common.restore')}
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}
