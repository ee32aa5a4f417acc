import { useState } from 'react';
import type { Edit, PropertyValue, TreeNode } from '#layout';
import { answer, api } from '../../api/client.ts';
import { Select } from '../../ui/Select.tsx';
import { useAnswer } from '../../shell/queries.ts';
import { say } from '../../shell/configurator/texts.ts';
import { PatternSamples, usePatternTrial } from '../documents/index.ts';

interface SharedPattern {
  key: string;
  label: string;
  pattern: string;
  message: Record<string, string> | null;
  passes: readonly string[];
  fails: readonly string[];
}

const wordsOf = (value: PropertyValue | undefined): string[] => (Array.isArray(value) ? value : []);
const orNothing = (all: string[]) => (all.length > 0 ? all : null);
const lines = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

interface PatternPropertyProps {
  id: string;
  node: TreeNode;
  name: string;
  onEdit: (edits: Edit[], label: string) => void;
}

/**
 * A field's pattern with the samples kept with it, tried while it is written by the engine that checks on saving; and the library of
 * patterns to take one from.
 */
export function PatternProperty({ id, node, name, onEdit }: PatternPropertyProps) {
  const stored = {
    pattern: String(node.properties['pattern'] ?? ''),
    passes: wordsOf(node.properties['passes']).join('\n'),
    fails: wordsOf(node.properties['fails']).join('\n'),
  };
  const [typed, setTyped] = useState<Partial<typeof stored>>({});
  const now = { ...stored, ...typed };
  const [pass, fail] = [lines(now.passes), lines(now.fails)];
  const tried = usePatternTrial(now.pattern, pass, fail);
  const set = (property: string, value: PropertyValue | null): Edit => ({ op: 'set', node: node.id, property, value });
  const done = () => {
    const edits = (['pattern', 'passes', 'fails'] as const)
      .filter((each) => typed[each] !== undefined && typed[each] !== stored[each])
      .map((each) => set(each, each === 'pattern' ? now.pattern.trim() || null : orNothing(lines(now[each]))));
    if (edits.length > 0) onEdit(edits, say('patternProperty.patternOf', name));
    setTyped({});
  };
  const applyPattern = (chosen: SharedPattern) =>
    onEdit(
      propertiesOf(chosen).map(([property, value]) => set(property, value)),
      say('patternProperty.patternOfFrom', name, chosen.label),
    );
  const shared = { className: 'tool-input code', dir: 'ltr' as const, spellCheck: false, onBlur: done };
  const samples = (of: 'passes' | 'fails') => (
    <SampleLines id={`${id}-${of}`} of={of} value={now[of]} shared={shared} onChange={(text) => setTyped({ ...typed, [of]: text })} />
  );
  return (
    <div className="pattern">
      <PatternLibrary onChoose={applyPattern} />
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
      {now.pattern && (
        <>
          {samples('passes')}
          {samples('fails')}
          <PatternSamples pass={pass} fail={fail} matches={tried?.problem ? undefined : tried?.matches} />
        </>
      )}
    </div>
  );
}

/** The library of patterns to take one from. */
function PatternLibrary({ onChoose }: { onChoose: (pattern: SharedPattern) => void }) {
  const { data = [] } = useAnswer(['documents', 'patterns'], () => answer(api.GET('/api/patterns')));
  const library = data as unknown as SharedPattern[];
  if (library.length === 0) return null;
  return (
    <Select
      className="tool-input"
      label={say('patternProperty.chooseAPatternFromThe')}
      value=""
      options={[{ key: '', label: say('patternProperty.fromTheLibrary') }, ...library]}
      onChange={(key) => {
        const chosen = library.find((each) => each.key === key);
        if (chosen) onChoose(chosen);
      }}
    />
  );
}

/** What a field takes from a pattern of the library. A message in one language for all is a text. */
function propertiesOf({ pattern, passes, fails, message }: SharedPattern): [string, PropertyValue | null][] {
  const plain = message && Object.keys(message).length === 1 ? message[''] : undefined;
  return [
    ['pattern', pattern],
    ['passes', [...passes]],
    ['fails', [...fails]],
    ['patternMessage', plain ?? message],
  ];
}

interface SampleLinesProps {
  id: string;
  of: 'passes' | 'fails';
  value: string;
  shared: React.TextareaHTMLAttributes<HTMLTextAreaElement>;
  onChange: (text: string) => void;
}

/** What a pattern must match, or must not, one a line. */
function SampleLines({ id, of, value, shared, onChange }: SampleLinesProps) {
  return (
    <>
      <label htmlFor={id}>{say(of === 'passes' ? 'patternProperty.mustMatchOneALine' : 'patternProperty.mustNotMatchOneA')}</label>
      <textarea id={id} rows={2} {...shared} value={value} onChange={(event) => onChange(event.target.value)} />
    </>
  );
}
