import { useState } from 'react';
import { answer, api, type DatabaseInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { Segments } from '../../ui/Segments.tsx';

interface ConnectionDialogProps {
  taken: readonly string[];
  /** The connection that is to lead elsewhere, or by another name and password. */
  changed?: DatabaseInfo | undefined;
  /** With the name of the connection that was set; with nothing where none was. */
  onClose: (name: string | undefined) => void;
}

type Kind = 'postgresql' | 'sqlite';

const fields = { postgresql: ['host', 'port', 'database', 'user', 'password'], sqlite: ['file'] } as const;

type Part = (typeof fields)[Kind][number];

/** Words of a connection string, by what is asked for. */
const words: Record<Part, string> = {
  host: 'Host',
  port: 'Port',
  database: 'Database',
  user: 'Username',
  password: 'Password',
  file: 'Data Source',
};

const needed: Record<Kind, readonly Part[]> = { postgresql: ['host', 'database'], sqlite: ['file'] };

/** A value between quotation marks, which connection strings read as it is. */
const quoted = (text: string) => (/[;'"=\s]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

const written = (kind: Kind, values: Partial<Record<Part, string>>) =>
  fields[kind].flatMap((part) => (values[part] ? `${words[part]}=${quoted(values[part])}` : [])).join(';');

/** What is known of a connection, without its secrets: a file, or host:port/database. */
function knownOf({ kind, address }: DatabaseInfo): Partial<Record<Part, string>> {
  if (kind === 'sqlite') return { file: address };
  const [, host = '', port = '', database = ''] = /^(.*?)(?::(\d+))?\/(.*)$/.exec(address) ?? [];
  return { host, port, database };
}

/** How a database is reached; it must answer before it is kept. */
export function ConnectionDialog({ taken, changed, onClose }: ConnectionDialogProps) {
  const [name, setName] = useState(changed?.name ?? '');
  const [kind, setKind] = useState<Kind>(changed?.kind === 'sqlite' ? 'sqlite' : 'postgresql');
  const [values, setValues] = useState(changed ? knownOf(changed) : { host: 'localhost', port: '5432' });
  const save = async () => {
    const body = { connection: written(kind, values) };
    await answer(api.PUT('/api/databases/{name}', { params: { path: { name } }, body }));
    return name;
  };
  return (
    <FormDialog
      title={changed ? say('databases.changeOf', changed.name) : say('databases.connect')}
      submit={say('databases.tryAndKeep')}
      incomplete={!name || needed[kind].some((part) => !values[part])}
      problem={!changed && taken.includes(name) ? say('databases.taken', name) : undefined}
      onSubmit={save}
      onClose={onClose}
    >
      {/* What it is called and of what kind it is, its entities are attached by. */}
      {!changed && <NameAndKind name={name} kind={kind} onName={setName} onKind={setKind} />}
      {fields[kind].map((part) => (
        <div key={part}>
          <label htmlFor={`connection-${part}`}>{say(`databases.${part}`)}</label>
          <input
            id={`connection-${part}`}
            className="bt-input"
            dir="ltr"
            type={part === 'password' ? 'password' : 'text'}
            inputMode={part === 'port' ? 'numeric' : undefined}
            autoComplete={part === 'password' ? 'new-password' : 'off'}
            spellCheck={false}
            value={values[part] ?? ''}
            onChange={(event) => setValues({ ...values, [part]: event.target.value })}
          />
        </div>
      ))}
      <p className="dialog-note">{say('databases.secret')}</p>
    </FormDialog>
  );
}

interface NameAndKindProps {
  name: string;
  kind: Kind;
  onName: (name: string) => void;
  onKind: (kind: Kind) => void;
}

function NameAndKind({ name, kind, onName, onKind }: NameAndKindProps) {
  return (
    <>
      <label htmlFor="connection-name">{say('databases.name')}</label>
      <input
        id="connection-name"
        className="bt-input"
        autoComplete="off"
        spellCheck={false}
        maxLength={40}
        value={name}
        // What a name may have; a space becomes the stroke people mean by it.
        onChange={(event) =>
          onName(
            event.target.value
              .replaceAll(' ', '-')
              .replace(/[^A-Za-z0-9_-]/g, '')
              .replace(/^[^A-Za-z]+/, ''),
          )
        }
      />
      <Segments
        id="connection-kind"
        label={say('databases.kind')}
        value={kind}
        options={[
          { key: 'postgresql', label: say('databases.postgresql') },
          { key: 'sqlite', label: say('databases.sqlite') },
        ]}
        onChange={onKind}
      />
    </>
  );
}
