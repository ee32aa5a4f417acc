import type { ReactNode } from 'react';
import { moment } from '../../shell/configurator/moment.ts';
import { say } from '../../shell/configurator/texts.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { useSession } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';
import { may } from '../../shell/session.ts';
import { DateField } from '../../ui/DateField.tsx';
import { DialogProblem } from '../../ui/FormDialog.tsx';
import { FirstPeople } from './FirstPeople.tsx';
import { nobodyYet, reachesNobody, type PublishedDraft, type PublicationState } from './usePublication.ts';

/** What goes out and what goes with it, to whom and when, and a note. */
export function PublishForm({
  publishing,
  onLeave,
  children,
}: {
  publishing: PublicationState;
  onLeave: () => void;
  children?: ReactNode;
}) {
  const { publication, terms, setTerms, problem, busy, publish } = publishing;
  const { documents, title, errors } = publication;
  const unanswered = errors.length > 0 && terms.overrideReason === undefined;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void publish();
      }}
    >
      <h2 id="publish-title">{say('publishDialog.publish', title)}</h2>
      <p>{outlook(documents, terms.first !== undefined, terms.at === undefined)}</p>
      {children}
      <Along publishing={publishing} />
      <Errors errors={errors} />
      {problem && (
        <DialogProblem>
          {problem.detail}
          {problem.problems && problem.problems.length > 1 && (
            <ul>
              {problem.problems.map((part) => (
                <li key={part.pointer + part.message}>{part.message}</li>
              ))}
            </ul>
          )}
        </DialogProblem>
      )}
      <Override publishing={publishing} />
      <label htmlFor="publish-note">{say('publishDialog.noteForYourColleagues')}</label>
      <textarea
        id="publish-note"
        className="bt-input"
        rows={3}
        value={terms.note}
        onChange={(event) => setTerms({ note: event.target.value })}
      />
      <Audience publishing={publishing} />
      <div className="dialog-acts">
        <button type="button" className="button" onClick={onLeave}>
          {say('publishDialog.notYet')}
        </button>
        <button
          type="submit"
          className="button primary"
          disabled={busy || unanswered || (terms.first !== undefined && reachesNobody(terms.first))}
        >
          {terms.at === undefined ? say('publishDialog.publish2') : say('publishDialog.schedule')}
        </button>
      </div>
    </form>
  );
}

/** What stands against it. */
function Errors({ errors }: { errors: PublicationState['publication']['errors'] }) {
  if (errors.length === 0) return null;
  return (
    <DialogProblem>
      <b>{say('publishDialog.errors', errors.length)}</b>
      <ul>
        {errors.map((finding) => (
          <li key={finding.node + finding.code}>{finding.message}</li>
        ))}
      </ul>
    </DialogProblem>
  );
}

/** What publishing does, in a sentence. */
function outlook(documents: readonly PublishedDraft[], some: boolean, now: boolean): string {
  const who = some
    ? say(now ? 'publishDialog.someNow' : 'publishDialog.some')
    : say(now ? 'publishDialog.everyoneNow' : 'publishDialog.everyone');
  const what = documents.length === 1 ? 'publishDialog.revisionBecomes' : 'publishDialog.theyBecome';
  return say('publishDialog.follow', say(what, documents[0]?.revision ?? 0, who));
}

/** What it rests on and was changed too. */
function Along({ publishing: { along, left, setLeft } }: { publishing: PublicationState }) {
  const people = usePeople();
  if (along.length === 0) return null;
  const leave = (name: string, out: boolean) => setLeft(new Set(out ? [...left].filter((each) => each !== name) : [...left, name]));
  return (
    <fieldset className="publish-along">
      <legend>{say('publishDialog.alsoChangedAndRequired')}</legend>
      {along.map((each) => (
        <label key={nameOf(each)}>
          <input type="checkbox" checked={!left.has(nameOf(each))} onChange={(event) => leave(nameOf(each), event.target.checked)} />{' '}
          {say('publishDialog.the', documentName(each))}{' '}
          <small>
            {say(
              'publishDialog.forBy',
              documentName({ kind: each.forKind, key: each.forKey }),
              each.changedBy.map((by) => people.name(by)).join(', '),
            )}
          </small>
        </label>
      ))}
    </fieldset>
  );
}

/** PublicationState despite errors, with a reason, for those who may; also of errors the service found only at the end. */
function Override({ publishing: { publication, problem, terms, setTerms } }: { publishing: PublicationState }) {
  const session = useSession();
  if (!may(session, 'override') || (publication.errors.length === 0 && problem?.code !== 'findings')) return null;
  return (
    <fieldset className="publish-how">
      <label>
        <input
          type="checkbox"
          checked={terms.overrideReason !== undefined}
          onChange={(event) => setTerms({ overrideReason: event.target.checked ? '' : undefined })}
        />{' '}
        {say('publishDialog.publishDespiteErrors')}
      </label>
      {terms.overrideReason !== undefined && (
        <input
          className="bt-input"
          aria-label={say('publishDialog.reasonForPublishingDespiteErrors')}
          placeholder={say('publishDialog.reasonKeptWithTheRelease')}
          required
          maxLength={500}
          value={terms.overrideReason}
          onChange={(event) => setTerms({ overrideReason: event.target.value })}
        />
      )}
    </fieldset>
  );
}

/** To whom it goes, and when. */
function Audience({ publishing }: { publishing: PublicationState }) {
  const { terms, setTerms, audience } = publishing;
  const { first, at } = terms;
  const plan = (later: boolean) => setTerms({ at: later ? '' : undefined });
  const said = [
    ...(first ? [say('publishDialog.toFirst', audience(first) || say('publishDialog.somePeople'))] : []),
    ...(at ? [say('publishDialog.on', moment(at))] : []),
  ].join(', ');
  return (
    <details className="publish-how">
      <summary>{first || at !== undefined ? said || say('publishDialog.audienceAndTime') : say('publishDialog.toEveryoneNow')}</summary>
      <label>
        <input
          type="checkbox"
          checked={first !== undefined}
          onChange={(event) => setTerms({ first: event.target.checked ? nobodyYet : undefined })}
        />{' '}
        {say('publishDialog.toSomePeopleFirst')}
      </label>
      {first && <FirstPeople first={first} onChange={(more) => setTerms({ first: { ...first, ...more } })} />}
      <label>
        <input type="checkbox" checked={at !== undefined} onChange={(event) => plan(event.target.checked)} />{' '}
        {say('publishDialog.atAScheduledTime')}
      </label>
      {at !== undefined && (
        <DateField
          kind="date-time"
          label={say('publishDialog.publicationTime')}
          required
          value={at}
          onChange={(time) => setTerms({ at: time })}
        />
      )}
    </details>
  );
}
