import { useState } from 'react';
import { answer, api, type UnitInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { DataHead } from './DataHead.tsx';
import { PublishWaiting, useWaiting } from './WaitingDrafts.tsx';

const none: UnitInfo[] = [];

/** What of a unit tells it apart from others that were meant to be it. */
const bare = (unit: string) => unit.normalize('NFKC').toLowerCase().replaceAll(/[\s.]/gu, '');

/** The units that numbers are counted in, each with its fields; written in another way for all of them at once. */
export function UnitsPage() {
  usePageTitle(say('data.parts.units'));
  const session = useSession();
  const { data: units, reload } = useAnswer(['documents', 'units'], () => answer(api.GET('/api/units')));
  const waiting = useWaiting('entity');
  const [renamed, setRenamed] = useState<UnitInfo>();
  const all = units ?? none;
  const close = () => {
    setRenamed(undefined);
    void reload();
  };
  return (
    <>
      <DataHead here="units">
        <PublishWaiting waiting={waiting} title={say('data.parts.units')} onClose={close} />
      </DataHead>
      <p>{say('units.about')}</p>
      {units && all.length === 0 ? (
        <p className="empty">{say('units.none')}</p>
      ) : (
        <UnitTable units={all} onOpen={may(session, 'configure') ? setRenamed : undefined} />
      )}
      {renamed && <RenameUnit unit={renamed} others={all.map((each) => each.unit)} onClose={close} />}
    </>
  );
}

function UnitTable({ units, onOpen }: { units: readonly UnitInfo[]; onOpen: ((unit: UnitInfo) => void) | undefined }) {
  const likes = (unit: string) => units.filter((other) => other.unit !== unit && bare(other.unit) === bare(unit)).map((each) => each.unit);
  return (
    <div className="table-frame">
      <table className="table">
        <thead>
          <tr>
            <th scope="col">{say('units.unit')}</th>
            <th scope="col">{say('units.fields')}</th>
          </tr>
        </thead>
        <tbody>
          {units.map((each) => (
            <tr key={each.unit}>
              <td data-label={say('units.unit')}>
                {onOpen ? (
                  <button type="button" className="bt-link" onClick={() => onOpen(each)}>
                    <bdi>{each.unit}</bdi>
                  </button>
                ) : (
                  <bdi>{each.unit}</bdi>
                )}
                {likes(each.unit).length > 0 && <small> {say('units.alike', likes(each.unit).join(', '))}</small>}
              </td>
              <td data-label={say('units.fields')}>
                {each.fields.map(({ entity, entityLabel, field, label }, i) => (
                  <span key={`${entity}.${field}`}>
                    {i > 0 && ', '}
                    <a href={address('data', 'entity', entity)}>{entityLabel}</a> {label}
                  </span>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** A unit written in another way, for all its fields or some of them. */
function RenameUnit({ unit: { unit, fields }, others, onClose }: { unit: UnitInfo; others: readonly string[]; onClose: () => void }) {
  const names = fields.map(({ entity, field }) => `${entity}.${field}`);
  const [to, setTo] = useState(unit);
  const [chosen, setChosen] = useState<readonly string[]>(names);
  const next = to.trim();
  const save = () => answer(api.POST('/api/units/rename', { body: { from: unit, to: next, fields: [...chosen] } }));
  return (
    <FormDialog
      title={say('units.rename', unit)}
      submit={say('common.save')}
      incomplete={!next || next === unit || chosen.length === 0}
      onSubmit={save}
      onClose={onClose}
    >
      <p>{say('units.inDrafts')}</p>
      <label htmlFor="unit-to">{say('units.writtenAs')}</label>
      <input
        id="unit-to"
        className="bt-input"
        autoFocus
        autoComplete="off"
        dir="auto"
        maxLength={40}
        value={to}
        onChange={(event) => setTo(event.target.value)}
      />
      {next !== unit && others.includes(next) && <p role="status">{say('units.joins', next)}</p>}
      <fieldset className="dialog-choices">
        <legend>{say('units.fields')}</legend>
        {fields.map(({ entityLabel, label }, i) => (
          <label key={names[i]} className="dialog-check">
            <input
              type="checkbox"
              checked={chosen.includes(names[i]!)}
              onChange={(event) => setChosen(event.target.checked ? [...chosen, names[i]!] : chosen.filter((each) => each !== names[i]))}
            />{' '}
            {entityLabel}: {label}
          </label>
        ))}
      </fieldset>
    </FormDialog>
  );
}
