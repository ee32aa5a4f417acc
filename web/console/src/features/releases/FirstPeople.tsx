import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';
import { DateField } from '../../ui/DateField.tsx';
import { Select } from '../../ui/Select.tsx';
import type { FirstChoice } from './usePublication.ts';

interface FirstPeopleProps {
  first: FirstChoice;
  onChange: (more: Partial<FirstChoice>) => void;
}

/** Those who get a release first, when it reaches more, and whether it stops by itself. */
export function FirstPeople({ first, onChange }: FirstPeopleProps) {
  const session = useSession();
  const { roles } = first;
  return (
    <fieldset className="first-people" aria-label={say('rollout.whoGetsItFirst')}>
      <div className="ticks" role="group" aria-label={say('publishDialog.rolesThatGetItFirst')}>
        {session.application.roles.map(({ key, label }) => (
          <label key={key}>
            <input
              type="checkbox"
              checked={roles.includes(key)}
              onChange={(event) => onChange({ roles: event.target.checked ? [...roles, key] : roles.filter((each) => each !== key) })}
            />{' '}
            {label}
          </label>
        ))}
      </div>
      <NamedPeople first={first} onChange={onChange} />
      <label>
        {say('rollout.aShare')} <Share value={first.share} least={0} most={99} onChange={(share) => onChange({ share })} />{' '}
        {say('rollout.ofAHundred')}
      </label>
      <Steps first={first} onChange={onChange} />
      <label>
        <input type="checkbox" checked={first.stops} onChange={(event) => onChange({ stops: event.target.checked })} />{' '}
        {say('rollout.stops')}
      </label>
    </fieldset>
  );
}

/** People by name: one is added by choosing, and taken off by a press on her. */
function NamedPeople({ first: { people: chosen }, onChange }: FirstPeopleProps) {
  const people = usePeople();
  const others = people.all.filter(({ id }) => !chosen.includes(id));
  return (
    <div className="named-people">
      {chosen.map((id) => (
        <button
          key={id}
          type="button"
          className="button quiet"
          aria-label={say('rollout.withoutPerson', people.name(id))}
          onClick={() => onChange({ people: chosen.filter((each) => each !== id) })}
        >
          {people.name(id)} ×
        </button>
      ))}
      <Select
        label={say('rollout.addAPerson')}
        value=""
        options={[{ key: '', label: say('rollout.addAPerson') }, ...others.map(({ id, name }) => ({ key: id, label: name }))]}
        onChange={(id) => id && onChange({ people: [...chosen, id] })}
      />
    </div>
  );
}

/** When it reaches more, a line for each time. */
function Steps({ first: { steps, share }, onChange }: FirstPeopleProps) {
  const change = (at: number, more: Partial<FirstChoice['steps'][number]>) =>
    onChange({ steps: steps.map((step, i) => (i === at ? { ...step, ...more } : step)) });
  const last = steps.at(-1)?.share ?? share;
  return (
    <div role="group" aria-label={say('rollout.steps')}>
      {steps.map((step, i) => (
        <div className="rollout-step" key={i}>
          <DateField
            kind="date-time"
            label={say('rollout.stepTime', i + 1)}
            required
            value={step.at}
            onChange={(at) => change(i, { at })}
          />
          <Share
            value={step.share}
            least={1}
            most={100}
            label={say('rollout.stepShare', i + 1)}
            onChange={(to) => change(i, { share: to })}
          />
          <span>{say('rollout.ofAHundred')}</span>
          <button
            type="button"
            className="button quiet"
            aria-label={say('rollout.removeStep', i + 1)}
            onClick={() => onChange({ steps: steps.filter((_, other) => other !== i) })}
          >
            ×
          </button>
        </div>
      ))}
      <button
        type="button"
        className="button"
        disabled={last >= 100}
        onClick={() => onChange({ steps: [...steps, { at: '', share: last === 0 ? 100 : Math.min(100, last * 2) }] })}
      >
        {say(steps.length === 0 ? 'rollout.widenByItself' : 'rollout.anotherStep')}
      </button>
    </div>
  );
}

interface ShareProps {
  value: number;
  least: number;
  most: number;
  label?: string;
  onChange: (share: number) => void;
}

/** How many of a hundred. */
export function Share({ value, least, most, label, onChange }: ShareProps) {
  return (
    <input
      className="bt-input share-input"
      type="number"
      aria-label={label}
      min={least}
      max={most}
      value={value}
      onChange={(event) => onChange(event.target.valueAsNumber || 0)}
    />
  );
}
