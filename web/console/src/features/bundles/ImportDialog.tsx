import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';
import { documentName } from '../../shell/configurator/documentNames.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { FormDialog, stay } from '../../ui/FormDialog.tsx';
import { BundleList } from './BundleList.tsx';
import type { BundleImport, NamedFile } from './bundle.ts';
import { useBundleImport, type ImportedBundle } from './useBundleImport.ts';

interface ImportDialogProps {
  onClose: () => void;
  onTaken: (documents: readonly NamedFile[], from: string) => void;
}

/** A bundle is looked at, chosen from and taken into the drafts; everything that would come of it is said before. */
export function ImportDialog({ onClose, onTaken }: ImportDialogProps) {
  const bundle = useBundleImport(onTaken);
  const { report, known, count, problem, stuck } = bundle;
  const from = report?.bundle;
  const send = async () => {
    try {
      await bundle.send();
      return undefined;
    } catch (error) {
      bundle.refuse(error);
      return stay;
    }
  };
  return (
    <FormDialog
      title={say('importDialog.importABundle')}
      className="bundle"
      submit={known && count === 0 ? say('importDialog.nothingDiffers') : say('importDialog.takeMany', Math.max(1, count))}
      incomplete={!known || problem !== undefined || stuck || count === 0}
      problem={problem && <Refusal problem={problem} />}
      onSubmit={send}
      onClose={onClose}
    >
      <p>{say('importDialog.itsDocumentsBecomeDraftsAll')}</p>
      <input
        className="bt-input"
        type="file"
        accept=".zip,application/zip"
        aria-label={say('importDialog.theArchive')}
        autoFocus
        onChange={(event) => bundle.open(event.target.files?.[0])}
      />
      {from && (
        <>
          <p className="bundle-from">
            {from.release == null
              ? rich('importDialog.fromDrafts', <b>{from.from}</b>, moment(from.at))
              : rich('importDialog.fromRelease', <b>{from.from}</b>, from.release, moment(from.at))}
          </p>
          <BundleList bundle={bundle} />
          <Merging bundle={bundle} />
          <NewFindings bundle={bundle} />
        </>
      )}
    </FormDialog>
  );
}

const Refusal = ({ problem }: { problem: NonNullable<ImportedBundle['problem']> }) => (
  <>
    {problem.detail ?? problem.title}
    {problem.problems && problem.problems.length > 1 && (
      <ul>
        {problem.problems.map((part) => (
          <li key={part.pointer + part.message}>
            {part.pointer} {part.message}
          </li>
        ))}
      </ul>
    )}
  </>
);

/** Whether changes made here are merged with, and whose word counts where both changed the same. */
function Merging({ bundle: { choice, change, stuck } }: { bundle: ImportedBundle }) {
  const { merge, take } = choice;
  return (
    <div className="publish-how">
      <label>
        <input type="checkbox" checked={merge} onChange={(event) => change({ merge: event.target.checked })} />{' '}
        {say('importDialog.mergeWithChangesMadeHere')}
      </label>
      {merge && (stuck || take) && (
        <label>
          {say('importDialog.onConflictUse')}{' '}
          <select
            className="bt-input bt-select"
            value={take ?? ''}
            onChange={(event) => change({ take: (event.target.value || undefined) as BundleImport['conflictResolution'] })}
          >
            <option value="">{say('importDialog.stop')}</option>
            <option value="mine">{say('importDialog.theBundle')}</option>
            <option value="theirs">{say('importDialog.theDraft')}</option>
          </select>
        </label>
      )}
    </div>
  );
}

const severities = { error: 'severity.error', warning: 'severity.warning', advice: 'severity.advice' } as const;

/** What checks would find that they do not find now. */
function NewFindings({ bundle: { report } }: { bundle: ImportedBundle }) {
  const findings = report?.findings ?? [];
  if (findings.length === 0) return null;
  return (
    <div className="dialog-problem" data-tone={findings.some((each) => each.severity === 'error') ? undefined : 'mild'}>
      {say('importDialog.newFindings')}
      <ul>
        {findings.map((each, i) => (
          <li key={i}>
            <b>{say(severities[each.severity as 'error'])}</b>, {documentName(each)}: {each.message}
          </li>
        ))}
      </ul>
    </div>
  );
}
