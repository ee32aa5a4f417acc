import type { EntitySummary, LayoutSummary } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { say, type TextKey } from '../../shell/configurator/texts.ts';
import { Select } from '../../ui/Select.tsx';
import { useTextInput } from '../../ui/textInput.ts';
import { kinds, type Rule } from './rules.ts';

const verdicts: Record<string, TextKey> = {
  decides: 'verdict.decides',
  'too-late': 'verdict.tooLate',
  'other-roles': 'verdict.otherRoles',
  'condition-fails': 'verdict.conditionFails',
  'no-layout': 'verdict.noLayout',
};

interface RuleLineProps {
  rule: Rule;
  number: number;
  last: boolean;
  entities: EntitySummary[];
  layouts: LayoutSummary[];
  /** What it says of the one it is tried with. */
  verdict: string | undefined;
  onChange: (more: Partial<Rule>) => void;
  onMove: (by: 1 | -1) => void;
  onRemove: () => void;
}

/** A rule as a sentence: of what, which layout, to whom, while what. */
export function RuleLine({ rule, number, last, entities, layouts, verdict, onChange, onMove, onRemove }: RuleLineProps) {
  const of = (entity: string, kind: string) => layouts.filter((layout) => layout.entity === entity && layout.kind === kind);
  const kind = rule.form ?? 'full';
  const offered = of(rule.entity, kind).map((layout) => ({ key: layout.key, label: layout.title }));
  const unknown = offered.some((layout) => layout.key === rule.layout)
    ? []
    : [{ key: rule.layout, label: rule.layout || say('pieceDialog.choose') }];
  return (
    <li data-verdict={verdict}>
      <div className="rule-line">
        <span>{say('routingPart.of')}</span>
        <Select
          label={say('routingPart.entityOfRule', number)}
          value={rule.entity}
          options={entities}
          onChange={(entity) => onChange({ entity, layout: of(entity, kind)[0]?.key ?? '' })}
        />
        <Select
          label={say('routingPart.kindOfRule', number)}
          value={kind}
          options={kinds()}
          onChange={(next) => onChange({ form: next === 'full' ? undefined : next, layout: of(rule.entity, next)[0]?.key ?? '' })}
        />
        <span>{say('routingPart.give')}</span>
        <Select
          label={say('routingPart.layoutOfRule', number)}
          value={rule.layout}
          options={[...unknown, ...offered]}
          onChange={(layout) => onChange({ layout })}
        />
        <span className="bar-space" />
        <button
          type="button"
          className="button"
          disabled={number === 1}
          aria-label={say('routingPart.ruleUp', number)}
          onClick={() => onMove(-1)}
        >
          ↑
        </button>
        <button type="button" className="button" disabled={last} aria-label={say('routingPart.ruleDown', number)} onClick={() => onMove(1)}>
          ↓
        </button>
        <button type="button" className="button" aria-label={say('routingPart.removeRule', number)} onClick={onRemove}>
          ×
        </button>
      </div>
      <RuleRoles rule={rule} number={number} onChange={onChange} />
      <div className="rule-line">
        <label className="rule-when">
          {say('routingPart.while')} <RuleCondition rule={rule} number={number} onChange={onChange} />
        </label>
      </div>
      {verdict && <p className="rule-verdict">{say(verdicts[verdict]!)}</p>}
    </li>
  );
}

type RulePartProps = Pick<RuleLineProps, 'rule' | 'number' | 'onChange'>;

function RuleRoles({ rule, number, onChange }: RulePartProps) {
  const { roles } = useSession().application;
  const choose = (role: string, on: boolean) => {
    const next = roles.map((one) => one.key).filter((key) => (key === role ? on : rule.roles?.includes(key)));
    onChange({ roles: next.length > 0 ? next : undefined });
  };
  return (
    <div className="rule-line" role="group" aria-label={say('routingPart.rolesOfRule', number)}>
      <span>{say('routingPart.to')}</span>
      {roles.map((role) => (
        <label key={role.key}>
          <input
            type="checkbox"
            checked={rule.roles?.includes(role.key) ?? false}
            onChange={(event) => choose(role.key, event.target.checked)}
          />{' '}
          {role.label}
        </label>
      ))}
      {!rule.roles?.length && <small>{say('routingPart.everyone')}</small>}
    </div>
  );
}

function RuleCondition({ rule, number, onChange }: RulePartProps) {
  const { input } = useTextInput(rule.when ?? '', (when) => onChange({ when: when || undefined }));
  return (
    <input
      className="bt-input code"
      aria-label={say('routingPart.conditionOfRule', number)}
      dir="ltr"
      spellCheck={false}
      placeholder={say('routingPart.conditionHint', 'record.length > 20.0')}
      {...input}
    />
  );
}
