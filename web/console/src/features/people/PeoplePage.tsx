import { useState } from 'react';
import { answer, api, type Person } from '../../api/client.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';
import { NoticeLine, type Notice } from '../../ui/Notice.tsx';
import { PersonDialog } from './PersonDialog.tsx';
import { say } from '../../shell/configurator/texts.ts';
import '../../pages.css';

const nobody: Person = { id: '', name: '', roles: [], language: 'en', vouched: false };

/** Who there is and what they may: for administrators. */
export function PeoplePage() {
  usePageTitle(say('peoplePage.people'));
  const session = useSession();
  const [editing, setEditing] = useState<Person>();
  const [notice, setNotice] = useState<Notice>();
  const { all, problem, reload } = usePeople();
  // The whole page is another person's then.
  const seeAs = (person: string) =>
    answer(api.PUT('/api/session/view', { body: { person } })).then(
      () => window.location.assign('/'),
      (error: Error) => setNotice({ text: error.message, bad: true }),
    );
  return (
    <>
      <header className="page-head">
        <h1>{say('peoplePage.people')}</h1>
        <button type="button" className="button primary" onClick={() => setEditing(nobody)}>
          {say('peoplePage.newPerson')}
        </button>
      </header>
      <NoticeLine notice={problem ? { text: problem.message, bad: true } : notice} />
      <div className="table-frame">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">{say('common.name')}</th>
              <th scope="col">{say('peoplePage.userName')}</th>
              <th scope="col">{say('peoplePage.roles')}</th>
              <th scope="col">{say('common.language')}</th>
              <th scope="col">{say('peoplePage.region')}</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {all.map((person) => (
              <PersonLine
                key={person.id}
                person={person}
                onOpen={() => setEditing(person)}
                onSeeAs={person.id === session.person?.id ? undefined : () => void seeAs(person.id)}
              />
            ))}
          </tbody>
        </table>
      </div>
      {editing && (
        <PersonDialog
          person={editing}
          onClose={(said) => {
            setEditing(undefined);
            if (said) {
              setNotice({ text: said, bad: false });
              reload();
            }
          }}
        />
      )}
    </>
  );
}

interface PersonLineProps {
  person: Person;
  onOpen: () => void;
  /** Sees the application as the person does; nothing for oneself. */
  onSeeAs: (() => void) | undefined;
}

function PersonLine({ person, onOpen, onSeeAs }: PersonLineProps) {
  const session = useSession();
  const label = (key: string) => session.application.roles.find((role) => role.key === key)?.label ?? key;
  return (
    <tr>
      <td data-label={say('common.name')}>
        <button type="button" className="bt-link" onClick={onOpen}>
          {person.name}
        </button>
      </td>
      <td data-label={say('peoplePage.userName')}>{person.id}</td>
      <td data-label={say('peoplePage.roles')}>
        {person.roles.map(label).join(', ') || say('common.none')}
        {person.vouched && <small> {say('peoplePage.byTheIdentityProvider')}</small>}
      </td>
      <td data-label={say('common.language')}>{person.language}</td>
      <td data-label={say('peoplePage.region')}>{person.region ?? '–'}</td>
      <td>
        {onSeeAs && (
          <button type="button" className="button quiet" aria-label={say('viewing.seeAs', person.name)} onClick={onSeeAs}>
            {say('viewing.see')}
          </button>
        )}
      </td>
    </tr>
  );
}
