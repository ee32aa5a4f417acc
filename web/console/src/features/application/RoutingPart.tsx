import { useEffect, useState } from 'react';
import { answer, api, type EntitySummary, type LayoutSummary, type RecordName, type RoutedLayout } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';
import { PartHead } from './PartHead.tsx';
import { useDocument } from './useDocument.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say, sayGrammar, type TextKey } from '../../shell/configurator/texts.ts';

interface Rule {
  entity: string;
  kind?: string | undefined;
  layout: string;
  roles?: string[] | undefined;
  when?: string | undefined;
}

interface RoutingRules {
  kind: 'routing';
  rules?: Rule[];
}

const kinds = ['full', 'short', 'list', 'card', 'print'];

const verdicts: Record<string, TextKey> = {
  decides: 'verdict.decides',
  'too-late': 'verdict.tooLate',
  'other-roles': 'verdict.otherRoles',
  'condition-fails': 'verdict.conditionFails',
  'no-layout': 'verdict.noLayout',
};

/**
 * Which users get which layout: rules in order, the first that fits decides; tried with a person and a record before they are published.
 */
export function RoutingPart({ entities }: { entities: EntitySummary[] }) {
  const { application } = useSession();
  const stored = useDocument<RoutingRules>('routing', 'routing', { kind: 'routing', rules: [] });
  const { value, revision, change } = stored;
  const [layouts, setLayouts] = useState<LayoutSummary[]>([]);
  const [tried, setTried] = useState<RoutedLayout>();
  useEffect(() => {
    answer(api.GET('/api/layouts')).then(setLayouts, () => undefined);
  }, []);
  const rules = value?.rules ?? [];
  const changeRules = (next: Rule[]) => change({ kind: 'routing', rules: next });
  const set = (i: number, more: Partial<Rule>) =>
    changeRules(
      rules.with(
        i,
        Object.fromEntries(Object.entries({ ...rules[i]!, ...more }).filter(([, each]) => each !== undefined)) as unknown as Rule,
      ),
    );
  const of = (rule: Rule) => layouts.filter((layout) => layout.entity === rule.entity && layout.kind === (rule.kind ?? 'full'));
  const add = () => {
    const entity = layouts[0]?.entity ?? entities[0]?.key ?? '';
    changeRules([
      ...rules,
      { entity, layout: layouts.find((layout) => layout.entity === entity && layout.kind === 'full')?.key ?? entity },
    ]);
  };
  return (
    <>
      <PartHead about={say('routingPart.theFirstRuleThatFits')} kept={stored} />
      {rules.length === 0 ? (
        <p className="empty">{say('routingPart.thereAreNoRulesEveryone')}</p>
      ) : (
        <ol className="rules">
          {rules.map((rule, i) => {
            const verdict = tried?.rules.find((each) => Number(each.rule) === i)?.verdict;
            return (
              <li key={i} data-verdict={verdict}>
                <div className="rule-line">
                  <span>{say('routingPart.of')}</span>
                  <select
                    className="bt-input"
                    aria-label={say('routingPart.entityOfRule', i + 1)}
                    value={rule.entity}
                    onChange={(event) =>
                      set(i, {
                        entity: event.target.value,
                        layout:
                          layouts.find((layout) => layout.entity === event.target.value && layout.kind === (rule.kind ?? 'full'))?.key ??
                          '',
                      })
                    }
                  >
                    {entities.map((each) => (
                      <option key={each.key} value={each.key}>
                        {each.label}
                      </option>
                    ))}
                  </select>
                  <select
                    className="bt-input"
                    aria-label={say('routingPart.kindOfRule', i + 1)}
                    value={rule.kind ?? 'full'}
                    onChange={(event) =>
                      set(i, {
                        kind: event.target.value === 'full' ? undefined : event.target.value,
                        layout: layouts.find((layout) => layout.entity === rule.entity && layout.kind === event.target.value)?.key ?? '',
                      })
                    }
                  >
                    {kinds.map((kind) => (
                      <option key={kind} value={kind}>
                        {sayGrammar('word', kind)}
                      </option>
                    ))}
                  </select>
                  <span>{say('routingPart.give')}</span>
                  <select
                    className="bt-input"
                    aria-label={say('routingPart.layoutOfRule', i + 1)}
                    value={rule.layout}
                    onChange={(event) => set(i, { layout: event.target.value })}
                  >
                    {!of(rule).some((layout) => layout.key === rule.layout) && (
                      <option value={rule.layout}>{rule.layout || say('pieceDialog.choose')}</option>
                    )}
                    {of(rule).map((layout) => (
                      <option key={layout.key} value={layout.key}>
                        {layout.title}
                      </option>
                    ))}
                  </select>
                  <span className="bar-space" />
                  <button
                    type="button"
                    className="button"
                    disabled={i === 0}
                    aria-label={say('routingPart.ruleUp', i + 1)}
                    onClick={() => changeRules(rules.with(i, rules[i - 1]!).with(i - 1, rule))}
                  >
                    ↑
                  </button>
                  <button
                    type="button"
                    className="button"
                    disabled={i === rules.length - 1}
                    aria-label={say('routingPart.ruleDown', i + 1)}
                    onClick={() => changeRules(rules.with(i, rules[i + 1]!).with(i + 1, rule))}
                  >
                    ↓
                  </button>
                  <button
                    type="button"
                    className="button"
                    aria-label={say('routingPart.removeRule', i + 1)}
                    onClick={() => changeRules(rules.toSpliced(i, 1))}
                  >
                    ×
                  </button>
                </div>
                <div className="rule-line" role="group" aria-label={say('routingPart.rolesOfRule', i + 1)}>
                  <span>{say('routingPart.to')}</span>
                  {application.roles.map((role) => (
                    <label key={role.key}>
                      <input
                        type="checkbox"
                        checked={rule.roles?.includes(role.key) ?? false}
                        onChange={(event) => {
                          const next = application.roles
                            .map((one) => one.key)
                            .filter((key) => (key === role.key ? event.target.checked : rule.roles?.includes(key)));
                          set(i, { roles: next.length > 0 ? next : undefined });
                        }}
                      />{' '}
                      {role.label}
                    </label>
                  ))}
                  {!rule.roles?.length && <small>{say('routingPart.everyone')}</small>}
                </div>
                <div className="rule-line">
                  <label className="rule-when">
                    {say('routingPart.while')}{' '}
                    <Later
                      label={say('routingPart.conditionOfRule', i + 1)}
                      value={rule.when ?? ''}
                      hint={say('routingPart.conditionHint', 'record.length > 20.0')}
                      onDone={(when) => set(i, { when: when || undefined })}
                    />
                  </label>
                </div>
                {verdict && <p className="rule-verdict">{say(verdicts[verdict]!)}</p>}
              </li>
            );
          })}
        </ol>
      )}
      <div className="application-acts">
        <button type="button" className="button" onClick={add}>
          {say('routingPart.addARule')}
        </button>
      </div>
      <Trial entities={entities} revision={revision} onTried={setTried} tried={tried} />
    </>
  );
}

const deciding = (tried: RoutedLayout) => tried.rules.find((rule) => rule.verdict === 'decides');

/** Which sentence says what somebody gets, and why. */
function outcomeOf(tried: RoutedLayout) {
  if (deciding(tried)) return tried.generated ? 'routingPart.getsGeneratedByRule' : 'routingPart.getsByRule';
  return tried.generated ? 'routingPart.getsGenerated' : 'routingPart.gets';
}

/** Routing, asked for one person and one record. */
function Trial({
  entities,
  revision,
  tried,
  onTried,
}: {
  entities: EntitySummary[];
  revision: number;
  tried: RoutedLayout | undefined;
  onTried: (tried: RoutedLayout | undefined) => void;
}) {
  const people = usePeople();
  const [asked, setAsked] = useState({ entity: '', kind: 'full', person: '', record: '' });
  const [records, setRecords] = useState<RecordName[]>([]);
  const entity = asked.entity || entities[0]?.key || '';
  const person = asked.person || people.all[0]?.id || '';
  useEffect(() => {
    if (entity)
      answer(api.GET('/api/records/{entity}/lookup', { params: { path: { entity }, query: { limit: 50 } } })).then(setRecords, () =>
        setRecords([]),
      );
  }, [entity]);
  useEffect(() => {
    if (!entity || !person) return undefined;
    let left = false;
    answer(
      api.GET('/api/routing', {
        params: { query: { entity, kind: asked.kind, person, ...(asked.record ? { record: Number(asked.record) } : {}) } },
      }),
    ).then(
      (found) => {
        if (!left) onTried(found);
      },
      () => {
        if (!left) onTried(undefined);
      },
    );
    return () => {
      left = true;
    };
  }, [entity, person, asked.kind, asked.record, revision, onTried]);
  return (
    <section className="trial" aria-label={say('common.tryIt')}>
      <h2>{say('common.tryIt')}</h2>
      <div className="rule-line">
        <select
          className="bt-input"
          aria-label={say('routingPart.person')}
          value={person}
          onChange={(event) => setAsked({ ...asked, person: event.target.value })}
        >
          {people.all.map((each) => (
            <option key={each.id} value={each.id}>
              {each.name}
            </option>
          ))}
        </select>
        <span>{say('routingPart.opensThe')}</span>
        <select
          className="bt-input"
          aria-label={say('common.kind')}
          value={asked.kind}
          onChange={(event) => setAsked({ ...asked, kind: event.target.value })}
        >
          {kinds.map((kind) => (
            <option key={kind} value={kind}>
              {sayGrammar('word', kind)}
            </option>
          ))}
        </select>
        <span>{say('routingPart.of2')}</span>
        <select
          className="bt-input"
          aria-label={say('common.entity')}
          value={entity}
          onChange={(event) => setAsked({ ...asked, entity: event.target.value, record: '' })}
        >
          {entities.map((each) => (
            <option key={each.key} value={each.key}>
              {each.label}
            </option>
          ))}
        </select>
        <select
          className="bt-input"
          aria-label={say('common.record')}
          value={asked.record}
          onChange={(event) => setAsked({ ...asked, record: event.target.value })}
        >
          <option value="">{say('routingPart.aNewOne')}</option>
          {records.map((each) => (
            <option key={each.id} value={each.id}>
              {each.title}
            </option>
          ))}
        </select>
      </div>
      {tried && <p role="status">{rich(outcomeOf(tried), people.name(person), <b>{tried.title}</b>, Number(deciding(tried)?.rule) + 1)}</p>}
    </section>
  );
}

/** A text that counts when one is done with it. */
function Later({ label, value, hint, onDone }: { label: string; value: string; hint: string; onDone: (text: string) => void }) {
  const [typed, setTyped] = useState<string>();
  const done = () => {
    if (typed !== undefined && typed.trim() !== value) onDone(typed.trim());
    setTyped(undefined);
  };
  return (
    <input
      className="bt-input code"
      aria-label={label}
      dir="ltr"
      spellCheck={false}
      placeholder={hint}
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === 'Enter') done();
      }}
    />
  );
}
