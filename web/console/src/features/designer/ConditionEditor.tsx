import { createContext, useContext, useEffect, useId, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { answer, api, type FieldInfo } from '../../api/client.ts';
import { operatorsOf, read, roles, takesValue, write, type Clause, type Clauses } from './clauses.ts';
import { complete, type CompletionList } from './completion.ts';
import { say } from '../../shell/configurator/texts.ts';

/** What conditions are about while they are written: the layout and its fields, and the record and role it is looked at with. */
export interface ConditionScope {
  layout: string;
  fields: FieldInfo[];
  roles: { key: string; label: string }[];
  record: { id: number; title: string } | undefined;
  role: string;
  mode: string;
}

export const Scope = createContext<ConditionScope | undefined>(undefined);

interface ConditionNames {
  /** The text this is known of. */
  of: string;
  problems: { start: number; length: number; message: string }[];
  tree?: unknown;
  holds?: { verdict: string; example: string | null } | null;
  fails?: { verdict: string; example: string | null } | null;
  result: string | null;
}

/**
 * A condition as text with completion, or put together by clicking; what it comes to is said while it is written. It counts on leaving, on
 * Ctrl+Enter, or with each click.
 */
export function ConditionEditor({
  id,
  value,
  label,
  hint,
  onDone,
}: {
  id: string;
  value: string;
  label: string;
  hint: string;
  onDone: (text: string) => void;
}) {
  const scope = useContext(Scope);
  const [typed, setTyped] = useState<string>();
  const [known, setKnown] = useState<ConditionNames>();
  const [offered, setOffered] = useState<CompletionList & { at: number }>();
  const [clicking, setClicking] = useState(false);
  const [clicked, setClicked] = useState<{ text: string; clauses: Clauses }>();
  const input = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  // What was sent stands until the draft says something else: it is not taken back while it is on its way.
  const [sent, setSent] = useState<{ text: string; over: string }>();
  const text = typed ?? (sent?.over === value ? sent.text : value);
  const { layout, record, role, mode } = scope ?? {};
  useEffect(() => {
    if (!layout || text.trim() === '') return;
    let left = false;
    const timer = setTimeout(
      () => {
        const body = { text, record: mode === 'create' ? null : (record?.id ?? null), role: role || null, mode: mode ?? null };
        answer(api.POST('/api/layouts/{key}/conditions/check', { params: { path: { key: layout } }, body })).then(
          (found) => {
            if (!left) setKnown({ ...(found as unknown as ConditionNames), of: text });
          },
          () => undefined,
        );
      },
      typed === undefined ? 0 : 200,
    );
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [layout, text, typed, record?.id, role, mode]);
  const said = text.trim() === '' ? undefined : known;
  // What was clicked stands at once, before the service has read it back; what is known of another text says nothing of this one.
  const clauses: Clauses | undefined =
    text.trim() === ''
      ? { joined: '&&', list: [] }
      : clicked?.text === text
        ? clicked.clauses
        : said?.of === text && said.problems.length === 0
          ? read(said.tree)
          : undefined;

  const click = (next: Clauses) => {
    const written = write(next, scope?.fields ?? []);
    setClicked({ text: written, clauses: next });
    done(written);
  };
  const done = (next = typed) => {
    setOffered(undefined);
    if (next !== undefined && next.trim() !== value) {
      setSent({ text: next.trim(), over: value });
      onDone(next.trim());
    } else if (next !== undefined) setSent(undefined);
    setTyped(undefined);
  };
  const offer = (next: string, at: number) => setOffered(scope ? { ...complete(next, at, scope.fields, scope.roles), at: 0 } : undefined);
  const acceptOffer = (index: number) => {
    const chosen = offered?.offers[index];
    const element = input.current;
    if (!chosen || !offered || !element) return;
    const next = text.slice(0, offered.from) + chosen.text + text.slice(element.selectionStart);
    const at = offered.from + chosen.text.length;
    // At once: what is typed next comes behind it.
    flushSync(() => {
      setTyped(next);
      offer(next, at);
    });
    element.setSelectionRange(at, at);
  };
  const onKeyDown = (event: React.KeyboardEvent<HTMLTextAreaElement>) => {
    const count = offered?.offers.length ?? 0;
    const handled = (act: () => void) => {
      event.preventDefault();
      event.stopPropagation();
      act();
    };
    if (event.key === ' ' && event.ctrlKey) handled(() => offer(text, event.currentTarget.selectionStart));
    else if (count > 0 && (event.key === 'ArrowDown' || event.key === 'ArrowUp'))
      handled(() => setOffered({ ...offered!, at: (offered!.at + (event.key === 'ArrowDown' ? 1 : count - 1)) % count }));
    else if (count > 0 && event.key === 'Enter' && !event.ctrlKey) handled(() => acceptOffer(offered!.at));
    else if (count > 0 && event.key === 'Escape') handled(() => setOffered(undefined));
    else if (event.key === 'Enter') handled(() => done());
    else if (event.key === 'Escape') setTyped(undefined);
  };
  return (
    <div className="condition">
      {clicking && clauses ? (
        <Clicked id={id} clauses={clauses} onChange={click} />
      ) : (
        <textarea
          ref={input}
          id={id}
          aria-label={label}
          className="tool-input code"
          rows={2}
          dir="ltr"
          spellCheck={false}
          placeholder={hint}
          value={text}
          aria-invalid={Boolean(said?.problems.length)}
          aria-describedby={`${list}-said`}
          aria-haspopup="listbox"
          aria-controls={list}
          aria-autocomplete="list"
          aria-activedescendant={offered?.offers.length ? `${list}-${offered.at}` : undefined}
          onChange={(event) => {
            setTyped(event.target.value);
            offer(event.target.value, event.target.selectionStart);
          }}
          onKeyDown={onKeyDown}
          onBlur={() => done()}
        />
      )}
      <ul
        id={list}
        role="listbox"
        aria-label={say('conditionEditor.whatFitsHere')}
        className="condition-offers"
        hidden={!offered?.offers.length}
      >
        {offered?.offers.map((each, i) => (
          <li
            key={each.text}
            id={`${list}-${i}`}
            role="option"
            aria-selected={i === offered.at}
            onPointerDown={(event) => {
              event.preventDefault();
              acceptOffer(i);
            }}
          >
            <code>{each.text}</code> <small>{each.about}</small>
          </li>
        ))}
      </ul>
      <div id={`${list}-said`} className="condition-said" aria-live="polite">
        {said?.problems.map((problem) => (
          <p key={problem.message} className="property-wrong">
            <code>
              {said.of.slice(0, problem.start)}
              <mark>{said.of.slice(problem.start, problem.start + problem.length) || '…'}</mark>
              {said.of.slice(problem.start + problem.length)}
            </code>
            <br />
            {problem.message}
          </p>
        ))}
        {said && said.problems.length === 0 && <Verdict known={said} record={mode === 'create' ? undefined : record?.title} />}
      </div>
      {(clauses || clicking) && (
        <button
          type="button"
          className="bt-link condition-way"
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => {
            done();
            setClicking(!clicking && clauses !== undefined);
          }}
        >
          {clicking && clauses ? say('conditionEditor.writeItAsText') : say('conditionEditor.buildItByClicking')}
        </button>
      )}
    </div>
  );
}

const results = { holds: 'conditionEditor.holdsFor', 'does not hold': 'conditionEditor.doesNotHoldFor' } as const;

/** What a condition comes to: for the record in view, and for all there can be. */
function Verdict({ known, record }: { known: ConditionNames; record: string | undefined }) {
  const never = known.holds?.verdict === 'no';
  const always = known.fails?.verdict === 'no';
  return (
    <p data-warn={never || always ? '' : undefined}>
      {record && known.result && (
        <span className="condition-now" data-holds={known.result === 'holds' ? '' : undefined}>
          {say(results[known.result as 'holds'] ?? 'conditionEditor.resultFor', record, known.result)}{' '}
        </span>
      )}
      {never
        ? say('conditionEditor.noRecordCanMakeIt')
        : always
          ? say('conditionEditor.itHoldsForEveryRecord')
          : known.holds?.verdict === 'yes' && known.holds.example
            ? say('conditionEditor.itHoldsForExampleWith', known.holds.example)
            : ''}
    </p>
  );
}

function Clicked({ id, clauses, onChange }: { id: string; clauses: Clauses; onChange: (clauses: Clauses) => void }) {
  const scope = useContext(Scope)!;
  const offered = scope.fields.filter((field) => !field.retired);
  const firstValue = (subject: string) =>
    (subject === roles ? scope.roles[0]?.key : scope.fields.find((field) => field.key === subject)?.choices?.[0]?.key) ?? '';
  const fresh = (subject: string): Clause => {
    const type = subject === roles ? undefined : scope.fields.find((field) => field.key === subject)?.type;
    // What has to be typed first would hold for nothing until it is.
    return {
      subject,
      operator: firstValue(subject) || type === 'boolean' ? operatorsOf(type)[0]![0] : 'filled',
      value: firstValue(subject),
    };
  };
  const replaceClause = (at: number, clause: Clause | undefined) =>
    onChange({
      ...clauses,
      list: clause ? clauses.list.map((each, i) => (i === at ? clause : each)) : clauses.list.filter((_, i) => i !== at),
    });
  return (
    <div className="clauses" role="group" aria-label={say('conditionEditor.clauses')}>
      {clauses.list.map((clause, i) => {
        const field = scope.fields.find((each) => each.key === clause.subject);
        const values = clause.subject === roles ? scope.roles.map((role) => ({ key: role.key, label: role.label })) : field?.choices;
        return (
          <div key={i} className="clause">
            {i > 0 && (
              <select
                aria-label={say('conditionEditor.allOrAny')}
                className="tool-input clause-joined"
                value={clauses.joined}
                onChange={(event) => onChange({ ...clauses, joined: event.target.value as Clauses['joined'] })}
              >
                <option value="&&">{say('conditionEditor.and')}</option>
                <option value="||">{say('conditionEditor.or')}</option>
              </select>
            )}
            <select
              id={i === 0 ? id : undefined}
              aria-label={say('kind.field')}
              className="tool-input"
              value={clause.subject}
              onChange={(event) => replaceClause(i, fresh(event.target.value))}
            >
              <option value={roles}>{say('conditionEditor.theViewerSRole')}</option>
              {offered.map((each) => (
                <option key={each.key} value={each.key}>
                  {each.label}
                </option>
              ))}
            </select>
            <select
              aria-label={say('conditionEditor.comparison')}
              className="tool-input"
              value={clause.operator}
              onChange={(event) =>
                replaceClause(i, {
                  ...clause,
                  operator: event.target.value as Clause['operator'],
                  value: clause.value || firstValue(clause.subject),
                })
              }
            >
              {operatorsOf(clause.subject === roles ? undefined : field?.type).map(([operator, name]) => (
                <option key={operator} value={operator}>
                  {name}
                </option>
              ))}
            </select>
            {takesValue(clause.operator) &&
              (values ? (
                <select
                  aria-label={say('conditionEditor.value')}
                  className="tool-input"
                  value={clause.value}
                  onChange={(event) => replaceClause(i, { ...clause, value: event.target.value })}
                >
                  {values.map((each) => (
                    <option key={each.key} value={each.key}>
                      {each.label}
                    </option>
                  ))}
                </select>
              ) : (
                <Value value={clause.value} onDone={(value) => replaceClause(i, { ...clause, value })} />
              ))}
            <button
              type="button"
              className="tool"
              aria-label={say('conditionEditor.removeThisClause')}
              title={say('conditionEditor.removeThisClause')}
              onClick={() => replaceClause(i, undefined)}
            >
              ×
            </button>
          </div>
        );
      })}
      <button
        type="button"
        className="tool"
        onClick={() => onChange({ ...clauses, list: [...clauses.list, fresh(offered[0]?.key ?? roles)] })}
      >
        {clauses.list.length === 0 ? say('conditionEditor.when') : say('conditionEditor.andAlso')}
      </button>
    </div>
  );
}

/** What is compared with, which counts on leaving or on Enter. */
function Value({ value, onDone }: { value: string; onDone: (value: string) => void }) {
  const [typed, setTyped] = useState<string>();
  const done = () => {
    if (typed !== undefined && typed !== value) onDone(typed);
    setTyped(undefined);
  };
  return (
    <input
      aria-label={say('conditionEditor.value')}
      className="tool-input"
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === 'Enter') done();
      }}
    />
  );
}
