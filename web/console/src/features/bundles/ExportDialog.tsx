import { useState } from 'react';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { answer, api } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { documentName, nameOf } from '../../shell/configurator/documentNames.ts';
import { makeBundle, type NamedFile } from './bundle.ts';
import { say } from '../../shell/configurator/texts.ts';

/** Hands a file over to the browser's downloads. */
function save(file: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  // The browser reads it after this returns.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** Documents are chosen and taken away in one archive, for another installation. */
export function ExportDialog({ onClose }: { onClose: () => void }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [sought, setSought] = useState('');
  const [draft, setDraft] = useState(false);
  const [along, setAlong] = useState(true);
  const { data, problem } = useAnswer(['documents'], () => answer(api.GET('/api/documents')));
  // What is sought most often stands first; the rest as it comes, by kind.
  const all: readonly NamedFile[] = (data ?? []).toSorted((one, other) => Number(other.kind === 'layout') - Number(one.kind === 'layout'));
  const selected = all.filter((each) => chosen.has(nameOf(each)));
  const shown = all.filter((each) => documentName(each).toLowerCase().includes(sought.trim().toLowerCase()));
  const exportBundle = async () =>
    save(await makeBundle(selected, draft, !along), selected.length === 1 ? `${selected[0]!.key}.zip` : 'bright-tier.zip');
  return (
    <FormDialog
      title={say('exportDialog.exportABundle')}
      submit={say('exportDialog.export')}
      incomplete={selected.length === 0}
      problem={problem?.message}
      onSubmit={exportBundle}
      onClose={onClose}
    >
      <p>{say('exportDialog.anArchiveForAnotherInstallation')}</p>
      <input
        className="bt-input"
        type="search"
        aria-label={say('exportDialog.findADocument')}
        placeholder={say('exportDialog.findADocument')}
        autoFocus
        autoComplete="off"
        value={sought}
        onChange={(event) => setSought(event.target.value)}
      />
      <fieldset className="bundle-documents">
        <legend>{say('exportDialog.chosen', selected.length)}</legend>
        {shown.length === 0 && (
          <p className="bt-help">
            {all.length === 0 ? say('exportDialog.thereAreNone') : say('exportDialog.nothingIsCalled', sought.trim())}
          </p>
        )}
        {shown.map((each) => (
          <label key={nameOf(each)}>
            <input
              type="checkbox"
              checked={chosen.has(nameOf(each))}
              onChange={(event) =>
                setChosen(new Set(event.target.checked ? [...chosen, nameOf(each)] : [...chosen].filter((name) => name !== nameOf(each))))
              }
            />{' '}
            {documentName(each)}
          </label>
        ))}
      </fieldset>
      <div className="publish-how">
        <label>
          <input type="checkbox" checked={along} onChange={(event) => setAlong(event.target.checked)} />{' '}
          {say('exportDialog.includeDependencies')}
        </label>
        <label>
          <input type="checkbox" checked={draft} onChange={(event) => setDraft(event.target.checked)} />{' '}
          {say('exportDialog.exportDraftsInsteadOfWhat')}
        </label>
      </div>
    </FormDialog>
  );
}
