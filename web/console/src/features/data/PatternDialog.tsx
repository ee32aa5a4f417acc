import { useEffect, useState } from 'react';
import { putDocument, readDocument } from '../../api/documents.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { textIn, withText, type LocalText } from '../../shell/localTexts.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PatternSamples, usePatternTrial } from '../documents/index.ts';

interface PatternFile {
  kind: 'pattern';
  key: string;
  label: LocalText;
  pattern: string;
  message?: LocalText | undefined;
  samples?: { pass?: string[]; fail?: string[] };
}

interface PatternDialogProps {
  /** The key of the pattern that is changed; nothing for a new one. */
  pattern: string | undefined;
  taken: readonly string[];
  onClose: () => void;
}

const none: PatternFile = { kind: 'pattern', key: '', label: '', pattern: '' };

const lines = (text: string) => [...new Set(text.split('\n').flatMap((line) => line.trim() || []))];

/** A pattern as it is written: what it is called, what it asks for, what is said where that is missing, and samples tried at once. */
export function PatternDialog({ pattern, taken, onClose }: PatternDialogProps) {
  const { language, application } = useSession();
  const [stored, setStored] = useState<{ value: PatternFile; revision: number } | undefined>(
    pattern === undefined ? { value: none, revision: 0 } : undefined,
  );
  const [problem, setProblem] = useState<string>();
  const [typed, setTyped] = useState<Partial<Record<'label' | 'pattern' | 'message' | 'pass' | 'fail', string>>>({});
  useEffect(() => {
    if (pattern !== undefined) readDocument<PatternFile>('pattern', pattern).then(setStored, (error: Error) => setProblem(error.message));
  }, [pattern]);
  const file = stored?.value ?? none;
  const now = {
    label: textIn(file.label, language),
    pattern: file.pattern,
    message: textIn(file.message, language),
    pass: (file.samples?.pass ?? []).join('\n'),
    fail: (file.samples?.fail ?? []).join('\n'),
    ...typed,
  };
  const [pass, fail] = [lines(now.pass), lines(now.fail)];
  const tried = usePatternTrial(now.pattern, pass, fail);
  const text = (of: LocalText | undefined, next: string) => withText(of, next.trim(), language, [...application.languages]) ?? undefined;
  const save = async () => {
    const key = file.key || keyOf(now.label, taken);
    const label = text(file.key ? file.label : undefined, now.label) ?? key;
    const samples = pass.length + fail.length > 0 ? { samples: { pass, fail } } : {};
    const next = { ...file, key, label, pattern: now.pattern.trim(), message: text(file.message, now.message), ...samples };
    await putDocument('pattern', key, next, stored?.revision ?? 0);
  };
  const input = (name: keyof typeof now, label: string, code = false, long = false) => {
    const shared = {
      id: `pattern-${name}`,
      className: code ? 'bt-input code' : 'bt-input',
      dir: code ? ('ltr' as const) : ('auto' as const),
      spellCheck: !code,
      value: now[name],
      onChange: (event: { target: { value: string } }) => setTyped({ ...typed, [name]: event.target.value }),
    };
    return (
      <>
        <label htmlFor={shared.id}>{label}</label>
        {long ? <textarea rows={3} {...shared} /> : <input type="text" autoComplete="off" {...shared} />}
      </>
    );
  };
  return (
    <FormDialog
      title={pattern === undefined ? say('data.newPattern') : now.label}
      submit={say('common.save')}
      incomplete={!stored || !now.label.trim() || !now.pattern.trim() || Boolean(tried?.problem)}
      problem={problem ?? (now.pattern && tried?.problem ? say('patternProperty.wrong', tried.problem) : undefined)}
      onSubmit={save}
      onClose={onClose}
    >
      {input('label', say('common.name'))}
      {input('pattern', say('data.mustLookLike'), true)}
      {input('message', say('data.patternMessage'))}
      {input('pass', say('patternProperty.mustMatchOneALine'), true, true)}
      {input('fail', say('patternProperty.mustNotMatchOneA'), true, true)}
      <PatternSamples pass={pass} fail={fail} matches={tried?.problem ? undefined : tried?.matches} />
    </FormDialog>
  );
}
