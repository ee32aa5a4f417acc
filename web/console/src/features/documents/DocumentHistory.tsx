import { useState } from 'react';
import { answer, api, type DocumentChange, type DocumentHistory as History } from '../../api/client.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePeople } from '../../shell/people.ts';
import { useAnswer } from '../../shell/queries.ts';
import { Problem } from '../../ui/Notice.tsx';
import { SideDialog } from '../../ui/SideDialog.tsx';

/** How many words of a change are shown before they are asked for. */
const most = 8;

interface DocumentHistoryProps {
  kind: string;
  name: string;
  title: string;
  /** The revision shown; the history follows it. */
  revision: number;
  /** Whether it can be gone back to what it was, by who looks at it. */
  changes: boolean;
  onClose: () => void;
}

const changesOf = (kind: string, key: string, before?: number) =>
  answer(
    api.GET('/api/documents/{kind}/{key}/changes', { params: { path: { kind, key }, query: before === undefined ? {} : { before } } }),
  );

/** What was done to a document: how it differs from what everybody has, and each change in words, any of which can be gone back to. */
export function DocumentHistory({ kind, name, title, revision, changes: mayChange, onClose }: DocumentHistoryProps) {
  const { data } = useAnswer(['documents', 'changes', kind, name, revision], () => changesOf(kind, name));
  const [earlier, setEarlier] = useState<History>();
  const [problem, setProblem] = useState<string>();
  const changes = [...(data?.changes ?? []), ...(earlier?.changes ?? [])];
  const further = (earlier ?? data)?.earlier === true;
  const told = (error: Error) => setProblem(error.message);
  const more = () =>
    changesOf(kind, name, changes.at(-1)?.revision).then(
      (next) => setEarlier({ ...next, changes: [...(earlier?.changes ?? []), ...next.changes] }),
      told,
    );
  const back = (revision: number) =>
    answer(api.POST('/api/documents/{kind}/{key}/restore', { params: { path: { kind, key: name } }, body: { revision } })).then(
      () => setProblem(undefined),
      told,
    );
  return (
    <SideDialog
      title={say('documentHistory.title', title)}
      onClose={onClose}
      acts={
        <button type="button" className="button" onClick={onClose}>
          {say('common.close')}
        </button>
      }
    >
      <div className="document-history">
        <Problem text={problem} />
        {data && <Since history={data} />}
        <h3>{say('documentHistory.changes')}</h3>
        <ol>
          {changes.map((change) => (
            <Change
              key={change.revision}
              change={change}
              now={change.revision === data?.revision}
              onBack={mayChange ? () => void back(Number(change.revision)) : undefined}
            />
          ))}
        </ol>
        {further && (
          <button type="button" className="button" onClick={() => void more()}>
            {say('documentHistory.earlier')}
          </button>
        )}
      </div>
    </SideDialog>
  );
}

/** What everybody does not have of it yet. */
function Since({ history: { published, since } }: { history: History }) {
  if (published === null) return <p>{say('documentHistory.neverPublished')}</p>;
  if (!since || since.length === 0) return <p>{say('documentHistory.asPublished')}</p>;
  return (
    <>
      <h3>{say('documentHistory.since')}</h3>
      <Words words={since} />
    </>
  );
}

interface ChangeProps {
  change: DocumentChange;
  /** Whether it led to what it is now. */
  now: boolean;
  onBack: (() => void) | undefined;
}

function Change({ change: { revision, by, at, words }, now, onBack }: ChangeProps) {
  const people = usePeople();
  return (
    <li>
      <small>
        {people.name(by)}, <time dateTime={at}>{moment(at)}</time>
      </small>
      {words ? <Words words={words} /> : <p>{say(Number(revision) === 1 ? 'documentHistory.made' : 'documentHistory.wordsLost')}</p>}
      {now ? (
        <small>{say('documentHistory.now')}</small>
      ) : (
        onBack && (
          <button type="button" className="bt-link" onClick={onBack}>
            {say('documentHistory.back')}
          </button>
        )
      )}
    </li>
  );
}

/** Sentences, of very many those that fit and the rest on request. */
function Words({ words }: { words: readonly string[] }) {
  const [all, setAll] = useState(false);
  const shown = all ? words : words.slice(0, most);
  return (
    <ul>
      {shown.map((each, i) => (
        <li key={i} dir="auto">
          {each}
        </li>
      ))}
      {shown.length < words.length && (
        <li>
          <button type="button" className="bt-link" onClick={() => setAll(true)}>
            {say('documentHistory.more', words.length - shown.length)}
          </button>
        </li>
      )}
    </ul>
  );
}
