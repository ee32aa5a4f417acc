import { useState } from 'react';
import type { Person } from '../../api/client.ts';
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
  const label = (key: string) => session.application.roles.find((role) => role.key === key)?.label ?? key;
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
            </tr>
          </thead>
          <tbody>
            {all.map((person) => (
              <tr key={person.id}>
                <td data-label={say('common.name')}>
                  <button type="button" className="bt-link" onClick={() => setEditing(person)}>
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
              </tr>
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
