import { autocompletion, completeFromList } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import { bracketMatching, HighlightStyle, indentOnInput, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import type { Problem } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

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

/**
 * An editor of a layout's text.
 * @param words offered while one types
 */
export function sourceEditor(frame: HTMLElement, words: string[], on: { onApply: () => void; onTyped: () => void }): EditorView {
  // In a shadow root the editor's styles are sheets of their own, which a strict content security policy lets be.
  const root = frame.shadowRoot ?? frame.attachShadow({ mode: 'open' });
  return new EditorView({
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
              on.onApply();
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
            on.onTyped();
        }),
      ],
    }),
  });
}

/** Shows where a part stands that is selected on the sheet. */
export function showPart(editor: EditorView, id: string): void {
  const text = editor.state.doc.toString();
  const found = new RegExp(`^.*(?:\\bid: ${id}\\b|\\bfield: ${id}\\b|[[ ,]${id}[\\]/,}]|title:.*\\b${id}\\b).*$`, 'm').exec(text);
  if (found) editor.dispatch({ selection: { anchor: found.index }, effects: EditorView.scrollIntoView(found.index, { y: 'center' }) });
}

/** Marks the lines something is wrong with, and goes to the first; without a problem takes the marks away. */
export function markProblem(editor: EditorView, problem: Problem | undefined): void {
  const { doc } = editor.state;
  const marks = (problem?.problems ?? []).flatMap((part): Diagnostic[] => {
    const line = (part as { line?: number | null }).line;
    if (!line || line > doc.lines) return [];
    const { from, to } = doc.line(line);
    return [{ from, to, severity: 'error', message: part.message }];
  });
  editor.dispatch(setDiagnostics(editor.state, marks));
  if (marks[0]) editor.dispatch({ selection: { anchor: marks[0].from }, scrollIntoView: true });
}
