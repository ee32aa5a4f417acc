import { FormStore, pageOf, type Values } from '#form';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { answer, api, type EntityInfo, type Piece, type RecordInfo, type RecordName } from '../api/client.ts';
import { address } from '../shell/location.ts';
import { may, surroundings, useSession } from '../shell/session.tsx';
import { AddField } from './AddField.tsx';
import { Beside } from './Beside.tsx';
import { Canvas } from './Canvas.tsx';
import { Changes, type Compared } from './Changes.tsx';
import { copied } from './clipboard.ts';
import { ChoicesDialog } from './ChoicesDialog.tsx';
import { CommandList } from './CommandList.tsx';
import { type Command } from './commands.ts';
import { commandsOf } from './designerCommands.ts';
import { EyesSentence } from './EyesSentence.tsx';
import { Scope } from './ConditionEditor.tsx';
import './designer.css';
import { LengthMeter } from './LengthMeter.tsx';
import { marksOf } from './marks.ts';
import { NameDialog, namedBy } from './NameDialog.tsx';
import { Palette, placedOn } from './Palette.tsx';
import { PieceDialog, type Binding } from './PieceDialog.tsx';
import { PieceUse, PieceUses, usePieces } from './PieceUses.tsx';
import { describe, flow, placeAt, places, step, type Place, type Subject } from './placing.ts';
import { isWide, Properties } from './Properties.tsx';
import { PublishDialog } from './PublishDialog.tsx';
import { reusing } from './reusing.ts';
import { outermost, removeAll, ungroup, wrap } from './several.ts';
import { widen } from './sizing.ts';
import { find, isItem, nameOf as nameOfNode, namingProperty, parentOf, textIn, walk, withText, type Edit, type TreeNode } from './tree.ts';
import { useDraft, usePreview, type Eyes } from './useDraft.ts';
import { rangeOf, VariantPane } from './VariantPane.tsx';
import { applied, asChanges, beginVariant, variantOf } from './variants.ts';
import { Why } from './Why.tsx';

// What is not there at first is fetched when it is opened.
const Outline = lazy(() => import('./Outline.tsx').then((module) => ({ default: module.Outline })));
const Source = lazy(() => import('./Source.tsx').then((module) => ({ default: module.Source })));

const noMarks = new Map<string, never>();

const directions: Record<string, 'up' | 'down' | 'left' | 'right'> = { ArrowUp: 'up', ArrowDown: 'down', ArrowLeft: 'left', ArrowRight: 'right' };

/** The place where a form is laid out: what can be placed at the left, the form itself, what is selected at the right, findings below. */
export function Designer({ layoutKey }: { layoutKey: string; section: string | undefined }) {
  const session = useSession();
  const { draft, message, undoLabel, redoLabel, apply, undo, redo, say, refresh } = useDraft(layoutKey);
  const [eyes, setEyes] = useState<Eyes>({ role: '', mode: 'edit', language: session.person!.language, record: undefined, width: Math.min(960, Math.max(320, window.innerWidth - 614)), showHidden: true, beside: undefined, zoom: 1, tabOrder: false });
  const [entity, setEntity] = useState<EntityInfo>();
  const [names, setNames] = useState<RecordName[]>([]);
  const [record, setRecord] = useState<RecordInfo>();
  const [selection, setSelection] = useState<string[]>([]);
  const selected = selection.at(-1);
  const setSelected = useCallback((next: string | undefined | ((now: string | undefined) => string | undefined)) => setSelection((now) => {
    const chosen = typeof next === 'function' ? next(now.at(-1)) : next;
    return chosen === undefined ? [] : chosen === now.at(-1) && typeof next === 'function' ? now : [chosen];
  }), []);
  /** The width whose own form is changed; without one, the base. */
  const [width, setWidth] = useState<string>();
  const [renaming, setRenaming] = useState(false);
  const [listing, setListing] = useState<{ title: string; commands: Command[] }>();
  const [adding, setAdding] = useState(false);
  const [choices, setChoices] = useState<string>();
  const pieces = usePieces(draft?.revision);
  const [binding, setBinding] = useState<{ piece: Piece; answer: (binding: Binding | undefined) => void }>();
  const [compared, setCompared] = useState<Compared>();
  const [page, setPage] = useState<string>();
  const [trying, setTrying] = useState(false);
  const [publishing, setPublishing] = useState(false);
  const [placing, setPlacing] = useState<{ subject: Subject; places: Place[]; at: number }>();
  const [naming, setNaming] = useState<{ part: string; answer: (name: string | undefined) => void }>();
  const [left, setLeft] = useState<'fields' | 'outline' | 'changes' | 'source'>('fields');
  const root = useRef<HTMLDivElement>(null);
  const sought = useRef({ typed: '', at: 0 });
  const [looked, setLooked] = useState(0);
  const lookAgain = () => setLooked((count) => count + 1);
  const form = usePreview(draft, { ...eyes, showHidden: eyes.showHidden && !trying }, looked);

  const entityKey = draft?.entity;
  const readEntity = useCallback(() => {
    if (entityKey !== undefined) answer(api.GET('/api/layouts/{key}/entity', { params: { path: { key: layoutKey } } })).then(setEntity, () => undefined);
  }, [entityKey, layoutKey]);
  useEffect(readEntity, [readEntity]);
  useEffect(() => {
    if (!draft?.entity) return;
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
    const asSeen = surroundings({ open: () => undefined, create: () => Promise.resolve(undefined), ...(eyes.role ? { roles: [eyes.role] } : {}) });
    return new FormStore(form, (showing?.values ?? {}) as Values, showing?.references ?? {}, asSeen, { showHidden: eyes.showHidden && !trying });
  }, [form, showing, eyes.role, eyes.showHidden, trying]);

  const labels = useMemo(() => new Map(entity?.fields.map((field) => [field.key, field.label])), [entity]);
  const words = useMemo(() => [...labels.keys(), 'field', 'rows', 'title', 'sections', 'pages', 'visible', 'required', 'readOnly', 'label', 'help', 'span', 'lines', 'editor', 'columns', 'heading', 'text'], [labels]);
  const base = draft?.tree;
  const variant = base && width ? variantOf(base, width) : undefined;
  // What is looked at and changed: the base, or the base as a width has it.
  const tree = useMemo(() => base && applied(base, variant), [base, variant]);
  const nameOf = useCallback((id: string) => {
    const node = tree && find(tree, id);
    const piece = node?.kind === 'piece' && pieces.find((each) => each.key === node.properties['piece']);
    return piece ? piece.title : node ? nameOfNode(node, labels, eyes.language) : id;
  }, [tree, labels, eyes.language, pieces]);

  /** What is drawn, in reading order. */
  const drawn = () => [...(root.current?.querySelectorAll<HTMLElement>('.canvas :is(.bt-band, .bt-section, .bt-item)[data-node]') ?? [])].map((element) => element.dataset['node']!).filter((id) => !id.includes('/'));
  /** Selects a node alone; adding, takes it into what is selected or out of it; up to it, all between the last one and it of its kind. */
  const select = (id: string | undefined, how: boolean | 'upTo' = false) => {
    setRenaming(false);
    const kind = id && tree && find(tree, id)?.kind;
    if (how === 'upTo' && id && selected && kind) {
      const order = drawn();
      const [from, to] = [order.indexOf(selected), order.indexOf(id)].sort((one, other) => one - other);
      const between = order.slice(from, to! + 1).filter((each) => isItem(find(tree, each)?.kind ?? 'layout') === isItem(kind));
      setSelection([...between.filter((each) => each !== id), id]);
    } else if (how && id) setSelection((now) => (now.includes(id) ? now.filter((each) => each !== id) : [...now, id]));
    else setSelected(id);
    const on = id && form ? (form.pages.some((each) => each.id === id) ? id : pageOf(form.pages, id)) : undefined;
    if (on) setPage(on);
  };
  const change = async (edits: Edit[], label: string) => {
    if (width && !variant) {
      say(`There is no ${width} form yet; begin one first.`, true);
      return { done: undefined, inserted: undefined };
    }
    const done = await apply(base && variant ? asChanges(base, variant, edits) : edits, width ? `${label}, in ${width}` : label);
    if (variant) return { done, inserted: undefined };
    const inserted = done?.findLast((edit) => edit.op === 'insert');
    return { done, inserted: inserted?.op === 'insert' ? inserted.node.id : undefined };
  };
  const place = async (chosen: Place, subject: Subject) => {
    setPlacing(undefined);
    if ('piece' in subject) return reuse.place(chosen, pieces.find((piece) => piece.key === subject.piece));
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
  const remove = () => {
    if (!tree || !selected) return;
    const next = parentOf(tree, selected);
    if (variant) {
      // At one width nothing is taken off: it is hidden there, and stays on the form.
      void change(outermost(tree, selection).map((id) => ({ op: 'set', node: id, property: 'hidden', value: true })), `Hide ${selection.length > 1 ? `${selection.length} parts` : nameOf(selected)}`);
      setSelected(undefined);
      return;
    }
    void change(removeAll(tree, selection), selection.length > 1 ? `Take ${selection.length} parts off` : `Take ${nameOf(selected)} off`);
    setSelected(selection.length === 1 && next && next.kind !== 'cell' && next.kind !== 'row' ? next.id : undefined);
  };
  const reuse = reusing({
    layout: layoutKey, tree, selection, nameOf, say, remove, select: setSelection,
    apply: async (edits, label) => (await change(edits, label)).done,
    bind: async (piece) => {
      const bound = await new Promise<Binding | undefined>((answer) => setBinding({ piece, answer }));
      setBinding(undefined);
      return bound;
    },
    name: async () => {
      const title = await new Promise<string | undefined>((answer) => setNaming({ part: 'piece', answer }));
      setNaming(undefined);
      return title;
    },
  });
  const rename = (name: string | undefined) => {
    setRenaming(false);
    root.current?.querySelector<HTMLElement>(left === 'outline' ? '.outline [tabindex="0"]' : '.canvas-layer')?.focus();
    const node = selected && tree && find(tree, selected);
    const property = node && namingProperty(node.kind);
    if (!node || !property || name === undefined || name.trim() === writtenName) return;
    void change([{ op: 'set', node: node.id, property, value: withText(node.properties[property], name.trim(), eyes.language, session.application.languages) }], `Name of ${nameOf(node.id)}`);
  };
  const beginRename = () => {
    const node = selected && tree && find(tree, selected);
    if (selection.length === 1 && node && namingProperty(node.kind)) setRenaming(true);
  };
  const moveBy = (direction: 'up' | 'down' | 'left' | 'right') => {
    const edits = tree && selected ? step(tree, selected, direction) : [];
    if (edits.length > 0) void change(edits, `Move ${nameOf(selected!)} ${direction}`);
  };
  const widenBy = (by: 1 | -1) => {
    const edits = tree ? widen(tree, selection, by) : [];
    if (edits.length > 0) void change(edits, `Width of ${selection.length > 1 ? `${selection.length} parts` : nameOf(selected!)}`);
    else say('It cannot be made wider or narrower there.', true);
  };
  const wrapSelection = async () => {
    const title = await new Promise<string | undefined>((answer) => setNaming({ part: 'section', answer }));
    setNaming(undefined);
    const wrapped = tree && title ? wrap(tree, selection, title) : undefined;
    if (!wrapped) return;
    await change(wrapped.edits, `Put ${selection.length} ${selection.length === 1 ? 'part' : 'parts'} into ${title}`);
    setSelection([wrapped.section]);
  };
  const start = (subject: Subject) => {
    if (!tree) return;
    const legal = places(tree, subject);
    if (legal.length === 0) return say('There is no place for it.', true);
    sought.current = { typed: '', at: 0 };
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

  const chooseWidth = (name: string | undefined) => {
    setWidth(name);
    setSelection([]);
    const range = session.application.widths.find((each) => each.name === name);
    if (!range) return;
    // A width within the range, so that the sheet shows what is being changed.
    const within = range.below ? Math.min(range.below * 16 - 30, Math.max(range.from * 16 + 20, 390)) : range.from * 16 + 40;
    setEyes((before) => ({ ...before, width: within }));
  };
  const isFull = draft !== undefined && draft.entity !== '';
  const listCommands = (about: 'all' | 'selection') => {
    if (!tree || !draft) return;
    const nodes = selection.map((id) => find(tree, id)).filter((node) => node !== undefined);
    const commands = commandsOf({
            tree, selection: nodes, entity, eyes, roles: session.application.roles, languages: session.application.languages, undoLabel, redoLabel, unpublished: draft.published !== draft.revision, trying, nameOf, undo, redo, rename: beginRename, remove, move: moveBy, widen: widenBy,
            wrap: () => void wrapSelection(), ungroup: () => { if (selected) void change(ungroup(tree, selected), `Take the frame of ${nameOf(selected)} away`); },
            columns: (count) => { if (selected) void change(flow(tree, selected, count, isWide(entity?.fields ?? [])), `Flow ${nameOf(selected)} into ${count} columns`); },
            start, select, look: (more) => setEyes({ ...eyes, ...more }), tryIt: () => setTrying(!trying), publish: () => setPublishing(true), show: setLeft, addField: () => setAdding(true), pieces,
            copy: () => void reuse.copy(), cut: () => void reuse.cut(), paste: () => void reuse.paste(copied()), makePiece: () => void reuse.make(), detach: () => void reuse.detach(),
            toTab: (page) => { const chosen = selected && placeAt(tree, { node: selected }, { target: page, edge: 'inside' }); if (chosen) { void place(chosen, { node: selected }); setPage(page); } },
            properties: [...(root.current?.querySelectorAll<HTMLElement>('.properties label[for]') ?? [])].map((label) => ({ label: label.textContent, go: () => document.getElementById(label.getAttribute('for')!)?.focus() })),
            widths: isFull ? session.application.widths.map((each) => ({ name: each.name, begun: variantOf(draft.tree, each.name) !== undefined })) : [], changeWidth: chooseWidth,
            beginWidth: (name) => { chooseWidth(name); void apply([beginVariant(draft.tree, name, () => false)], `Begin a ${name} form`); },
          });
    setListing({
      title: about === 'all' ? 'Commands' : `What to do with ${selected && nodes.length === 1 ? nameOf(selected) : `these ${nodes.length}`}`,
      commands: about === 'all' ? commands : commands.filter((command) => command.about === 'selection'),
    });
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
    const command = event.ctrlKey || event.metaKey;
    const handled = (act: () => void) => {
      event.preventDefault();
      event.stopPropagation();
      act();
    };
    if (placing && current) {
      if (direction) handled(() => showPlace(placing.at + (direction === 'down' || direction === 'right' ? 1 : -1)));
      else if (event.key === 'Enter') handled(() => void place(current, placing.subject));
      else if (event.key === 'Escape') handled(() => setPlacing(undefined));
      else if (event.key.length === 1 && !command) handled(() => {
        // What is typed leads to the next place whose name has it.
        const typed = (event.timeStamp - sought.current.at < 1_500 ? sought.current.typed : '') + event.key.toLowerCase();
        sought.current = { typed, at: event.timeStamp };
        const found = placing.places.findIndex((each) => describe(each, nameOf).toLowerCase().includes(typed));
        if (found >= 0) showPlace(found);
      });
      return;
    }
    if (direction && event.altKey && event.shiftKey && selected) handled(() => widenBy((direction === 'right') !== (eyes.language.startsWith('ar')) ? 1 : -1));
    else if (direction && event.altKey && selected) handled(() => moveBy(direction));
    else if (direction) handled(() => walkTo(direction, event.shiftKey));
    else if (event.key === 'Delete' && selected) handled(remove);
    else if (command && event.key === 'c' && selected) handled(() => void reuse.copy());
    else if (command && event.key === 'x' && selected) handled(() => void reuse.cut());
    else if (event.key === 'F2' && selected) handled(beginRename);
    else if (event.key === 'g' && !command && selected) handled(() => void wrapSelection());
    else if (event.key === 'ContextMenu' && selected) handled(() => listCommands('selection'));
    else if (event.key === 'm' && !command && selected) handled(() => start({ node: selected }));
    else if (event.key === 'Escape' && selected) handled(() => select([...walkUp(tree, selected)].find((node) => ['section', 'page'].includes(node.kind))?.id));
    else if (event.key === 'Enter' && selected) handled(() => root.current?.querySelector<HTMLElement>('.properties :is(input, textarea, select)')?.focus());
  };
  /** Arrows walk what is drawn, in reading order. */
  const walkTo = (direction: string, adding = false) => {
    // Taking more in goes from one of its kind to the next.
    const own = selected && tree && isItem(find(tree, selected)?.kind ?? 'layout');
    const order = drawn().filter((id) => !adding || !tree || isItem(find(tree, id)?.kind ?? 'layout') === own);
    const at = selected ? order.indexOf(selected) : -1;
    const next = order[Math.min(order.length - 1, Math.max(0, at + (direction === 'down' || direction === 'right' ? 1 : -1)))];
    if (next && next !== selected) select(next, adding);
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
    } else if (command && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      listCommands('all');
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
  const shownWidth = session.application.widths.find((each) => each.name === width);
  const title = nameOfLayout(tree, eyes.language);
  const isPiece = tree.properties['kind'] === 'piece';
  const nodes = selection.map((id) => find(tree, id)).filter((node) => node !== undefined);
  const node = nodes.at(-1);
  const marks = compared ? marksOf(tree, compared.edits, compared.words) : noMarks;
  const inView = eyes.mode === 'create' || eyes.record === undefined ? undefined : { id: eyes.record, title: names.find((name) => name.id === eyes.record)?.title ?? String(eyes.record) };
  const property = node && namingProperty(node.kind);
  const writtenName = node && property ? textIn(node.properties[property], eyes.language) || (node.kind === 'field' ? nameOf(node.id) : '') : '';
  const unpublished = draft.published !== draft.revision;
  return (
    <Scope value={{ layout: draft.key, fields: entity?.fields ?? [], roles: session.application.roles, record: inView, role: eyes.role, mode: eyes.mode }}>
    <div className="designer" data-revision={draft.revision} ref={root}>
      <header className="designer-bar" data-pane>
        <a className="tool" href={draft.entity ? address('records', draft.entity) : address('layouts')}>← Leave</a>
        <p className="changing" data-width={width && session.application.widths.findIndex((each) => each.name === width) + 1}>You are changing {isPiece ? <b>the piece {title}</b> : <><b>{title} form,</b>{' '}
          <select aria-label="Which form" value={width ?? ''} onChange={(event) => chooseWidth(event.target.value || undefined)}>
            <option value="">base</option>
            {session.application.widths.map((each) => <option key={each.name} value={each.name}>{each.name} ({rangeOf(each)}){variantOf(draft.tree, each.name) ? '' : ', as the base'}</option>)}
          </select></>}
          <span>{draft.published === null ? 'never published' : unpublished ? `${draft.revision - draft.published} ${draft.revision - draft.published === 1 ? 'change' : 'changes'} not published` : 'as published'}</span></p>
        <span className="bar-space" />
        <button type="button" className="tool" title="Everything that can be done, by its name (Ctrl+K)" onClick={() => listCommands('all')}>Commands</button>
        <button type="button" className="tool" disabled={!undoLabel} title={undoLabel ? `Undo: ${undoLabel} (Ctrl+Z)` : 'Nothing to undo'} onClick={undo}>Undo</button>
        <button type="button" className="tool" disabled={!redoLabel} title={redoLabel ? `Do again: ${redoLabel} (Ctrl+Shift+Z)` : 'Nothing to do again'} onClick={redo}>Redo</button>
        <button type="button" className="tool" aria-pressed={trying} onClick={() => setTrying(!trying)}>{trying ? 'Back to designing' : 'Try it'}</button>
        {may(session, 'publish') && <button type="button" className="tool primary" disabled={!unpublished} onClick={() => setPublishing(true)}>Publish…</button>}
      </header>
      <aside className="pane" data-pane aria-label="What can be placed">
        <div className="pane-switch" role="tablist">
          {(Object.entries({ fields: 'Place', outline: 'Outline', changes: 'Changes', source: 'Text' }) as [typeof left, string][]).map(([each, name]) => <button key={each} type="button" role="tab" aria-selected={left === each} onClick={() => setLeft(each)}>{name}</button>)}
        </div>
        {left === 'fields' ? <Palette fields={entity?.fields ?? []} tree={tree} pieces={pieces.filter((piece) => piece.key !== layoutKey)} onStart={start} onSelect={select} onAddField={isPiece ? undefined : () => setAdding(true)} />
          : left === 'outline' ? <Suspense fallback={<p className="palette-none">Opening…</p>}><Outline tree={tree} selection={selection} findings={draft.findings} nameOf={nameOf} onSelect={(ids) => { select(ids.at(-1)); setSelection(ids); }}
            onPlace={(chosen, subject) => void place(chosen, subject)} renaming={renaming ? writtenName : undefined} onRename={rename} onBeginRename={beginRename} onKeyDown={onCanvasKey} /></Suspense>
          : left === 'changes' ? <Changes draft={draft} shown={compared !== undefined} onShow={setCompared} onEdit={(edits, label) => void apply(edits, label)} />
          : <Suspense fallback={<p className="palette-none">Opening…</p>}><Source layoutKey={draft.key} revision={draft.revision} selected={selected} words={words} onSaved={() => void refresh()} /></Suspense>}
      </aside>
      <main className="desk" data-pane>
        <EyesSentence eyes={eyes} names={names} onChange={setEyes} trying={trying} />
        <p className="status" role="status" aria-live="polite" data-bad={message?.bad ? '' : undefined}>
          {placing && current ? `Place ${placing.at + 1} of ${placing.places.length}: ${describe(current, nameOf)}. Arrows choose, or type a name; Enter places, Escape leaves it.` : trying ? 'Trying: conditions follow what you type; nothing is saved.' : message?.text}
        </p>
        <div className="sheet-frame">
          <div className="sheet" data-width={width && session.application.widths.findIndex((each) => each.name === width) + 1} style={{ width: eyes.width, zoom: eyes.zoom }}>
            {store && form && (
              <Canvas
                store={store} tree={tree} selection={selection} trying={trying} page={page} onPage={setPage} onSelect={select} renaming={renaming && left !== 'outline' ? writtenName : undefined} onRename={rename} onBeginRename={beginRename}
                onSize={(id, property, value) => void change([{ op: 'set', node: id, property, value }], `${property === 'span' ? 'Width' : 'Lines'} of ${nameOf(selected ?? id)}`)} onMenu={() => listCommands('selection')} onPlace={(chosen, subject) => void place(chosen, subject)}
                nameOf={nameOf} spot={current} onKeyDown={onCanvasKey} marks={marks} tabOrder={eyes.tabOrder} onPaste={(text) => void reuse.paste(text)}
              />
            )}
          </div>
          {store && form && eyes.beside && <Beside key={eyes.beside} form={form} values={(showing?.values ?? {}) as Values} references={showing?.references ?? {}} page={page} width={eyes.beside} zoom={eyes.zoom} />}
        </div>
      </main>
      <aside className="pane" data-pane aria-label="Properties">
        {nodes.length === 0 && shownWidth ? <VariantPane tree={draft.tree} width={shownWidth} widths={[...session.application.widths]} fields={entity?.fields ?? []} labels={labels} language={eyes.language} onEdit={(edits, label) => void apply(edits, label)} /> : (nodes.length > 0 ? [nodes] : [[tree], [tree.children.find((child) => child.kind === 'body')].filter((child) => child !== undefined)]).map((each) => each[0] && (
          <Properties
            key={each.map((one) => one.id).join(' ')} nodes={each} tree={tree} fields={entity?.fields ?? []} findings={draft.findings} inVariant={variant !== undefined} language={eyes.language} languages={session.application.languages}
            name={each[0].kind === 'layout' ? (isPiece ? title : `${title} form`) : nameOf(each[0].id)} onEdit={(edits, label) => void change(edits, label)} onRemove={remove} onChoices={setChoices}
          >
            {each.length === 1 && each[0].kind === 'piece' && <PieceUse node={each[0]} piece={pieces.find((piece) => piece.key === each[0]!.properties['piece'])} fields={entity?.fields ?? []} onEdit={(edits, label) => void change(edits, label)} onDetach={() => void reuse.detach()} />}
            {each[0].kind === 'layout' && pieces.filter((piece) => piece.key === layoutKey).map((piece) => <PieceUses key={piece.key} piece={piece} />)}
            {each.length === 1 && each[0].kind !== 'layout' && draft.entity && <Why layout={draft.key} node={each[0].id} revision={draft.revision} eyes={eyes} onSelect={select} />}
          </Properties>
        ))}
      </aside>
      <details className="findings" data-pane open={draft.findings.some((finding) => finding.severity === 'error')}>
        <summary>{draft.findings.length === 0 ? 'No findings' : draft.findings.length === 1 ? '1 finding' : `${draft.findings.length} findings`}</summary>
        <ul>
          {draft.findings.map((finding) => (
            <li key={finding.code + finding.node + finding.message} data-severity={finding.severity}>
              <span className="finding-severity">{finding.severity}</span>
              <button type="button" className="bt-link" onClick={() => select(finding.node)}>{finding.message}</button>
              {finding.fix && <button type="button" className="tool" onClick={() => void apply(finding.fix!.edits as unknown as Edit[], finding.fix!.label)}>{finding.fix.label}</button>}
            </li>
          ))}
        </ul>
      </details>
      <LengthMeter layout={draft.key} revision={draft.revision} published={draft.published} />
      {listing && (
        <CommandList
          title={listing.title}
          commands={listing.commands}
          onClose={(chosen) => { setListing(undefined); root.current?.querySelector<HTMLElement>('.canvas-layer')?.focus(); chosen?.run(); }}
        />
      )}
      {adding && <AddField entity={draft.entity} onClose={(made) => { setAdding(false); if (made) { readEntity(); start({ field: made }); } }} />}
      {choices && <ChoicesDialog list={choices} languages={session.application.languages} onClose={(changed) => { setChoices(undefined); if (changed) { readEntity(); lookAgain(); } }} />}
      {naming && <NameDialog part={naming.part} onDone={naming.answer} />}
      {publishing && <PublishDialog draft={draft} title={isPiece ? `the piece ${title}` : `the ${title.toLowerCase()} form`} onClose={() => setPublishing(false)} onPublished={() => void refresh()} />}
      {binding && <PieceDialog piece={binding.piece} fields={entity?.fields ?? []} placed={new Set(placedOn(tree).keys())} onDone={binding.answer} />}
    </div>
    </Scope>
  );
}

function* walkUp(tree: TreeNode, id: string): Generator<TreeNode> {
  for (let node = parentOf(tree, id); node; node = parentOf(tree, node.id)) yield node;
}

function nameOfLayout(tree: TreeNode, language: string): string {
  const title = tree.properties['title'];
  return (typeof title === 'object' && !Array.isArray(title) ? (title[language] ?? title['en'] ?? title['']) : title === undefined ? undefined : String(title)) ?? String(tree.properties['entity']);
}
