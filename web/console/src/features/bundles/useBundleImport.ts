import { useEffect, useState } from 'react';
import { ApiError, type Problem, type ImportReport } from '../../api/client.ts';
import { nameOf } from '../../shell/configurator/documentNames.ts';
import { importBundle, type NamedFile, type BundleImport } from './bundle.ts';

/** For how long somebody is still choosing, in milliseconds. */
const choosing = 300;

/** What is to be imported of a bundle, and how. */
interface Choice {
  /** What is left out, by name. */
  left: ReadonlySet<string>;
  /** New keys, by name. */
  keys: ReadonlyMap<string, string>;
  merge: boolean;
  take: BundleImport['conflictResolution'];
}

const everything: Choice = { left: new Set(), keys: new Map(), merge: true, take: undefined };

/** What is asked of the service with a choice: all without naming any, or those selected. */
const askedOf = ({ keys, merge, take }: Choice, selected: readonly NamedFile[], of: number): BundleImport => ({
  only: selected.length === of ? [] : selected,
  keys: new Map([...keys].filter(([, key]) => key !== '')),
  merge,
  conflictResolution: take,
});

/** Another text for another question. */
const signatureOf = ({ keys, merge, take }: Choice, documents: readonly NamedFile[]) =>
  JSON.stringify([documents.map(nameOf), [...keys], merge, take]);

/** A bundle that is looked at: what is chosen of it, and what would come of that, asked for anew whenever the choice changes. */
export function useBundleImport(onImported: (documents: readonly NamedFile[], from: string) => void) {
  const [file, setFile] = useState<File>();
  const [choice, setChoice] = useState(everything);
  /** What would come of what was asked, and of which documents. */
  const [answered, setAnswered] = useState<{ report: ImportReport; of: readonly NamedFile[]; signature: string }>();
  const [refusal, setRefusal] = useState<{ problem: Problem; signature: string }>();
  const report = answered?.report;
  const all = report?.bundle?.documents ?? [];
  const selected = all.filter((each) => !choice.left.has(nameOf(each)));
  const asked = askedOf(choice, selected, all.length);
  // Whatever is chosen, what would come of it is asked for anew; the last answer counts.
  const none = report !== undefined && selected.length === 0;
  const signature = signatureOf(choice, selected);
  const known = answered?.signature === signature;
  const refuse = (error: unknown) => {
    if (!(error instanceof ApiError)) throw error;
    setRefusal({ problem: error.problem, signature });
  };
  useEffect(() => {
    if (!file || none || known) return undefined;
    let over = false;
    const arrived = (found: ImportReport) => {
      if (over) return;
      // At first everything is asked for, whatever that is.
      const of = report ? selected : found.bundle!.documents;
      setAnswered({ report: found, of, signature: signatureOf(choice, of) });
    };
    const failed = (error: unknown) => {
      if (!over) refuse(error);
    };
    const soon = setTimeout(() => void importBundle(file, asked, true).then(arrived, failed), report ? choosing : 0);
    return () => {
      over = true;
      clearTimeout(soon);
    };
    // What is asked is told by what was chosen, not by what was answered.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [file, none, signature]);
  const open = (chosen: File | undefined) => {
    setAnswered(undefined);
    setRefusal(undefined);
    setChoice({ ...everything, merge: choice.merge });
    setFile(chosen);
  };
  /** Imports what is chosen. */
  const send = async () => {
    if (!file) return;
    const { documents, bundle } = await importBundle(file, asked, false);
    onImported(
      documents.filter((each) => each.change !== 'unchanged'),
      bundle?.from ?? '',
    );
  };
  // Answers come in the order of the manifest.
  const outcome = new Map(answered?.of.map((each, i) => [nameOf(each), answered.report.documents[i]!]));
  const changes = selected.map((each) => outcome.get(nameOf(each))?.change);
  return {
    report,
    all,
    choice,
    change: (more: Partial<Choice>) => setChoice({ ...choice, ...more }),
    outcome,
    /** Whether what would come of the choice is known. */
    known,
    problem: refusal?.signature === signature ? refusal.problem : undefined,
    /** How many documents would be other ones. */
    count: changes.filter((each) => each !== 'unchanged').length,
    stuck: changes.includes('conflict'),
    open,
    send,
    refuse,
  };
}

export type ImportedBundle = ReturnType<typeof useBundleImport>;
