import { useState } from 'react';
import { answer, api, type RolloutState, type SaveCount } from '../../api/client.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { Adoption } from './Adoption.tsx';
import { useAudience } from './audience.ts';
import { Share } from './FirstPeople.tsx';

interface RolloutPartProps {
  number: number;
  onWiden: (share: number) => void;
  onPromote: () => void;
  onCancel: () => void;
}

/** How a release goes that only some have: who they are, what saving came to, what comes next, and giving it to more. */
export function RolloutPart({ number, onWiden, onPromote, onCancel }: RolloutPartProps) {
  const session = useSession();
  const audience = useAudience();
  const { data: state } = useAnswer(
    ['releases', 'rollout', number],
    () => answer(api.GET('/api/releases/{number}/rollout', { params: { path: { number } } })),
    { every: 2_000 },
  );
  if (!state) return null;
  const { release, reached, people } = state;
  return (
    <section className="rollout" aria-labelledby="rollout-title">
      <h2 id="rollout-title">{say('rollout.outTo', number, audience(release.rollout))}</h2>
      {release.note && <p>{release.note}</p>}
      <p>
        <progress max={Number(people)} value={Number(reached)} aria-label={say('rollout.reached', Number(reached), Number(people))} />{' '}
        {say('rollout.reached', Number(reached), Number(people))} {rich('releasesPage.inUse', <Adoption release={number} />)}
      </p>
      <Steps release={release} />
      <Saves state={state} />
      <p className="rollout-rule">{release.rollout?.stops === false ? say('rollout.goesOn') : state.rule}</p>
      {may(session, 'publish') && (
        <div className="rollout-acts">
          <Widen share={Number(release.rollout?.share ?? 0)} onWiden={onWiden} />
          <button type="button" className="button primary" onClick={onPromote}>
            {say('releasesPage.promoteToEveryone')}
          </button>
          <button type="button" className="button" onClick={onCancel}>
            {say('releasesPage.cancelRelease')}
          </button>
        </div>
      )}
    </section>
  );
}

/** What is still to come by itself. */
function Steps({ release: { rollout } }: Pick<RolloutState, 'release'>) {
  const coming = (rollout?.steps ?? []).filter((step) => Number(step.share) > Number(rollout?.share));
  if (coming.length === 0) return <p>{say('rollout.noSteps')}</p>;
  return (
    <ol className="rollout-steps" aria-label={say('rollout.next')}>
      {coming.map((step) => (
        <li key={step.at}>
          {say(Number(step.share) === 100 ? 'rollout.stepToAll' : 'rollout.stepTo', moment(step.at), Number(step.share))}
        </li>
      ))}
    </ol>
  );
}

/** What saving came to with it and with the one before. */
function Saves({ state: { release, saves, before, entities } }: { state: RolloutState }) {
  return (
    <>
      <h3 id="rollout-saves">{entities ? say('rollout.savesOf', entities.join(', ')) : say('rollout.saves')}</h3>
      <div className="table-frame">
        <table className="table" aria-labelledby="rollout-saves">
          <thead>
            <tr>
              <th scope="col">{say('holders.release')}</th>
              <th scope="col">{say('rollout.saved')}</th>
              <th scope="col">{say('rollout.failed')}</th>
              <th scope="col">{say('rollout.failedRate')}</th>
            </tr>
          </thead>
          <tbody>
            <SaveLine name={say('rollout.thisOne', release.number)} count={saves} />
            <SaveLine name={say('rollout.oneBefore', release.base)} count={before} />
          </tbody>
        </table>
      </div>
    </>
  );
}

function SaveLine({ name, count }: { name: string; count: SaveCount }) {
  const [saved, failed] = [Number(count.saved), Number(count.failed)];
  const tried = saved + failed;
  return (
    <tr>
      <td data-label={say('holders.release')}>{name}</td>
      <td data-label={say('rollout.saved')}>{saved}</td>
      <td data-label={say('rollout.failed')}>{failed}</td>
      <td data-label={say('rollout.failedRate')}>{tried === 0 ? '–' : Math.round((100 * failed) / tried)}</td>
    </tr>
  );
}

/** Gives it to a larger share now. */
function Widen({ share, onWiden }: { share: number; onWiden: (share: number) => void }) {
  const [wanted, setWanted] = useState<number>();
  const next = wanted ?? Math.min(99, Math.max(10, share * 2));
  return (
    <form
      className="rollout-widen"
      onSubmit={(event) => {
        event.preventDefault();
        onWiden(next);
        setWanted(undefined);
      }}
    >
      <label>
        {say('rollout.widenTo')} <Share value={next} least={share + 1} most={99} onChange={setWanted} /> {say('rollout.ofAHundred')}
      </label>
      <button type="submit" className="button">
        {say('rollout.widen')}
      </button>
    </form>
  );
}
