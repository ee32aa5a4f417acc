import { useEffect, useState } from 'react';
import { find, type Edit } from '#layout';
import { answer, api } from '../../api/client.ts';
import { Problem } from '../../ui/Notice.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { say } from '../../shell/configurator/texts.ts';
import { useAnswer } from '../../shell/queries.ts';
import type { Draft } from './draftState.ts';
import type { Aim, Desk } from './useDesk.ts';

const aims: Record<Aim, 'proposals.shorter' | 'proposals.tidier'> = { shorter: 'proposals.shorter', tidier: 'proposals.tidier' };

const none: string[] = [];

/**
 * What would make the form shorter, or tidier: each change with its reason, shown on the form as it would be, taken whole or without those
 * that are not wanted, as one step.
 */
export function Proposals({ desk, draft }: { desk: Desk; draft: Draft }) {
  const { setTyping, aim, setAim } = desk;
  const [left, setLeft] = useState(none);
  const [scope, setScope] = useState<string[]>();
  const { data, problem } = useProposals(draft, aim, scope, left);
  const current = data?.revision === draft.revision ? data : undefined;
  const taken = current?.offered.filter((each) => each.taken) ?? [];
  const [shown, show] = useShown(draft.revision, current?.edits as Edit[] | undefined, setTyping);
  const toggle = (key: string) => setLeft(left.includes(key) ? left.filter((each) => each !== key) : [...left, key]);
  const chosen = desk.selection.filter((id) => desk.tree && id !== desk.tree.id && find(desk.tree, id));
  const take = () => {
    if (!current) return;
    setTyping(undefined);
    setLeft(none);
    void desk.state.apply(current.edits as Edit[], say(`${aims[aim]}.done`, taken.length));
  };
  return (
    <div className="proposals">
      <Segments
        id="proposals-aim"
        label={say('pane.proposals')}
        value={aim}
        options={(Object.keys(aims) as Aim[]).map((key) => ({ key, label: say(aims[key]) }))}
        onChange={(next) => {
          setAim(next);
          setLeft(none);
        }}
      />
      {(chosen.length > 0 || scope) && (
        <label className="proposals-scope">
          <input type="checkbox" checked={scope !== undefined} onChange={({ target }) => setScope(target.checked ? chosen : undefined)} />
          {say('proposals.onlySelected', (scope ?? chosen).length)}
        </label>
      )}
      <Problem text={problem?.message} />
      {desk.width && <p className="proposals-none">{say('proposals.ofTheBase', desk.width)}</p>}
      {current?.offered.length === 0 && <p className="proposals-none">{say(`${aims[aim]}.none`)}</p>}
      {current && current.offered.length > 0 && (
        <>
          <Lengths before={current.before} after={current.after} />
          <Segments
            id="proposals-shown"
            label={say('proposals.onTheForm')}
            value={shown}
            options={[
              { key: 'before', label: say('proposals.asItIs') },
              { key: 'after', label: say('proposals.asItWouldBe') },
            ]}
            onChange={show}
          />
          <OfferedList offered={current.offered} left={left} onToggle={toggle} onShow={desk.selectAll} />
          <div className="proposals-take">
            <button type="button" className="tool primary" disabled={taken.length === 0} onClick={take}>
              {say('proposals.take', taken.length)}
            </button>
          </div>
        </>
      )}
    </div>
  );
}

/**
 * Which of the two the form is shown as: as it would be, until that is put away or the draft has changed. What was just done, or undone, is
 * what one looks at.
 */
function useShown(revision: number, edits: Edit[] | undefined, setTyping: Desk['setTyping']) {
  const [shownOf, setShownOf] = useState<number | undefined>(revision);
  const shown = shownOf === revision ? 'after' : 'before';
  useEffect(() => {
    setTyping(shown === 'after' && edits?.length ? { edits } : undefined);
  }, [edits, shown, setTyping]);
  useEffect(() => () => setTyping(undefined), [setTyping]);
  return [shown, (next: 'after' | 'before') => setShownOf(next === 'after' ? revision : undefined)] as const;
}

interface Offer {
  key: string;
  reason: string;
  taken: boolean;
  nodes: readonly string[];
}

interface LengthsProps {
  before: readonly { width: string; screens: number }[];
  after: readonly { width: string; screens: number }[];
}

/** How long the form is and would be, where that differs most. */
function Lengths({ before, after }: LengthsProps) {
  const pairs = before.map((was, i) => ({ was, now: after[i]! }));
  const { was, now } = pairs.reduce((one, other) => (difference(other) > difference(one) ? other : one));
  if (was.screens === now.screens) return null;
  const most = Math.max(was.screens, now.screens);
  return (
    <div className="proposals-lengths">
      <p>{say('proposals.screens', was.width, was.screens.toFixed(1), now.screens.toFixed(1))}</p>
      <span className="length-bars" aria-hidden="true">
        <span data-was="" style={{ width: `${(was.screens / most) * 100}%` }} />
        <span style={{ width: `${(now.screens / most) * 100}%` }} />
      </span>
    </div>
  );
}

const difference = ({ was, now }: { was: { screens: number }; now: { screens: number } }) => Math.abs(was.screens - now.screens);

/** Each change with its reason, to be left out or looked at. */
function OfferedList({
  offered,
  left,
  onToggle,
  onShow,
}: {
  offered: readonly Offer[];
  left: readonly string[];
  onToggle: (key: string) => void;
  onShow: (nodes: string[]) => void;
}) {
  return (
    <ul>
      {offered.map((each) => (
        <li key={each.key} data-left={each.taken ? undefined : ''}>
          <label>
            <input type="checkbox" checked={!left.includes(each.key)} onChange={() => onToggle(each.key)} /> <span>{each.reason}</span>
          </label>
          <button
            type="button"
            className="tool-quiet"
            aria-label={say('proposals.showWhere', each.reason)}
            title={say('proposals.showWhere', each.reason)}
            onClick={() => onShow([...each.nodes])}
          >
            {say('proposals.where')}
          </button>
        </li>
      ))}
    </ul>
  );
}

const useProposals = ({ key, revision }: Draft, aim: Aim, within: string[] | undefined, without: string[]) =>
  useAnswer(
    ['layouts', 'proposals', key, revision, aim, within, without],
    () => answer(api.POST('/api/layouts/{key}/proposals', { params: { path: { key } }, body: { aim, within, without } })),
    { keeps: true },
  );
