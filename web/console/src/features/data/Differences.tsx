import { useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { address } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { NoticeBox, Problem } from '../../ui/Notice.tsx';

/** How the tables have become other ones than the entities over them say, and the act that brings the entities in line. */
export function Differences({ name, onRefreshed }: { name: string; onRefreshed: () => void }) {
  const path = { params: { path: { name } } };
  const { data: found, reload } = useAnswer(['databases', name, 'differences'], () =>
    answer(api.GET('/api/databases/{name}/differences', path)),
  );
  const [done, setDone] = useState<readonly string[]>();
  const [refusal, setRefusal] = useState<string>();
  const refresh = () =>
    answer(api.POST('/api/databases/{name}/refresh', path)).then(
      ({ changed }) => {
        setDone(changed);
        onRefreshed();
        void reload();
      },
      (error: Error) => setRefusal(error.message),
    );
  return (
    <>
      <Problem text={refusal} />
      {done && done.length > 0 && (
        <NoticeBox tone="good">
          {say('databases.inLine', done.join(', '))} <a href={address('releases')}>{say('databases.publishThem')}</a>
        </NoticeBox>
      )}
      {found && found.length > 0 && (
        <NoticeBox tone="bad">
          {say('databases.differs')}
          <ul>
            {found.map((each) => (
              <li key={`${each.entity} ${each.kind} ${each.column ?? ''}`}>
                <b>{each.entity}</b> {each.message}
              </li>
            ))}
          </ul>
          {found.some((each) => each.mended) && (
            <button type="button" className="button" onClick={() => void refresh()}>
              {say('databases.bringInLine')}
            </button>
          )}
        </NoticeBox>
      )}
    </>
  );
}
