import { useEffect, useState } from 'react';
import type { Edit, PropertyValue, TreeNode } from '#layout';
import { answer, api } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

interface SharedPattern {
  key: string;
  label: string;
  pattern: string;
  message: Record<string, string> | null;
  passes: readonly string[];
  fails: readonly string[];
}

const wordsOf = (value: PropertyValue | undefined): string[] => (Array.isArray(value) ? value : []);
const lines = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

/**
 * A field's pattern with the samples kept with it, tried while it is written by the engine that checks on saving; and the library of
 * patterns to take one from.
 */
export function PatternProperty({
  id,
  node,
  name,
  onEdit,
}: {
  id: string;
  node: TreeNode;
  name: string;
  onEdit: (edits: Edit[], label: string) => void;
}) {
  const stored = {
    pattern: String(node.properties['pattern'] ?? ''),
    passes: wordsOf(node.properties['passes']).join('\n'),
    fails: wordsOf(node.properties['fails']).join('\n'),
  };
  const [typed, setTyped] = useState<Partial<typeof stored>>({});
  const [library, setLibrary] = useState<readonly SharedPattern[]>([]);
  const [tried, setTried] = useState<{ problem: string | null; matches: readonly boolean[] }>();
  const now = { ...stored, ...typed };
  const [pass, fail] = [lines(now.passes), lines(now.fails)];
  const question = JSON.stringify([now.pattern, ...pass, ...fail]);
  useEffect(() => {
    answer(api.GET('/api/patterns')).then(
      (found) => setLibrary(found as unknown as SharedPattern[]),
      () => undefined,
    );
  }, []);
  useEffect(() => {
    const [pattern, ...samples] = JSON.parse(question) as [string, ...string[]];
    if (!pattern) return;
    let left = false;
    const timer = setTimeout(
      () =>
        void answer(api.POST('/api/patterns/test', { body: { pattern, samples } })).then(
          (found) => {
            if (!left) setTried(found as unknown as typeof tried);
          },
          () => undefined,
        ),
      150,
    );
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [question]);
  const set = (property: string, value: PropertyValue | null): Edit => ({ op: 'set', node: node.id, property, value });
  const done = () => {
    const edits = (['pattern', 'passes', 'fails'] as const)
      .filter((each) => typed[each] !== undefined && typed[each] !== stored[each])
      .map((each) => set(each, each === 'pattern' ? now.pattern.trim() || null : lines(now[each]).length > 0 ? lines(now[each]) : null));
    if (edits.length > 0) onEdit(edits, say('patternProperty.patternOf', name));
    setTyped({});
  };
  const applyPattern = (shared: SharedPattern | undefined) => {
    if (!shared) return;
    onEdit(
      [
        set('pattern', shared.pattern),
        set('passes', [...shared.passes]),
        set('fails', [...shared.fails]),
        set(
          'patternMessage',
          shared.message && Object.keys(shared.message).length === 1 && '' in shared.message ? shared.message['']! : shared.message,
        ),
      ],
      say('patternProperty.patternOfFrom', name, shared.label),
    );
  };
  const samples =
    now.pattern && tried && !tried.problem && tried.matches.length === pass.length + fail.length
      ? [
          ...pass.map((text, i) => ({ text, good: tried.matches[i] })),
          ...fail.map((text, i) => ({ text, good: !tried.matches[pass.length + i] })),
        ]
      : [];
  const shared = { className: 'tool-input code', dir: 'ltr' as const, spellCheck: false, onBlur: done };
  return (
    <div className="pattern">
      <input
        id={id}
        type="text"
        {...shared}
        placeholder="[A-Z][0-9]{3}"
        value={now.pattern}
        aria-invalid={Boolean(now.pattern && tried?.problem)}
        onChange={(event) => setTyped({ ...typed, pattern: event.target.value })}
        onKeyDown={(event) => {
          if (event.key === 'Enter') done();
          else if (event.key === 'Escape') setTyped({});
        }}
      />
      {now.pattern && tried?.problem && (
        <p className="property-wrong" role="alert">
          {say('patternProperty.wrong', tried.problem)}
        </p>
      )}
      {library.length > 0 && (
        <select
          className="tool-input"
          aria-label={say('patternProperty.chooseAPatternFromThe')}
          value=""
          onChange={(event) => applyPattern(library.find((each) => each.key === event.target.value))}
        >
          <option value="">{say('patternProperty.fromTheLibrary')}</option>
          {library.map((each) => (
            <option key={each.key} value={each.key}>
              {each.label}
            </option>
          ))}
        </select>
      )}
      {now.pattern && (
        <>
          <label htmlFor={`${id}-passes`}>{say('patternProperty.mustMatchOneALine')}</label>
          <textarea
            id={`${id}-passes`}
            rows={2}
            {...shared}
            value={now.passes}
            onChange={(event) => setTyped({ ...typed, passes: event.target.value })}
          />
          <label htmlFor={`${id}-fails`}>{say('patternProperty.mustNotMatchOneA')}</label>
          <textarea
            id={`${id}-fails`}
            rows={2}
            {...shared}
            value={now.fails}
            onChange={(event) => setTyped({ ...typed, fails: event.target.value })}
          />
          <ul className="samples" aria-live="polite">
            {samples.map((sample, i) => (
              <li key={i} data-good={sample.good ? '' : undefined}>
                <span aria-hidden="true">{sample.good ? '✓' : '✗'}</span> <code>{sample.text}</code>{' '}
                {sample.good
                  ? say('patternProperty.isAsItMustBe')
                  : i < pass.length
                    ? say('patternProperty.doesNotMatch')
                    : say('patternProperty.matches')}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
