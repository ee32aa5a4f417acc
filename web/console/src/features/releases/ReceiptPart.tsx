import type { ReleaseReach, Receipt } from '../../api/client.ts';
import { address } from '../../shell/location.ts';
import { moment } from '../../shell/moment.ts';
import { documentName } from '../../shell/documentNames.ts';
import { Adoption } from './Adoption.tsx';

interface ReceiptPartProps {
  receipt: Receipt;
  /** Roles by their labels. */
  first: (roles: readonly string[]) => string;
  /** What stood against putting something into the menu. */
  problem: string | undefined;
  /** Puts into the menu what no entry of it leads to; nothing where one may not. */
  onAddToMenu: ((reach: ReleaseReach) => void) | undefined;
  onDone: () => void;
}

/** What publishing did: what changed, where it is reached, who has drawn it. */
export function ReceiptPart({ receipt: { release, reached }, first, problem, onAddToMenu, onDone }: ReceiptPartProps) {
  return (
    <div className="receipt">
      <h2 id="publish-title">
        Release {release.number} is published{release.roles ? ` to ${first(release.roles)}` : ''}
      </h2>
      <dl>
        <dt>Changed</dt>
        <dd>
          {release.documents
            .filter((document) => document.change !== 'unchanged')
            .map(documentName)
            .join(', ') || 'nothing'}
        </dd>
        {reached.length > 0 && (
          <>
            <dt>Where to see it</dt>
            <dd>
              {reached.map((each) => (
                <div key={each.entity}>
                  <a href={address('records', each.entity)}>{each.label}</a>
                  {each.menu ? (
                    <>, in the menu under {each.menu.join(' › ')}</>
                  ) : (
                    <>
                      ; not in the menu yet.{' '}
                      {onAddToMenu && (
                        <button type="button" className="bt-link" onClick={() => onAddToMenu(each)}>
                          Add it to the menu
                        </button>
                      )}
                    </>
                  )}
                </div>
              ))}
            </dd>
          </>
        )}
        <dt>In use by</dt>
        <dd>
          <Adoption release={Number(release.number)} />
        </dd>
        {release.note && (
          <>
            <dt>Note</dt>
            <dd>{release.note}</dd>
          </>
        )}
        {release.overrideReason && (
          <>
            <dt>Published despite errors</dt>
            <dd>{release.overrideReason}</dd>
          </>
        )}
      </dl>
      {release.roles ? (
        <p>
          Everyone else keeps the current release. Under <a href={address('releases')}>Releases</a> you can promote it to everyone or cancel
          it{release.everyoneAt ? `; it goes to everyone by itself ${moment(release.everyoneAt)}` : ''}.
        </p>
      ) : (
        <p>
          If it was wrong, an earlier release can be restored under <a href={address('releases')}>Releases</a>.
        </p>
      )}
      {problem && (
        <div className="dialog-problem" role="alert">
          {problem}
        </div>
      )}
      <div className="dialog-acts">
        <button type="button" className="button primary" autoFocus onClick={onDone}>
          Done
        </button>
      </div>
    </div>
  );
}
