import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';
import type { Desk } from './useDesk.ts';
import { neverMind } from './FirstJob.tsx';

/** One line over the sheet: what is being placed, what was done or refused, or a first job for who is new here. */
export function StatusLine({ desk }: { desk: Desk }) {
  const { message } = desk.state;
  return (
    <p className="status" role="status" aria-live="polite" data-bad={message?.bad ? '' : undefined}>
      <Status desk={desk} />
    </p>
  );
}

function Status({ desk: { placing, trying, state, dialogs, person } }: { desk: Desk }) {
  if (placing.sentence)
    return (
      <span className="newcomer">
        <span>{placing.sentence}</span> <Link label={say('common.cancel')} onClick={placing.stop} />
      </span>
    );
  if (trying) return say('designer.tryingConditionsFollowWhatYou');
  if (state.message) return state.message.text;
  if (dialogs.job !== 'offered') return null;
  const dismiss = () => {
    neverMind(person);
    dialogs.setJob(undefined);
  };
  return (
    <span className="newcomer">
      {rich(
        'designer.newHere',
        <Link label={say('firstJob.begin')} onClick={() => dialogs.setJob('going')} />,
        <Link label={say('designer.dismiss')} onClick={dismiss} />,
      )}
    </span>
  );
}

const Link = ({ label, onClick }: { label: string; onClick: () => void }) => (
  <button type="button" className="bt-link" onClick={onClick}>
    {label}
  </button>
);
