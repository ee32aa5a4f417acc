import type { EditorView } from '@codemirror/view';
import { useCallback, useEffect, useRef, useState } from 'react';
import { asProblem, changing, type Problem, type SaveResult } from '../../api/client.ts';
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
  const [dirty, setDirty] = useState(false);
  const [problem, setProblem] = useState<Problem>();
  const [comments, setComments] = useState(0);
  const address = `/api/layouts/${encodeURIComponent(layoutKey)}`;

  const read = useDraftText(address, revision);

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
    const { problem: found, comments: left } = await put(address, at.state.doc.toString(), read.revision);
    setComments(left);
    setProblem(found);
    markProblem(at, found);
    if (found) return;
    setDirty(false);
    onSaved();
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
        {problem && <Wrong problem={problem} />}
        {comments > 0 && <p role="status">{say('source.commentsAreNotKept', comments)}</p>}
        {moved && (
          <p className="property-wrong" role="status">
            {say('source.theFormWasChangedMeanwhile')}
          </p>
        )}
      </div>
      <Acts dirty={dirty} onLeave={leave} onSave={() => void save()} />
    </div>
  );
}

/** The draft as text, read anew with each revision. */
function useDraftText(address: string, revision: number) {
  const [read, setRead] = useState<{ text: string; revision: number }>();
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
  return read;
}

/** What is wrong with the text, as the service says it. */
function Wrong({ problem }: { problem: Problem }) {
  return (
    <p className="property-wrong" role="alert">
      {problem.detail ?? problem.title}
      {problem.problems?.map((part) => (
        <span key={part.message}>
          <br />
          {part.message}
        </span>
      ))}
    </p>
  );
}

/** Puts a text in the place of the draft; what is wrong with it, or how many comments it had, which a draft does not keep. */
async function put(address: string, text: string, revision: number): Promise<{ problem: Problem | undefined; comments: number }> {
  const response = await fetch(address, {
    method: 'PUT',
    body: text,
    headers: { ...changing(), 'Content-Type': 'application/yaml', 'If-Match': `"${revision}"` },
  });
  const said: unknown = await response.json();
  return response.ok
    ? { problem: undefined, comments: (said as SaveResult).comments }
    : { problem: asProblem(said, response), comments: 0 };
}

/** What is typed is left, or becomes the form. */
function Acts({ dirty, onLeave, onSave }: { dirty: boolean; onLeave: () => void; onSave: () => void }) {
  return (
    <div className="dialog-acts">
      <button type="button" className="tool" disabled={!dirty} onClick={onLeave}>
        {say('source.asItWas')}
      </button>
      <button type="button" className="tool primary" disabled={!dirty} title={say('source.ctrlEnter')} onClick={onSave}>
        {say('source.applyToTheForm')}
      </button>
    </div>
  );
}
