import { useState } from 'react';
import { answer, api, asProblem, changing, type DocumentSummary } from '../../api/client.ts';
import { documentName } from '../../shell/configurator/documentNames.ts';
import { useAnswer } from '../../shell/queries.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';
import { NoticeBox, Problem } from '../../ui/Notice.tsx';

const addressOf = ({ kind, key }: DocumentSummary) =>
  kind === 'layout' ? `/api/layouts/${encodeURIComponent(key)}` : `/api/documents/${kind}/${encodeURIComponent(key)}`;

const nameOf = ({ kind, key }: DocumentSummary) => `${kind[0]!.toUpperCase()}${kind.slice(1).replace('-', ' ')} ${key}`;

/** Sends a change by hand: one component stands for the calls of every kind of document. */
async function send(address: string, init: RequestInit): Promise<unknown> {
  const response = await fetch(address, { ...init, headers: { ...changing(), ...init.headers } });
  const body: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw new Error(asProblem(body, response).detail ?? say('damagedDocuments.itWasNotDone'));
  return body;
}

const none: DocumentSummary[] = [];

/**
 * Drafts that cannot be read: each with what is wrong and where, its text, and two ways back. Everything else goes on without them. Nothing
 * is drawn where there are none.
 */
export function DamagedDocuments({ mayChange, onMended }: { mayChange: boolean; onMended: () => void }) {
  const [told, setTold] = useState<string>();
  const { data: all = none, reload } = useAnswer(['documents'], () => answer(api.GET('/api/documents')));
  const damaged = all.filter((each) => each.damaged);
  const released = all.filter((each) => each.releaseDamaged);
  const reportRepair = (text: string) => {
    setTold(text);
    reload();
    onMended();
  };
  const notice = told ? <NoticeBox tone="good">{told}</NoticeBox> : null;
  if (damaged.length + released.length === 0) return notice;
  return (
    <section className="damaged" aria-labelledby="damaged-heading">
      <h2 id="damaged-heading">{say('damagedDocuments.damagedDocuments')}</h2>
      {damaged.length > 0 && <p>{say('damagedDocuments.drafts', damaged.length)}</p>}
      {notice}
      {damaged.map((each) => (
        <Damaged key={`${each.kind}/${each.key}`} document={each} mayChange={mayChange} onMended={reportRepair} />
      ))}
      {released.map((each) => (
        <p key={`${each.kind}/${each.key}`}>{rich('damagedDocuments.released', <strong>{nameOf(each)}</strong>, each.releaseDamaged)}</p>
      ))}
    </section>
  );
}

function Damaged({ document, mayChange, onMended }: { document: DocumentSummary; mayChange: boolean; onMended: (told: string) => void }) {
  const [text, setText] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const name = documentName(document);
  const address = addressOf(document);
  const open = () => {
    if (text !== undefined) return;
    void fetch(address, { headers: { Accept: 'application/yaml' } }).then(
      async (response) => setText(await response.text()),
      () => setProblem(say('damagedDocuments.theTextCannotBeLoaded')),
    );
  };
  const act = (doing: Promise<string>) => {
    setBusy(true);
    setProblem(undefined);
    doing.then(onMended, (error: Error) => setProblem(error.message)).finally(() => setBusy(false));
  };
  const recover = () =>
    act(
      send(`${address}/recover`, { method: 'POST' }).then((done) =>
        say('damagedDocuments.theHasItsTextOf', name, (done as { from: string }).from),
      ),
    );
  const save = () =>
    act(
      send(address, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/yaml', 'If-Match': `"${document.revision}"` },
        body: text ?? '',
      }).then(() => say('damagedDocuments.theWasSavedAndCan', name)),
    );
  const id = `damaged-${document.kind}-${document.key}`;
  return (
    <details className="damaged-draft" onToggle={open}>
      <summary>
        <strong>{nameOf(document)}</strong> <span>{document.damaged}</span>
      </summary>
      <label htmlFor={id}>{say('damagedDocuments.textAsItIsStored')}</label>
      <textarea
        id={id}
        rows={12}
        spellCheck={false}
        dir="ltr"
        value={text ?? ''}
        readOnly={!mayChange || text === undefined}
        onChange={(event) => setText(event.target.value)}
      />
      <Problem text={problem} />
      {mayChange && (
        <p className="damaged-acts">
          <button type="button" className="button primary" disabled={busy} onClick={recover}>
            {say('damagedDocuments.recoverLastReadableVersion')}
          </button>
          <button type="button" className="button" disabled={busy || text === undefined} onClick={save}>
            {say('damagedDocuments.saveCorrectedText')}
          </button>
        </p>
      )}
    </details>
  );
}
