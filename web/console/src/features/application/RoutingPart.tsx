import { useEffect, useState } from 'react';
import { answer, api, type EntitySummary, type LayoutSummary, type RoutedLayout } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { Select } from '../../ui/Select.tsx';
import { usePeople } from '../../shell/people.ts';
import { RuleLine } from './RuleLine.tsx';
import { kinds, type Rule } from './rules.ts';
import { PartHead, useDocument } from '../documents/index.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';

interface RoutingRules {
  kind: 'routing';
  rules?: Rule[];
}

const noLayouts: LayoutSummary[] = [];

/**
 * Which users get which layout: rules in order, the first that fits decides; tried with a person and a record before they are published.
 */
export function RoutingPart({ entities }: { entities: EntitySummary[] }) {
  const stored = useDocument<RoutingRules>('routing', 'routing', { kind: 'routing', rules: [] });
  const { value, revision, change } = stored;
  const [tried, setTried] = useState<RoutedLayout>();
  const { data: layouts = noLayouts } = useAnswer(['layouts'], () => answer(api.GET('/api/layouts')));
  const rules = value?.rules ?? [];
  const changeRules = (next: Rule[]) => change({ kind: 'routing', rules: next });
  const set = (i: number, more: Partial<Rule>) =>
    changeRules(
      rules.with(
        i,
        Object.fromEntries(Object.entries({ ...rules[i]!, ...more }).filter(([, each]) => each !== undefined)) as unknown as Rule,
      ),
    );
  const add = () => {
    const entity = layouts[0]?.entity ?? entities[0]?.key ?? '';
    changeRules([
      ...rules,
      { entity, layout: layouts.find((layout) => layout.entity === entity && layout.kind === 'full')?.key ?? entity },
    ]);
  };
  return (
    <>
      <PartHead about={say('routingPart.theFirstRuleThatFits')} kept={stored} title={say('applicationPart.routing')} />
      {rules.length === 0 ? (
        <p className="empty">{say('routingPart.thereAreNoRulesEveryone')}</p>
      ) : (
        <ol className="rules">
          {rules.map((rule, i) => (
            <RuleLine
              key={i}
              rule={rule}
              number={i + 1}
              last={i === rules.length - 1}
              entities={entities}
              layouts={layouts}
              verdict={tried?.rules.find((each) => Number(each.rule) === i)?.verdict}
              onChange={(more) => set(i, more)}
              onMove={(by) => changeRules(rules.with(i, rules[i + by]!).with(i + by, rule))}
              onRemove={() => changeRules(rules.toSpliced(i, 1))}
            />
          ))}
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
  const entity = asked.entity || entities[0]?.key || '';
  const person = asked.person || people.all[0]?.id || '';
  const { data: records = [] } = useAnswer(
    ['records', 'lookup', entity],
    entity ? () => answer(api.GET('/api/records/{entity}/lookup', { params: { path: { entity }, query: { limit: 50 } } })) : undefined,
  );
  const query = { entity, kind: asked.kind, person, ...(asked.record ? { record: Number(asked.record) } : {}) };
  const { data } = useAnswer(
    ['drafts', 'routing', query, revision],
    entity && person ? () => answer(api.GET('/api/routing', { params: { query } })) : undefined,
  );
  useEffect(() => onTried(data), [data, onTried]);
  return (
    <section className="trial" aria-label={say('common.tryIt')}>
      <h2>{say('common.tryIt')}</h2>
      <div className="rule-line">
        <Select
          label={say('routingPart.person')}
          value={person}
          options={people.all.map((each) => ({ key: each.id, label: each.name }))}
          onChange={(person) => setAsked({ ...asked, person })}
        />
        <span>{say('routingPart.opensThe')}</span>
        <Select label={say('common.kind')} value={asked.kind} options={kinds()} onChange={(kind) => setAsked({ ...asked, kind })} />
        <span>{say('routingPart.of2')}</span>
        <Select
          label={say('common.entity')}
          value={entity}
          options={entities}
          onChange={(entity) => setAsked({ ...asked, entity, record: '' })}
        />
        <Select
          label={say('common.record')}
          value={asked.record}
          options={[{ key: '', label: say('routingPart.aNewOne') }, ...records.map(({ id, title }) => ({ key: `${id}`, label: title }))]}
          onChange={(record) => setAsked({ ...asked, record })}
        />
      </div>
      {tried && <p role="status">{rich(outcomeOf(tried), people.name(person), <b>{tried.title}</b>, Number(deciding(tried)?.rule) + 1)}</p>}
    </section>
  );
}
