import { autocompletion, completeFromList } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import { bracketMatching, HighlightStyle, indentOnInput, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useCallback, useEffect, useRef, useState } from 'react';
import { asProblem, changing, type Problem } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

interface SourceProps {
  layoutKey: string;
  revision: number;
  /** What is selected on the sheet is shown in the text too. */
  selected: string | undefined;
  /** Words to offer while typing: fields and properties. */
  words: string[];
  onSaved: () => void;
}

const theme = EditorView.theme({
  '&': {
    height: '100%',
    fontSize: '13px',
    color: 'var(--ink)',
    backgroundColor: 'var(--field)',
    border: '1px solid var(--line-strong)',
    borderRadius: '5px',
  },
  '.cm-scroller': { fontFamily: "ui-monospace, 'DejaVu Sans Mono', monospace" },
  '.cm-content': { caretColor: 'var(--ink)' },
  '.cm-gutters': { backgroundColor: 'var(--paper-sunk)', color: 'var(--ink-soft)', border: 'none' },
  '.cm-tooltip': { backgroundColor: 'var(--paper-raised)', color: 'var(--ink)' },
});

/** The theme's own colours, readable in light and dark. */
const colours = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--cool)' },
  { tag: [tags.string, tags.special(tags.string)], color: 'var(--lamp-ink)' },
  { tag: tags.comment, color: 'var(--ink-soft)' },
]);

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
    // In a shadow root the editor's styles are sheets of their own, which a strict content security policy lets be.
    const root = frame.current.shadowRoot ?? frame.current.attachShadow({ mode: 'open' });
    const editor = new EditorView({
      parent: root,
      root,
      state: EditorState.create({
        extensions: [
          theme,
          lineNumbers(),
          history(),
          indentOnInput(),
          bracketMatching(),
          syntaxHighlighting(colours),
          yaml(),
          lintGutter(),
          EditorView.lineWrapping,
          autocompletion({ override: [completeFromList(words)] }),
          keymap.of([
            {
              key: 'Mod-Enter',
              run: () => {
                apply.current();
                return true;
              },
            },
            ...defaultKeymap,
            ...historyKeymap,
          ]),
          EditorView.contentAttributes.of({ 'aria-label': say('pane.source'), spellcheck: 'false', tabindex: '0' }),
          EditorView.updateListener.of((update) => {
            if (
              update.docChanged &&
              update.transactions.some(
                (each) => each.isUserEvent('input') || each.isUserEvent('delete') || each.isUserEvent('undo') || each.isUserEvent('redo'),
              )
            )
              setDirty(true);
          }),
        ],
      }),
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
    const text = at.state.doc.toString();
    const found = new RegExp(
      `^.*(?:\\bid: ${selected}\\b|\\bfield: ${selected}\\b|[[ ,]${selected}[\\]/,}]|title:.*\\b${selected}\\b).*$`,
      'm',
    ).exec(text);
    if (found) at.dispatch({ selection: { anchor: found.index }, effects: EditorView.scrollIntoView(found.index, { y: 'center' }) });
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
      at.dispatch(setDiagnostics(at.state, []));
      onSaved();
      return;
    }
    const found = asProblem(await response.json(), response);
    setProblem(found);
    const marks = (found.problems ?? []).flatMap((part): Diagnostic[] => {
      const line = (part as { line?: number | null }).line;
      if (!line || line > at.state.doc.lines) return [];
      const { from, to } = at.state.doc.line(line);
      return [{ from, to, severity: 'error', message: part.message }];
    });
    at.dispatch(setDiagnostics(at.state, marks));
    if (marks[0]) at.dispatch({ selection: { anchor: marks[0].from }, scrollIntoView: true });
  }, [address, read, onSaved]);
  useEffect(() => {
    apply.current = () => void save();
  }, [save]);

  const leave = () => {
    setDirty(false);
    setProblem(undefined);
    if (view.current) view.current.dispatch(setDiagnostics(view.current.state, []));
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
