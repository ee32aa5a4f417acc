import { useContext } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { Select } from '../../ui/Select.tsx';
import { useTextInput } from '../../ui/textInput.ts';
import { operatorsOf, roles, takesValue, type Clause, type Clauses } from './clauses.ts';
import { Scope, type ConditionScope } from './conditionScope.ts';

/** A condition put together by clicking. */
export function ClauseList({ id, clauses, onChange }: { id: string; clauses: Clauses; onChange: (clauses: Clauses) => void }) {
  const scope = useContext(Scope)!;
  const offered = scope.fields.filter((field) => !field.retired);
  const fresh = (subject: string) => freshClause(scope, subject);
  const replaceClause = (at: number, clause: Clause | undefined) =>
    onChange({
      ...clauses,
      list: clause ? clauses.list.map((each, i) => (i === at ? clause : each)) : clauses.list.filter((_, i) => i !== at),
    });
  return (
    <div className="clauses" role="group" aria-label={say('conditionEditor.clauses')}>
      {clauses.list.map((clause, i) => (
        <ClauseLine
          key={i}
          id={i === 0 ? id : undefined}
          clause={clause}
          joined={i > 0 ? clauses.joined : undefined}
          fresh={fresh}
          onJoin={(joined) => onChange({ ...clauses, joined })}
          onChange={(next) => replaceClause(i, next)}
        />
      ))}
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

const firstValue = (scope: ConditionScope, subject: string) =>
  (subject === roles ? scope.roles[0]?.key : scope.fields.find((field) => field.key === subject)?.choices?.[0]?.key) ?? '';

function freshClause(scope: ConditionScope, subject: string): Clause {
  const type = subject === roles ? undefined : scope.fields.find((field) => field.key === subject)?.type;
  const value = firstValue(scope, subject);
  // What has to be typed first would hold for nothing until it is.
  return { subject, operator: value || type === 'boolean' ? operatorsOf(type)[0]![0] : 'filled', value };
}

interface ClauseLineProps {
  id: string | undefined;
  clause: Clause;
  /** How it is joined to the one before; nothing for the first. */
  joined: Clauses['joined'] | undefined;
  fresh: (subject: string) => Clause;
  onJoin: (joined: Clauses['joined']) => void;
  onChange: (clause: Clause | undefined) => void;
}

function ClauseLine({ id, clause, joined, fresh, onJoin, onChange }: ClauseLineProps) {
  const scope = useContext(Scope)!;
  const field = scope.fields.find((each) => each.key === clause.subject);
  const values = clause.subject === roles ? scope.roles : field?.choices;
  const offered = scope.fields.filter((each) => !each.retired);
  return (
    <div className="clause">
      {joined && (
        <Select
          label={say('conditionEditor.allOrAny')}
          className="tool-input clause-joined"
          value={joined}
          options={[
            { key: '&&', label: say('conditionEditor.and') },
            { key: '||', label: say('conditionEditor.or') },
          ]}
          onChange={onJoin}
        />
      )}
      <Select
        id={id}
        label={say('kind.field')}
        className="tool-input"
        value={clause.subject}
        options={[{ key: roles as string, label: say('conditionEditor.theViewerSRole') }, ...offered]}
        onChange={(subject) => onChange(fresh(subject))}
      />
      <Select
        label={say('conditionEditor.comparison')}
        className="tool-input"
        value={clause.operator}
        options={operatorsOf(clause.subject === roles ? undefined : field?.type).map(([key, label]) => ({ key, label }))}
        onChange={(operator) => onChange({ ...clause, operator, value: clause.value || firstValue(scope, clause.subject) })}
      />
      {takesValue(clause.operator) &&
        (values ? (
          <Select
            label={say('conditionEditor.value')}
            className="tool-input"
            value={clause.value}
            options={values}
            onChange={(value) => onChange({ ...clause, value })}
          />
        ) : (
          <Value value={clause.value} onDone={(value) => onChange({ ...clause, value })} />
        ))}
      <button
        type="button"
        className="tool"
        aria-label={say('conditionEditor.removeThisClause')}
        title={say('conditionEditor.removeThisClause')}
        onClick={() => onChange(undefined)}
      >
        ×
      </button>
    </div>
  );
}

/** What is compared with, which counts on leaving or on Enter. */
function Value({ value, onDone }: { value: string; onDone: (value: string) => void }) {
  const { input } = useTextInput(value, onDone);
  return <input aria-label={say('conditionEditor.value')} className="tool-input" {...input} />;
}
