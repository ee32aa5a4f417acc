import { useState } from 'react';
import type { ReleaseReach, Receipt, UnroutedLayout } from '../../api/client.ts';
import { address } from '../../shell/location.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { documentName } from '../../shell/configurator/documentNames.ts';
import { Adoption } from './Adoption.tsx';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';

interface ReceiptPartProps {
  receipt: Receipt;
  /** Those who got it first, in words. */
  audience: (rollout: Receipt['release']['rollout']) => string;
  /** What stood against putting something into the menu. */
  problem: string | undefined;
  /** Puts into the menu what no entry of it leads to; nothing where one may not. */
  onAddToMenu: ((reach: ReleaseReach) => void) | undefined;
  /** Gives roles, or everybody, a layout that nobody gets; nothing where one may not. */
  onGive: ((layout: UnroutedLayout, roles: readonly string[]) => void) | undefined;
  /** The record one came from. */
  back: { href: string; title: string } | undefined;
  onDone: () => void;
}

/** What publishing did: what changed, where it is reached, who has drawn it. */
export function ReceiptPart({ receipt, audience, problem, onAddToMenu, onGive, back, onDone }: ReceiptPartProps) {
  const { release, reached, unrouted } = receipt;
  if (receipt.made === false) return <NothingMade release={release.number} onDone={onDone} />;
  return (
    <div className="receipt">
      <h2 id="publish-title">
        {release.rollout
          ? say('receiptPart.publishedTo', release.number, audience(release.rollout))
          : say('receiptPart.published', release.number)}
      </h2>
      <dl>
        <dt>{say('receiptPart.changed')}</dt>
        <dd>{release.documents.map(documentName).join(', ') || say('common.nothing')}</dd>
        {reached.length > 0 && (
          <>
            <dt>{say('receiptPart.whereToSeeIt')}</dt>
            <dd>
              <Reached reached={reached} onAddToMenu={onAddToMenu} />
            </dd>
          </>
        )}
        <dt>{say('receiptPart.inUseBy')}</dt>
        <dd>
          <Adoption release={Number(release.number)} />
        </dd>
        {release.note && (
          <>
            <dt>{say('receiptPart.note')}</dt>
            <dd>{release.note}</dd>
          </>
        )}
        {release.overrideReason && (
          <>
            <dt>{say('receiptPart.publishedDespiteErrors')}</dt>
            <dd>{release.overrideReason}</dd>
          </>
        )}
      </dl>
      {unrouted?.map((layout) => (
        <Unrouted key={layout.layout} layout={layout} onGive={onGive} />
      ))}
      <WhatNext release={release} />
      {problem && (
        <div className="dialog-problem" role="alert">
          {problem}
        </div>
      )}
      <div className="dialog-acts">
        <button type="button" className={back ? 'button' : 'button primary'} autoFocus={!back} onClick={onDone}>
          {say('common.done')}
        </button>
        {back && (
          <a className="button primary" href={back.href} autoFocus>
            {say('receiptPart.seeRecord', back.title)}
          </a>
        )}
      </div>
    </div>
  );
}

/** That everybody has it already. */
function NothingMade({ release, onDone }: { release: number | string; onDone: () => void }) {
  return (
    <div className="receipt">
      <h2 id="publish-title">{say('receiptPart.nothingDiffers', release)}</h2>
      <p>{say('receiptPart.noRelease')}</p>
      <div className="dialog-acts">
        <button type="button" className="button primary" autoFocus onClick={onDone}>
          {say('common.done')}
        </button>
      </div>
    </div>
  );
}

/** A layout that went out and that nobody gets, and the rule that gives it to somebody. */
function Unrouted({ layout, onGive }: { layout: UnroutedLayout; onGive: ReceiptPartProps['onGive'] }) {
  const { application } = useSession();
  const [roles, setRoles] = useState<readonly string[]>([]);
  return (
    <div className="receipt-unrouted">
      <p>
        <b>{say('receiptPart.notRouted', layout.title)}</b>
      </p>
      {onGive && (
        <>
          <fieldset className="ticks" aria-label={say('receiptPart.whoGetsIt', layout.title)}>
            {application.roles.map(({ key, label }) => (
              <label key={key}>
                <input
                  type="checkbox"
                  checked={roles.includes(key)}
                  onChange={(event) => setRoles(event.target.checked ? [...roles, key] : roles.filter((each) => each !== key))}
                />{' '}
                {label}
              </label>
            ))}
          </fieldset>
          <button type="button" className="button" disabled={roles.length === 0} onClick={() => onGive(layout, roles)}>
            {say('receiptPart.routeIt')}
          </button>{' '}
          <button type="button" className="button" onClick={() => onGive(layout, [])}>
            {say('receiptPart.everyRole')}
          </button>
        </>
      )}
    </div>
  );
}

/** Where what was published is met: in the menu, or not yet. */
function Reached({ reached, onAddToMenu }: { reached: readonly ReleaseReach[]; onAddToMenu: ReceiptPartProps['onAddToMenu'] }) {
  return reached.map((each) => (
    <div key={each.entity}>
      {rich(
        each.menu ? 'receiptPart.inMenu' : 'receiptPart.notInMenu',
        <a href={address('records', each.entity)}>{each.label}</a>,
        each.menu?.join(' › '),
      )}
      {!each.menu && (
        <>
          {' '}
          {onAddToMenu && (
            <button type="button" className="bt-link" onClick={() => onAddToMenu(each)}>
              {say('receiptPart.addItToTheMenu')}
            </button>
          )}
        </>
      )}
    </div>
  ));
}

/** What can be done after it: everyone can be given it, or it can be taken back. */
function WhatNext({ release }: { release: Receipt['release'] }) {
  const releases = <a href={address('releases')}>{say('common.releases')}</a>;
  if (!release.rollout) return <p>{rich('receiptPart.ifItWasWrongAn', releases)}</p>;
  const at = release.rollout.steps?.find((step) => Number(step.share) === 100)?.at;
  return <p>{rich(at ? 'receiptPart.promotedAt' : 'receiptPart.promotable', releases, at && moment(at))}</p>;
}
