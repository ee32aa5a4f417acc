import { useEffect, useRef, useState } from 'react';
import { answer, api, ApiError, type ScheduledRelease, type ReleaseReach, type Receipt } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { moment } from '../../shell/configuring/moment.ts';
import { documentName, nameOf } from '../../shell/documentNames.ts';
import { may } from '../../shell/session.ts';
import { addMenuEntry } from './menuEntry.ts';
import { ReceiptPart } from './ReceiptPart.tsx';
import { rich, say } from '../../shell/configuring/texts.ts';

interface PublishDialogProps {
  /** What goes out, each at the revision that was looked at. */
  documents: readonly PublishOutcome[];
  title: string;
  /** What stands against it. */
  errors: readonly { node: string; code: string; message: string }[];
  onClose: () => void;
  onPublished: () => void;
}

interface PublishOutcome {
  kind: string;
  key: string;
  revision: number;
}

/** The moment a field for a local day and time holds, as the wire has it. */
const onWire = (local: string) => new Date(local).toISOString();

/** Publishing: what goes out and what goes with it, to whom and when, a note, then the receipt. */
export function PublishDialog({ documents: asked, title: named, errors: known, onClose, onPublished }: PublishDialogProps) {
  const session = useSession();
  const dialog = useRef<HTMLDialogElement>(null);
  // The menu may follow, where no entry of it leads to what went out.
  const [{ documents, title, errors }, setGoing] = useState({ documents: asked, title: named, errors: known });
  const [note, setNote] = useState('');
  const [receipt, setReceipt] = useState<Receipt>();
  const [plan, setPlan] = useState<ScheduledRelease>();
  const [problem, setProblem] = useState<ApiError['problem']>();
  const [busy, setBusy] = useState(false);
  const [along, setAlong] = useState<(PublishOutcome & { forKind: string; forKey: string })[]>([]);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [roles, setRoles] = useState<readonly string[]>();
  const [at, setAt] = useState<string>();
  const [everyoneAt, setEveryoneAt] = useState('');
  const [overrideReason, setOverrideReason] = useState<string>();
  const names = documents.map((each) => `${each.kind}/${each.key}`).join(' ');
  useEffect(() => dialog.current?.showModal(), []);
  useEffect(() => {
    // What it rests on goes out with it, as far as it was changed too.
    answer(api.GET('/api/releases/dependencies', { params: { query: { document: names.split(' ') } } })).then(
      (found) => setAlong([...found]),
      () => undefined,
    );
  }, [names]);
  const publish = async () => {
    setBusy(true);
    const body = {
      documents: [
        ...along.filter((each) => !left.has(nameOf(each))).map(({ kind, key, revision }) => ({ kind, key, revision })),
        ...documents,
      ],
      note,
      ...(roles ? { roles: [...roles], ...(everyoneAt ? { everyoneAt: onWire(everyoneAt) } : {}) } : {}),
      ...(overrideReason === undefined ? {} : { overrideReason }),
    };
    try {
      if (at === undefined) setReceipt(await answer(api.POST('/api/releases', { body })));
      else setPlan(await answer(api.POST('/api/scheduled-releases', { body: { ...body, at: onWire(at) } })));
      onPublished();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setProblem(error.problem);
    } finally {
      setBusy(false);
    }
  };
  const addToMenu = async (reach: ReleaseReach) => {
    try {
      setGoing({ documents: [await addMenuEntry(reach)], title: say('publishDialog.theMenu'), errors: [] });
      setNote(say('publishDialog.inTheMenu', reach.label));
      setRoles(undefined);
      setAt(undefined);
      setOverrideReason(undefined);
      setReceipt(undefined);
      setProblem(undefined);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setProblem(error.problem);
    }
  };
  const first = (keys: readonly string[]) =>
    keys.map((key) => session.application.roles.find((role) => role.key === key)?.label ?? key).join(', ');
  // Of what the service found only at the end something may go out all the same, too.
  const overridable = may(session, 'override') && (errors.length > 0 || problem?.code === 'findings');
  return (
    <dialog ref={dialog} className="dialog" aria-labelledby="publish-title" onClose={onClose}>
      {receipt ? (
        <ReceiptPart
          receipt={receipt}
          first={first}
          problem={problem?.detail}
          onAddToMenu={may(session, 'configure') ? (reach) => void addToMenu(reach) : undefined}
          onDone={() => dialog.current?.close()}
        />
      ) : plan ? (
        <div className="receipt">
          <h2 id="publish-title">{say('publishDialog.scheduledFor', moment(plan.at))}</h2>
          <p>{rich('publishDialog.itPublishesTheDraftsAs', <a href={address('releases')}>{say('common.releases')}</a>)}</p>
          <div className="dialog-acts">
            <button type="button" className="button primary" autoFocus onClick={() => dialog.current?.close()}>
              {say('common.done')}
            </button>
          </div>
        </div>
      ) : (
        <form
          method="dialog"
          onSubmit={(event) => {
            event.preventDefault();
            void publish();
          }}
        >
          <h2 id="publish-title">{say('publishDialog.publish', title)}</h2>
          <p>{outlook(documents, roles !== undefined, at === undefined)}</p>
          {along.length > 0 && (
            <fieldset className="publish-along">
              <legend>{say('publishDialog.alsoChangedAndRequired')}</legend>
              {along.map((each) => (
                <label key={nameOf(each)}>
                  <input
                    type="checkbox"
                    checked={!left.has(nameOf(each))}
                    onChange={(event) =>
                      setLeft(new Set(event.target.checked ? [...left].filter((name) => name !== nameOf(each)) : [...left, nameOf(each)]))
                    }
                  />{' '}
                  {say('publishDialog.the', documentName(each))}{' '}
                  <small>{say('publishDialog.for', documentName({ kind: each.forKind, key: each.forKey }))}</small>
                </label>
              ))}
            </fieldset>
          )}
          {errors.length > 0 && (
            <div className="dialog-problem" role="alert">
              <b>{say('publishDialog.errors', errors.length)}</b>
              <ul>
                {errors.map((finding) => (
                  <li key={finding.node + finding.code}>{finding.message}</li>
                ))}
              </ul>
            </div>
          )}
          {problem && (
            <div className="dialog-problem" role="alert">
              {problem.detail}
              {problem.problems && problem.problems.length > 1 && (
                <ul>
                  {problem.problems.map((part) => (
                    <li key={part.pointer + part.message}>{part.message}</li>
                  ))}
                </ul>
              )}
            </div>
          )}
          {overridable && (
            <fieldset className="publish-how">
              <label>
                <input
                  type="checkbox"
                  checked={overrideReason !== undefined}
                  onChange={(event) => setOverrideReason(event.target.checked ? '' : undefined)}
                />{' '}
                {say('publishDialog.publishDespiteErrors')}
              </label>
              {overrideReason !== undefined && (
                <input
                  className="bt-input"
                  aria-label={say('publishDialog.reasonForPublishingDespiteErrors')}
                  placeholder={say('publishDialog.reasonKeptWithTheRelease')}
                  required
                  maxLength={500}
                  value={overrideReason}
                  onChange={(event) => setOverrideReason(event.target.value)}
                />
              )}
            </fieldset>
          )}
          <label htmlFor="publish-note">{say('publishDialog.noteForYourColleagues')}</label>
          <textarea id="publish-note" className="bt-input" rows={3} value={note} onChange={(event) => setNote(event.target.value)} />
          <details className="publish-how">
            <summary>
              {roles || at !== undefined
                ? [
                    roles && say('publishDialog.toFirst', first(roles) || say('publishDialog.someRoles')),
                    at && say('publishDialog.on', moment(at)),
                  ]
                    .filter(Boolean)
                    .join(', ') || say('publishDialog.audienceAndTime')
                : say('publishDialog.toEveryoneNow')}
            </summary>
            <label>
              <input type="checkbox" checked={roles !== undefined} onChange={(event) => setRoles(event.target.checked ? [] : undefined)} />{' '}
              {say('publishDialog.toSomeRolesFirst')}
            </label>
            {roles && (
              <fieldset className="ticks" aria-label={say('publishDialog.rolesThatGetItFirst')}>
                {session.application.roles.map((role) => (
                  <label key={role.key}>
                    <input
                      type="checkbox"
                      checked={roles.includes(role.key)}
                      onChange={(event) =>
                        setRoles(event.target.checked ? [...roles, role.key] : roles.filter((each) => each !== role.key))
                      }
                    />{' '}
                    {role.label}
                  </label>
                ))}
                <label>
                  {say('publishDialog.promoteAutomaticallyOn')}{' '}
                  <input
                    type="datetime-local"
                    className="bt-input"
                    value={everyoneAt}
                    onChange={(event) => setEveryoneAt(event.target.value)}
                  />
                </label>
              </fieldset>
            )}
            <label>
              <input type="checkbox" checked={at !== undefined} onChange={(event) => setAt(event.target.checked ? '' : undefined)} />{' '}
              {say('publishDialog.atAScheduledTime')}
            </label>
            {at !== undefined && (
              <input
                type="datetime-local"
                className="bt-input"
                aria-label={say('publishDialog.publicationTime')}
                required
                value={at}
                onChange={(event) => setAt(event.target.value)}
              />
            )}
          </details>
          <div className="dialog-acts">
            <button type="button" className="button" onClick={() => dialog.current?.close()}>
              {say('publishDialog.notYet')}
            </button>
            <button
              type="submit"
              className="button primary"
              disabled={busy || (errors.length > 0 && overrideReason === undefined) || roles?.length === 0}
            >
              {at === undefined ? say('publishDialog.publish2') : say('publishDialog.schedule')}
            </button>
          </div>
        </form>
      )}
    </dialog>
  );
}

/** What publishing does, in a sentence. */
function outlook(documents: readonly { revision: number }[], some: boolean, now: boolean): string {
  const who = some
    ? say(now ? 'publishDialog.someNow' : 'publishDialog.some')
    : say(now ? 'publishDialog.everyoneNow' : 'publishDialog.everyone');
  const what = documents.length === 1 ? 'publishDialog.revisionBecomes' : 'publishDialog.theyBecome';
  return say('publishDialog.follow', say(what, documents[0]?.revision ?? 0, who));
}
