import { useDeferredValue, useState } from 'react';
import { answer, api, type Holder } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { NoticeLine, type Notice } from '../../ui/Notice.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { releaseActs, useReleases } from './releaseActs.ts';
import { RolloutPart } from './RolloutPart.tsx';
import '../../pages.css';

/** How many people are shown at first, and how many more each time. */
const page = 100;

/** Who has which release, and how the one goes that only some have. */
export function HoldersPage() {
  usePageTitle(say('holders.whoHasWhat'));
  const { releases, staged, reload, problem } = useReleases();
  const [notice, setNotice] = useState<Notice>();
  const acts = releaseActs(
    (text) => {
      setNotice({ text, bad: false });
      reload();
    },
    (error) => setNotice({ text: error.message, bad: true }),
  );
  const current = releases.find((release) => release.current);
  return (
    <>
      <header className="page-head">
        <h1>{say('holders.whoHasWhat')}</h1>
        <a className="button" href="/releases">
          {say('common.releases')}
        </a>
      </header>
      <NoticeLine notice={problem ? { text: problem.message, bad: true } : notice} />
      {staged && (
        <RolloutPart
          key={staged.number}
          number={Number(staged.number)}
          onWiden={(share) => acts.widen(Number(staged.number), share)}
          onPromote={() => acts.promote(Number(staged.number))}
          onCancel={() => acts.cancel(Number(staged.number))}
        />
      )}
      {current && !staged && <p className="page-lead">{say('holders.everyoneHas', current.number)}</p>}
      <People releases={[staged, current].flatMap((each) => (each ? [Number(each.number)] : []))} />
    </>
  );
}

/** Everybody, with the release she has and what she has it by. */
function People({ releases }: { releases: readonly number[] }) {
  const [search, setSearch] = useState('');
  const [release, setRelease] = useState(0);
  const [limit, setLimit] = useState(page);
  const query = {
    limit,
    ...(useDeferredValue(search) ? { search } : {}),
    ...(releases.includes(release) ? { release } : {}),
  };
  const { data, problem } = useAnswer(
    ['releases', 'holders', query, releases],
    () => answer(api.GET('/api/releases/holders', { params: { query } })),
    { keeps: true },
  );
  return (
    <>
      <div className="search-bar" role="search">
        <input
          className="bt-input"
          type="search"
          aria-label={say('holders.findPeople')}
          placeholder={say('holders.findPeople')}
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        {releases.length > 1 && (
          <Segments
            id="holders-release"
            label={say('holders.release')}
            value={release}
            options={[{ key: 0, label: say('holders.all') }, ...releases.map((key) => ({ key, label: say('holders.ofRelease', key) }))]}
            onChange={setRelease}
          />
        )}
      </div>
      <NoticeLine notice={problem && { text: problem.message, bad: true }} />
      {data && Number(data.total) === 0 && <p className="empty">{say('holders.nobody')}</p>}
      {data && Number(data.total) > 0 && <PeopleTable people={data.people} />}
      {data && data.people.length < Number(data.total) && limit < 500 && (
        <p>
          <button type="button" className="button" onClick={() => setLimit(Math.min(500, limit + page))}>
            {say('holders.more', Number(data.total) - data.people.length)}
          </button>
        </p>
      )}
      {data && limit === 500 && Number(data.total) > 500 && <p className="empty">{say('holders.searchOn', Number(data.total))}</p>}
    </>
  );
}

function PeopleTable({ people }: { people: readonly Holder[] }) {
  return (
    <div className="table-frame">
      <table className="table">
        <thead>
          <tr>
            <th scope="col">{say('common.name')}</th>
            <th scope="col">{say('holders.release')}</th>
            <th scope="col">{say('holders.because')}</th>
          </tr>
        </thead>
        <tbody>
          {people.map((person) => (
            <tr key={person.person}>
              <td data-label={say('common.name')}>{person.name}</td>
              <td data-label={say('holders.release')}>{person.release}</td>
              <td data-label={say('holders.because')}>{say(because[person.because as 'role'] ?? 'holders.everyone')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const because = { everyone: 'holders.everyone', role: 'holders.role', person: 'holders.person', share: 'holders.share' } as const;
