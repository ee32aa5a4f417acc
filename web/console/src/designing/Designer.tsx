import { FormStore, pageOf, type Values } from '#form';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { answer, api, type EntityInfo, type RecordInfo, type RecordName } from '../api/client.ts';
import { address } from '../shell/location.ts';
import { may, surroundings, useSession } from '../shell/session.tsx';
import { Canvas } from './Canvas.tsx';
import './designer.css';
import { NameDialog, namedBy } from './NameDialog.tsx';
import { Outline } from './Outline.tsx';
import { Palette } from './Palette.tsx';
import { describe, places, removal, step, type Place, type Subject } from './placing.ts';
import { Properties } from './Properties.tsx';
import { PublishDialog } from './PublishDialog.tsx';
import { find, nameOf as nameOfNode, parentOf, walk, type Edit, type TreeNode } from './tree.ts';
import { useDraft, usePreview, type Eyes } from './useDraft.ts';

const directions: Record<string, 'up' | 'down' | 'left' | 'right'> = { ArrowUp: 'up', ArrowDown: 'down', ArrowLeft: 'left', ArrowRight: 'right' };

/** The place where a form is laid out: what can be placed at the left, the form itself, what is selected at the right, findings below. */
export function Designer({ layoutKey }: { layoutKey: string; section: string | undefined }) {
  const session = useSession();
  const { draft, message, undoLabel, redoLabel, apply, undo, redo, say, refresh } = useDraft(layoutKey);
  const [eyes, setEyes] = useState<Eyes>({ role: '', mode: 'edit', language: session.person!.language, record: undefined, width: Math.min(960, Math.max(320, window.innerWidth - 614)), showHidden: true });
  const [entity, setEntity] = useState<EntityInfo>();
  const [names, setNames] = useState<RecordName[]>([]);
  const [record, setRecord] = useState<RecordInfo>();
  const [selected, setSelected] = useState<string>();
  const [page, setPage] = useState<string>();
  const [trying, setTrying] = useState(false);
  const [publishing, setPublishing] = useState(false);
  const [placing, setPlacing] = useState<{ subject: Subject; places: Place[]; at: number }>();
  const [naming, setNaming] = useState<{ part: string; answer: (name: string | undefined) => void }>();
  const [left, setLeft] = useState<'fields' | 'outline'>('fields');
  const root = useRef<HTMLDivElement>(null);
  const form = usePreview(draft, { ...eyes, showHidden: eyes.showHidden && !trying });

  useEffect(() => {
    if (!draft?.entity) return;
    const path = { key: draft.entity };
    answer(api.GET('/api/entities/{key}', { params: { path, query: { draft: true } } })).then(setEntity, () => undefined);
    answer(api.GET('/api/records/{entity}/look-up', { params: { path: { entity: draft.entity }, query: { limit: 50 } } })).then((found) => {
      setNames(found);
      setEyes((before) => ({ ...before, record: before.record ?? found[0]?.id }));
    }, () => undefined);
  }, [draft?.entity]);
  useEffect(() => {
    if (!draft?.entity || eyes.record === undefined) return;
    answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity: draft.entity, id: eyes.record } } })).then(setRecord, () => undefined);
  }, [draft?.entity, eyes.record]);

  const showing = eyes.mode === 'create' ? undefined : record;
  const store = useMemo(() => {
    if (!form) return undefined;
    // What users can open beside a form is drawn here too, and does nothing.
    const asSeen = { ...surroundings(session), open: () => undefined, create: () => Promise.resolve(undefined), ...(eyes.role ? { roles: [eyes.role] } : {}) };
    return new FormStore(form, (showing?.values ?? {}) as Values, showing?.references ?? {}, asSeen, { showHidden: eyes.showHidden && !trying });
  }, [form, showing, session, eyes.role, eyes.showHidden, trying]);

  const labels = useMemo(() => new Map(entity?.fields.map((field) => [field.key, field.label])), [entity]);
  const tree = draft?.tree;
  const nameOf = useCallback((id: string) => {
    const node = tree && find(tree, id);
    return node ? nameOfNode(node, labels, eyes.language) : id;
  }, [tree, labels, eyes.language]);

  const select = (id: string | undefined) => {
    setSelected(id);
    const on = id && form ? (form.pages.some((each) => each.id === id) ? id : pageOf(form.pages, id)) : undefined;
    if (on) setPage(on);
  };
  const change = async (edits: Edit[], label: string) => {
    const done = await apply(edits, label);
    const inserted = done?.findLast((edit) => edit.op === 'insert');
    return { done, inserted: inserted?.op === 'insert' ? inserted.node.id : undefined };
  };
  const place = async (chosen: Place, subject: Subject) => {
    setPlacing(undefined);
    const property = 'part' in subject ? namedBy(subject.part) : undefined;
    const name = property && 'part' in subject ? await new Promise<string | undefined>((answer) => setNaming({ part: subject.part, answer })) : undefined;
    setNaming(undefined);
    if (property && !name) return;
    const named = property && name ? { [property]: name } : undefined;
    const edits = named ? chosen.edits.map((edit) => (edit.op === 'insert' && edit.node.kind === ('part' in subject ? subject.part : '') ? { ...edit, node: { ...edit.node, properties: { ...edit.node.properties, ...named } } } : edit)) : chosen.edits;
    const what = 'field' in subject ? (labels.get(subject.field) ?? subject.field) : 'part' in subject ? subject.part : nameOf(subject.node);
    const { done, inserted } = await change(edits, `${'node' in subject ? 'Move' : 'Place'} ${what} ${describe(chosen, nameOf)}`);
    if (!done) return;
    const made = 'node' in subject ? subject.node : done.filter((edit) => edit.op === 'insert').flatMap((edit) => [...walk(edit.node as TreeNode)]).findLast((node) => ('field' in subject ? node.kind === 'field' : node.kind === subject.part))?.id;
    // What somebody selected while the answer was on its way stays selected.
    setSelected((now) => (now === selected ? (made ?? inserted ?? now) : now));
  };
  const remove = (id: string) => {
    if (!tree) return;
    const next = parentOf(tree, id);
    void change(removal(tree, id), `Take ${nameOf(id)} off`);
    setSelected(next && next.kind !== 'cell' && next.kind !== 'row' ? next.id : undefined);
  };
  const start = (subject: Subject) => {
    if (!tree) return;
    const legal = places(tree, subject);
    if (legal.length === 0) return say('There is no place for it.', true);
    setPlacing({ subject, places: legal, at: Math.max(0, legal.findIndex((each) => each.target === selected)) });
    root.current?.querySelector<HTMLElement>('.canvas-layer')?.focus();
  };
  const current = placing?.places[placing.at];
  const showPlace = (at: number) => {
    if (!placing || !tree || !form) return;
    const next = placing.places[(at + placing.places.length) % placing.places.length]!;
    setPlacing({ ...placing, at: placing.places.indexOf(next) });
    const onto = [...walk(tree)].filter((node) => node.kind === 'page').find((each) => [...walk(each)].some((node) => node.id === next.target));
    if (onto && onto.id !== next.target) setPage(onto.id);
  };

  const onCanvasKey = (event: React.KeyboardEvent) => {
    if (!tree) return;
    if (event.key === 'Tab' && event.shiftKey) {
      // Behind the sheet lie the form's own inputs, which are not for designing.
      event.preventDefault();
      [...(root.current?.querySelectorAll<HTMLElement>('.eyes :is(select, input)') ?? [])].at(-1)?.focus();
      return;
    }
    const direction = directions[event.key];
    const handled = (act: () => void) => {
      event.preventDefault();
      event.stopPropagation();
      act();
    };
    if (placing && current) {
      if (direction) handled(() => showPlace(placing.at + (direction === 'down' || direction === 'right' ? 1 : -1)));
      else if (event.key === 'Enter') handled(() => void place(current, placing.subject));
      else if (event.key === 'Escape') handled(() => setPlacing(undefined));
      return;
    }
    if (direction && event.altKey && selected) handled(() => {
      const edits = step(tree, selected, direction);
      if (edits.length > 0) void change(edits, `Move ${nameOf(selected)} ${direction}`);
    });
    else if (direction) handled(() => walkTo(direction));
    else if (event.key === 'Delete' && selected) handled(() => remove(selected));
    else if (event.key === 'm' && selected) handled(() => start({ node: selected }));
    else if (event.key === 'Escape' && selected) handled(() => select([...walkUp(tree, selected)].find((node) => ['section', 'page'].includes(node.kind))?.id));
    else if (event.key === 'Enter' && selected) handled(() => root.current?.querySelector<HTMLElement>('.properties :is(input, textarea, select)')?.focus());
  };
  /** Arrows walk what is drawn, in reading order. */
  const walkTo = (direction: string) => {
    const drawn = [...(root.current?.querySelectorAll<HTMLElement>('.canvas :is(.bt-band, .bt-section, .bt-item)[data-node]') ?? [])].map((element) => element.dataset['node']!);
    const at = selected ? drawn.indexOf(selected) : -1;
    const next = drawn[Math.min(drawn.length - 1, Math.max(0, at + (direction === 'down' || direction === 'right' ? 1 : -1)))];
    if (next) select(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const command = event.ctrlKey || event.metaKey;
    const typing = (event.target as HTMLElement).matches('input, textarea, select');
    if (event.key === 'F6') {
      event.preventDefault();
      const panes = [...(root.current?.querySelectorAll<HTMLElement>('[data-pane]') ?? [])];
      const at = panes.findIndex((pane) => pane.contains(document.activeElement));
      const pane = panes[(at + (event.shiftKey ? panes.length - 1 : 1)) % panes.length];
      (pane?.querySelector<HTMLElement>('.canvas-layer') ?? pane?.querySelector<HTMLElement>('a, button:not(:disabled), input, select, summary, [tabindex="0"]'))?.focus();
    } else if (command && !typing && event.key.toLowerCase() === 'z') {
      event.preventDefault();
      (event.shiftKey ? redo : undo)();
    } else if (command && !typing && event.key.toLowerCase() === 'y') {
      event.preventDefault();
      redo();
    }
  };

  // On the window, since right after opening nothing in the designer has the focus yet.
  const keys = useRef(onKeyDown);
  useEffect(() => {
    keys.current = onKeyDown;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => keys.current(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);

  if (!draft || !tree) return <main className="page">{message ? <p className="notice" role="alert">{message.text} <a href={address('layouts')}>Back to the layouts</a></p> : null}</main>;
  const title = nameOfLayout(tree, eyes.language);
  const node = selected ? find(tree, selected) : undefined;
  const unpublished = draft.published !== draft.revision;
  return (
    <div className="designer" ref={root}>
      <header className="designer-bar" data-pane>
        <a className="tool" href={address('records', draft.entity)}>← Leave</a>
        <p className="changing">You are changing <b>{title} form, base</b><span>{draft.published === null ? 'never published' : unpublished ? `${draft.revision - draft.published} ${draft.revision - draft.published === 1 ? 'change' : 'changes'} not published` : 'as published'}</span></p>
        <span className="bar-space" />
        <button type="button" className="tool" disabled={!undoLabel} title={undoLabel ? `Undo: ${undoLabel} (Ctrl+Z)` : 'Nothing to undo'} onClick={undo}>Undo</button>
        <button type="button" className="tool" disabled={!redoLabel} title={redoLabel ? `Do again: ${redoLabel} (Ctrl+Shift+Z)` : 'Nothing to do again'} onClick={redo}>Redo</button>
        <button type="button" className="tool" aria-pressed={trying} onClick={() => setTrying(!trying)}>{trying ? 'Back to designing' : 'Try it'}</button>
        {may(session, 'publish') && <button type="button" className="tool primary" disabled={!unpublished} onClick={() => setPublishing(true)}>Publish…</button>}
      </header>
      <aside className="pane" data-pane aria-label="What can be placed">
        <div className="pane-switch" role="tablist">
          {(['fields', 'outline'] as const).map((each) => <button key={each} type="button" role="tab" aria-selected={left === each} onClick={() => setLeft(each)}>{each === 'fields' ? 'Place' : 'Outline'}</button>)}
        </div>
        {left === 'fields'
          ? <Palette fields={entity?.fields ?? []} tree={tree} onStart={start} onSelect={select} />
          : <Outline tree={tree} selected={selected} findings={draft.findings} nameOf={nameOf} onSelect={select} />}
      </aside>
      <main className="desk" data-pane>
        <EyesSentence eyes={eyes} names={names} onChange={setEyes} trying={trying} />
        <p className="status" role="status" aria-live="polite" data-bad={message?.bad ? '' : undefined}>
          {placing && current ? `Place ${placing.at + 1} of ${placing.places.length}: ${describe(current, nameOf)}. Arrows choose, Enter places, Escape leaves it.` : trying ? 'Trying: conditions follow what you type; nothing is saved.' : message?.text}
        </p>
        <div className="sheet-frame">
          <div className="sheet" style={{ width: eyes.width }}>
            {store && form && (
              <Canvas
                store={store} tree={tree} selected={selected} trying={trying} page={page} onPage={setPage} onSelect={select} onPlace={(chosen, subject) => void place(chosen, subject)}
                nameOf={nameOf} spot={current} onKeyDown={onCanvasKey}
              />
            )}
          </div>
        </div>
      </main>
      <aside className="pane" data-pane aria-label="Properties">
        {(node ? [node] : [tree, tree.children.find((child) => child.kind === 'body')!]).map((each) => (
          <Properties
            key={each.id} node={each} tree={tree} fields={entity?.fields ?? []} findings={draft.findings} language={eyes.language} languages={session.application.languages}
            name={each.kind === 'layout' ? `${title} form` : nameOf(each.id)} onEdit={(edits, label) => void change(edits, label)} onRemove={() => remove(each.id)}
          />
        ))}
      </aside>
      <details className="findings" data-pane open={draft.findings.some((finding) => finding.severity === 'error')}>
        <summary>{draft.findings.length === 0 ? 'No findings' : draft.findings.length === 1 ? '1 finding' : `${draft.findings.length} findings`}</summary>
        <ul>
          {draft.findings.map((finding) => (
            <li key={finding.code + finding.node + finding.message} data-severity={finding.severity}>
              <span className="finding-severity">{finding.severity}</span>
              <button type="button" className="bt-link" onClick={() => select(finding.node)}>{finding.message}</button>
              {finding.fix && <button type="button" className="tool" onClick={() => void change(finding.fix!.edits as unknown as Edit[], finding.fix!.label)}>{finding.fix.label}</button>}
            </li>
          ))}
        </ul>
      </details>
      {naming && <NameDialog part={naming.part} onDone={naming.answer} />}
      {publishing && <PublishDialog draft={draft} title={`the ${title.toLowerCase()} form`} onClose={() => setPublishing(false)} onPublished={() => void refresh()} />}
    </div>
  );
}

function* walkUp(tree: TreeNode, id: string): Generator<TreeNode> {
  for (let node = parentOf(tree, id); node; node = parentOf(tree, node.id)) yield node;
}

function nameOfLayout(tree: TreeNode, language: string): string {
  const title = tree.properties['title'];
  return (typeof title === 'object' && !Array.isArray(title) ? (title[language] ?? title['en'] ?? title['']) : title === undefined ? undefined : String(title)) ?? String(tree.properties['entity']);
}

/** Through whose eyes: one sentence, each part of which is a control. Changing it never changes the layout. */
function EyesSentence({ eyes, names, trying, onChange }: { eyes: Eyes; names: RecordName[]; trying: boolean; onChange: (eyes: Eyes) => void }) {
  const session = useSession();
  const languageName = (tag: string) => new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag;
  return (
    <div className="eyes">
      <span>Seen by</span>
      <select aria-label="Role" value={eyes.role} onChange={(event) => onChange({ ...eyes, role: event.target.value })}>
        <option value="">someone in every role</option>
        {session.application.roles.map((role) => <option key={role.key} value={role.key}>a {role.label.toLowerCase()}</option>)}
      </select>
      <select aria-label="Mode" value={eyes.mode} onChange={(event) => onChange({ ...eyes, mode: event.target.value as Eyes['mode'] })}>
        <option value="edit">editing</option><option value="view">viewing</option><option value="create">creating</option>
      </select>
      {eyes.mode === 'create' ? <span>a new record</span> : (
        <select aria-label="Record" value={eyes.record ?? ''} onChange={(event) => onChange({ ...eyes, record: Number(event.target.value) })}>
          {names.map((name) => <option key={name.id} value={name.id}>{name.title}</option>)}
        </select>
      )}
      <span>in</span>
      <select aria-label="Language" value={eyes.language} onChange={(event) => onChange({ ...eyes, language: event.target.value })}>
        {session.application.languages.map((tag) => <option key={tag} value={tag}>{languageName(tag)}</option>)}
      </select>
      <span>at</span>
      <input aria-label="Width in pixels" type="number" min={280} max={1600} step={10} value={eyes.width} onChange={(event) => onChange({ ...eyes, width: Math.min(1600, Math.max(280, Number(event.target.value) || 280)) })} />
      <span>px wide.</span>
      {!trying && <label className="eyes-hidden"><input type="checkbox" checked={eyes.showHidden} onChange={(event) => onChange({ ...eyes, showHidden: event.target.checked })} /> Show what is hidden</label>}
    </div>
  );
}
