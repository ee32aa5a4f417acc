import type { EditorView } from '@codemirror/view';
import { useCallback, useEffect, useRef, useState } from 'react';
import { asProblem, changing, type Problem } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { markProblem, showPart, sourceEditor } from './sourceEditor.ts';

interface SourceProps {
  layoutKey: string;
  revision: number;
  /** What is selected on the sheet is shown in the text too. */
  selected: string | undefined;
  /** Words to offer while typing: fields and properties. */
  words: string[];
  onSaved: () => void;
}

/** The layout as text, as it is pulled and pushed: changed here it changes on the sheet, and the other way round. */
export function Source({ layoutKey, revision, selected, words, onSaved }: SourceProps) {
  const frame = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  const [read, setRead] = useState<{ text: string; revision: number }>();
  const [dirty, setDirty] = useState(false);
  const [problem, setProblem] = useState<Problem>();
  const address = `/api/layouts/${encodeURIComponent(layoutKey)}`;

  useEffect(() => {
    let left = false;
    fetch(address, { headers: { Accept: 'application/yaml' } }).then(
      async (response) => {
        const text = await response.text();
        if (!left && response.ok) setRead({ text, revision });
      },
      () => undefined,
    );
    return () => {
      left = true;
    };
  }, [address, revision]);

  const apply = useRef<() => void>(() => undefined);
  useEffect(() => {
    if (!frame.current) return undefined;
    const editor = sourceEditor(frame.current, words, {
      onApply: () => apply.current(),
      onTyped: () => setDirty(true),
    });
    view.current = editor;
    return () => editor.destroy();
  }, [words]);

  // A newer draft comes into the text unless something typed here is waiting.
  useEffect(() => {
    const at = view.current;
    if (!at || !read || dirty || at.state.doc.toString() === read.text) return;
    at.dispatch({ changes: { from: 0, to: at.state.doc.length, insert: read.text } });
  }, [read, dirty, words]);
  useEffect(() => {
    const at = view.current;
    if (!at || !selected || dirty) return;
    showPart(at, selected);
  }, [selected, read, dirty]);

  const save = useCallback(async () => {
    const at = view.current;
    if (!at || !read) return;
    const response = await fetch(address, {
      method: 'PUT',
      body: at.state.doc.toString(),
      headers: { ...changing(), 'Content-Type': 'application/yaml', 'If-Match': `"${read.revision}"` },
    });
    if (response.ok) {
      setProblem(undefined);
      setDirty(false);
      markProblem(at, undefined);
      onSaved();
      return;
    }
    const found = asProblem(await response.json(), response);
    setProblem(found);
    markProblem(at, found);
  }, [address, read, onSaved]);
  useEffect(() => {
    apply.current = () => void save();
  }, [save]);

  const leave = () => {
    setDirty(false);
    setProblem(undefined);
    if (view.current) markProblem(view.current, undefined);
  };
  const moved = dirty && read !== undefined && read.revision !== revision;
  return (
    <div className="source">
      <div ref={frame} onKeyDown={(event) => event.stopPropagation()} />
      <div>
        {problem && (
          <p className="property-wrong" role="alert">
            {problem.detail ?? problem.title}
            {problem.problems?.map((part) => (
              <span key={part.message}>
                <br />
                {part.message}
              </span>
            ))}
          </p>
        )}
        {moved && (
          <p className="property-wrong" role="status">
            {say('source.theFormWasChangedMeanwhile')}
          </p>
        )}
      </div>
      <div className="dialog-acts">
        <button type="button" className="tool" disabled={!dirty} onClick={leave}>
          {say('source.asItWas')}
        </button>
        <button type="button" className="tool primary" disabled={!dirty} title={say('source.ctrlEnter')} onClick={() => void save()}>
          {say('source.applyToTheForm')}
        </button>
      </div>
    </div>
  );
}
