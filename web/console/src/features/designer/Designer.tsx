import { pageOf } from '#form';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import {
  atWidth,
  bare,
  derived,
  find,
  kindOf,
  parentOf,
  placeAt,
  places,
  variantOf,
  walk,
  type Edit,
  type Place,
  type Subject,
  type TreeNode,
} from '#layout';
import { type Piece } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { address } from '../../shell/location.ts';
import { SideBySide } from './SideBySide.tsx';
import { Canvas } from './Canvas.tsx';
import type { DiffResult } from './Changes.tsx';
import { copied } from './clipboard.ts';
import { CommandList } from './CommandList.tsx';
import { type Command } from './commands.ts';
import { Scope } from './ConditionEditor.tsx';
import './designer.css';
import { DerivedPane } from './DerivedPane.tsx';
import { DesignerBar } from './DesignerBar.tsx';
import { commandsOf } from './designerCommands.ts';
import { PreviewBar } from './PreviewBar.tsx';
import { Findings } from './Findings.tsx';
import { LengthMeter } from './LengthMeter.tsx';
import { PreviewSource } from './previewSource.ts';
import { marksOf } from './marks.ts';
import { NameDialog, hasQuestion } from './NameDialog.tsx';
import { Palette, placedOn } from './Palette.tsx';
import type { Binding } from './PieceDialog.tsx';
import { PieceUse, PieceUses, usePieces } from './PieceUses.tsx';
import { Properties } from './Properties.tsx';
import { rearranging } from './operations.ts';
import { reusing } from './reuse.ts';
import { textIn } from '../../shell/localTexts.ts';
import { CommentsPane, useComments } from '../comments/index.ts';
import { PublishDialog } from '../releases/index.ts';
import { useDraft, type PendingChange } from './useDraft.ts';
import { usePreviewForm } from './usePreviewForm.ts';
import { usePlacement } from './usePlacement.ts';
import { useSelection } from './useSelection.ts';
import { VariantPane } from './VariantPane.tsx';
import { neverMind, WalkThrough, wasShown } from './WalkThrough.tsx';
import { Explanation } from './Explanation.tsx';
import { followPointer, WidthScale, widthsOf, within } from './WidthScale.tsx';
import { describe, kindName, nameOf as nameOfNode, nounOf } from './names.ts';
import { beginVariant } from './variants.ts';
import { rich, say, type TextKey } from '../../shell/configuring/texts.ts';

// What is not there at first is fetched when it is opened.
const AddField = lazy(() => import('./AddField.tsx').then((module) => ({ default: module.AddField })));
const Changes = lazy(() => import('./Changes.tsx').then((module) => ({ default: module.Changes })));
const ChoicesDialog = lazy(() => import('./ChoicesDialog.tsx').then((module) => ({ default: module.ChoicesDialog })));
const PieceDialog = lazy(() => import('./PieceDialog.tsx').then((module) => ({ default: module.PieceDialog })));
const Outline = lazy(() => import('./Outline.tsx').then((module) => ({ default: module.Outline })));
const Source = lazy(() => import('./Source.tsx').then((module) => ({ default: module.Source })));

const noMarks = new Map<string, never>();

const directions: Record<string, 'up' | 'down' | 'left' | 'right'> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};

/** Words of our files that the text offers beside the fields. */
const fileWords = [
  'field',
  'rows',
  'title',
  'sections',
  'pages',
  'visible',
  'required',
  'readOnly',
  'label',
  'help',
  'span',
  'lines',
  'editor',
  'columns',
  'heading',
  'text',
];

const panes = {
  fields: 'pane.fields',
  outline: 'pane.outline',
  changes: 'pane.changes',
  comments: 'pane.comments',
  source: 'pane.source',
} as const;

/** What of the designer there is one at a time of in a narrow window. */
const regions = { fields: 'region.fields', form: 'region.form', view: 'region.view', properties: 'region.properties' } as const;

/** The place where a form is laid out: what can be placed at the left, the form itself, what is selected at the right, findings below. */
export function Designer({
  layoutKey,
  section,
  record: from,
}: {
  layoutKey: string;
  section: string | undefined;
  record: number | undefined;
}) {
  const session = useSession();
  const { languages, roles } = session.application;
  const preview = useMemo(() => new PreviewSource(layoutKey), [layoutKey]);
  const state = useDraft(layoutKey, preview);
  const { draft, under, ahead, message, undoLabel, redoLabel, apply, perform, undo, redo, announce, refresh } = state;
  const root = useRef<HTMLDivElement>(null);
  const [trying, setTrying] = useState(false);
  const [typing, setTyping] = useState<PendingChange>();
  const { context, setContext, entity, labels, names, record, values, form, store, readEntity, reloads, reload } = usePreviewForm(
    preview,
    draft,
    ahead,
    typing,
    session.person!.language,
    trying,
    from,
  );
  const fields = entity?.fields ?? [];
  const pieces = usePieces(draft, reloads);
  /** The width whose own form is changed; without one, the base. */
  const [width, setWidth] = useState<string>();
  const [page, setPage] = useState<string>();
  const [left, setLeft] = useState<keyof typeof panes>(section === 'comments' ? 'comments' : 'fields');
  // Where there is no room for all of the designer beside one another, one part of it is there at a time.
  const [region, setRegion] = useState<keyof typeof regions>(section === 'comments' ? 'fields' : 'form');
  const comments = useComments('layout', layoutKey);
  const [renaming, setRenaming] = useState(false);
  const [compared, setCompared] = useState<DiffResult>();
  const [listing, setListing] = useState<{ title: string; commands: Command[] }>();
  const [adding, setAdding] = useState(false);
  const [choices, setChoices] = useState<string>();
  const [publishing, setPublishing] = useState(false);
  const person = session.person!.id;
  const [walking, setWalking] = useState<'offered' | 'going' | undefined>(() => (wasShown(person) ? undefined : 'offered'));
  const [naming, setNaming] = useState<{ part: string; answer: (name: string | undefined) => void }>();
  const [binding, setBinding] = useState<{ piece: Piece; answer: (binding: Binding | undefined) => void }>();

  const words = useMemo(() => [...labels.keys(), ...fileWords], [labels]);
  const own = draft?.tree;
  // A derived layout is what it extends with its own changes over it.
  const base = useMemo(() => (own && under ? derived(under.tree, own) : own), [own, under]);
  const widths = useMemo(() => widthsOf(base, session.application.widths), [base, session.application.widths]);
  const variant = base && width ? variantOf(base, width) : undefined;
  // What is looked at and changed: the base, or the base as a width has it.
  const tree = useMemo(() => base && atWidth(base, variant), [base, variant]);
  // What a width's own form is made over.
  const beneath = useMemo(() => (variant && base ? bare(base) : undefined), [variant, base]);
  const nameOf = (id: string) => {
    const node = tree && find(tree, id);
    const piece = node?.kind === 'piece' && pieces.find((each) => each.key === node.properties['piece']);
    return piece ? piece.title : node ? nameOfNode(node, labels, context.language) : id;
  };
  const { selection, selected, select, selectAll, later, walkTo } = useSelection(root, tree, (id) => {
    setRenaming(false);
    setTyping(undefined);
    const on = id && form ? (form.pages.some((each) => each.id === id) ? id : pageOf(form.pages, id)) : undefined;
    if (on) setPage(on);
  });
  const placing = usePlacement(tree, nameOf, setPage);
  const focusForm = () => root.current?.querySelector<HTMLElement>('.canvas-layer')?.focus();

  /** Asks with a dialog that `ask` opens, and closes it with the answer. */
  const answerFrom = async <T,>(ask: (answer: (said: T | undefined) => void) => void, close: () => void): Promise<T | undefined> => {
    const said = await new Promise<T | undefined>(ask);
    close();
    return said;
  };
  const askName = (part: string) =>
    answerFrom<string>(
      (answer) => setNaming({ part, answer }),
      () => setNaming(undefined),
    );
  /** How a change is made where one stands: at the base, or on the form of a width; nothing where that width has none yet. */
  const termsOf = (label: string) => {
    if (width && !variant) announce(say('designer.thereIsNoFormYet', width), true);
    return width && !variant ? undefined : { label: width ? say('designer.inWidth', label, width) : label, width: width ?? null };
  };
  const change = async (edits: Edit[], label: string): Promise<Edit[] | undefined> => {
    const terms = termsOf(label);
    return terms && apply(edits, terms.label, terms.width ?? undefined);
  };
  const place = async (chosen: Place, subject: Subject) => {
    placing.stop();
    if ('piece' in subject)
      return reuse.place(
        chosen,
        pieces.find((piece) => piece.key === subject.piece),
      );
    const part = 'part' in subject ? subject.part : undefined;
    const asked = part !== undefined && hasQuestion(part);
    const title = asked ? await askName(part) : undefined;
    if (asked && !title) return;
    const edits = (title && tree && placeAt(tree, { ...subject, title } as Subject, chosen)?.edits) || chosen.edits;
    const what =
      'field' in subject ? (labels.get(subject.field) ?? subject.field) : 'part' in subject ? kindName(subject.part) : nameOf(subject.node);
    const choose = later();
    const done = await change(edits, say('node' in subject ? 'designer.moved' : 'designer.placed', what, describe(chosen, nameOf)));
    if (!done) return;
    const inserted = done.flatMap((edit) => (edit.op === 'insert' ? [...walk(edit.node as TreeNode)] : []));
    choose('node' in subject ? subject.node : inserted.findLast((node) => tree && node.kind === kindOf(tree, subject))?.id);
  };
  const parts = rearranging({
    tree,
    selection,
    fields,
    language: context.language,
    languages,
    base: beneath,
    nameOf,
    announce,
    apply: change,
    select: selectAll,
    name: askName,
    place: (chosen, subject) => void place(chosen, subject),
  });
  const reuse = reusing({
    layout: layoutKey,
    tree,
    selection,
    nameOf,
    announce,
    remove: parts.remove,
    select: selectAll,
    apply: change,
    perform: async (call, label) => {
      const terms = termsOf(label);
      return terms && perform((request) => call({ ...terms, preview: request }), terms.label);
    },
    name: () => askName('piece'),
    bind: (piece) =>
      answerFrom<Binding>(
        (answer) => setBinding({ piece, answer }),
        () => setBinding(undefined),
      ),
  });
  const beginRename = () => setRenaming(parts.nameable);
  const rename = (name: string | undefined) => {
    setRenaming(false);
    if (left === 'outline') root.current?.querySelector<HTMLElement>('.outline [tabindex="0"]')?.focus();
    else focusForm();
    parts.rename(name);
  };
  const start = (subject: Subject) => {
    setRegion('form');
    const legal = tree ? places(tree, subject) : [];
    // Where there is but one place nothing has to be chosen.
    if ('part' in subject && legal.length === 1) void place(legal[0]!, subject);
    else if (placing.begin(subject, selected)) focusForm();
    else announce(say('designer.thereIsNoPlaceFor'), true);
  };
  const chooseWidth = (name: string | undefined) => {
    setWidth(name);
    selectAll([]);
    const range = widths.find((each) => each.name === name);
    if (!range) return;
    // A width within the range, so that the sheet shows what is being changed.
    const within = range.below ? Math.min(range.below * 16 - 30, Math.max(range.from * 16 + 20, 390)) : range.from * 16 + 40;
    setContext((before) => ({ ...before, width: within }));
  };
  /** A width of this layout's own, up to where the sheet ends; what it has differently begins with nothing. */
  const cut = async () => {
    const name = base && (await askName('width'));
    if (!name) return;
    const key = keyOf(
      name,
      widths.map((each) => each.name),
    );
    const done = await apply(
      [
        {
          op: 'insert',
          node: { kind: 'variant', properties: { variant: key, below: Math.round(context.width / 16) } },
          parent: base.id,
          at: 'last',
        },
      ],
      say('designer.cutAtPixels', Math.round(context.width / 16) * 16, key),
    );
    if (done) setWidth(key);
  };
  const listCommands = (about: 'all' | 'selection') => {
    if (!tree || !draft) return;
    const nodes = selection.map((id) => find(tree, id)).filter((node) => node !== undefined);
    const commands = commandsOf({
      tree,
      selection: nodes,
      entity,
      context,
      roles,
      languages: [...languages],
      undoLabel,
      redoLabel,
      unpublished: draft.published !== draft.revision,
      trying,
      nameOf,
      undo,
      redo,
      rename: beginRename,
      remove: parts.remove,
      move: parts.move,
      widen: parts.widen,
      wrap: () => void parts.wrap(),
      ungroup: parts.ungroup,
      balance: parts.balance,
      split: parts.split,
      columns: parts.columns,
      toTab: (to) => {
        parts.toTab(to);
        setPage(to);
      },
      start,
      select,
      look: (more) => setContext({ ...context, ...more }),
      tryIt: () => setTrying(!trying),
      publish: () => setPublishing(true),
      show: setLeft,
      addField: () => setAdding(true),
      showRound: () => setWalking('going'),
      pieces,
      copy: () => void reuse.copy(),
      cut: () => void reuse.cut(),
      paste: () => void reuse.paste(copied()),
      makePiece: () => void reuse.make(),
      detach: () => void reuse.detach(),
      properties: [...(root.current?.querySelectorAll<HTMLElement>('.properties label[for]') ?? [])].map((label) => ({
        label: label.textContent,
        go: () => document.getElementById(label.getAttribute('for')!)?.focus(),
      })),
      widths: draft.entity === '' ? [] : widths.map((each) => ({ name: each.name, begun: variantOf(draft.tree, each.name) !== undefined })),
      changeWidth: chooseWidth,
      toGenerated:
        draft.entity === ''
          ? undefined
          : () =>
              void import('./Changes.tsx')
                .then(async ({ leadingTo, backToGenerated }) => apply(await leadingTo(draft.key, 'generated'), backToGenerated()))
                .catch((error: Error) => announce(error.message, true)),
      beginWidth: (name) => {
        chooseWidth(name);
        void apply([beginVariant(draft.tree, name, () => false)], say('common.createAForm', name));
      },
    });
    setListing({
      title:
        about === 'all'
          ? say('common.commands')
          : say('designer.whatToDoWith', selected && nodes.length === 1 ? nameOf(selected) : say('designer.theseCount', nodes.length)),
      commands: about === 'all' ? commands : commands.filter((command) => command.about === 'selection'),
    });
  };

  /** What a key does on the form; nothing when it means nothing there. */
  const meaning = (event: React.KeyboardEvent, at: TreeNode): (() => void) | undefined => {
    const direction = directions[event.key];
    if (placing.spot) return placing.key(event, direction, (chosen, subject) => void place(chosen, subject));
    if (direction && !(event.altKey && selected)) return () => walkTo(direction === 'up' || direction === 'left', event.shiftKey);
    if (!selected) return undefined;
    if (direction)
      return event.shiftKey
        ? () => parts.widen((direction === 'right') !== context.language.startsWith('ar') ? 1 : -1)
        : () => parts.move(direction);
    if (event.ctrlKey || event.metaKey) return { c: () => void reuse.copy(), x: () => void reuse.cut() }[event.key];
    return {
      Delete: parts.remove,
      F2: beginRename,
      g: () => void parts.wrap(),
      m: () => start({ node: selected }),
      ContextMenu: () => listCommands('selection'),
      Escape: () => select([...walkUp(at, selected)].find((node) => node.kind === 'section' || node.kind === 'page')?.id),
      Enter: () => root.current?.querySelector<HTMLElement>('.properties :is(input, textarea, select)')?.focus(),
    }[event.key];
  };
  const onCanvasKey = (event: React.KeyboardEvent) => {
    if (!tree) return;
    if (event.key === 'Tab' && event.shiftKey) {
      // Behind the sheet lie the form's own inputs, which are not for designing.
      event.preventDefault();
      [...(root.current?.querySelectorAll<HTMLElement>('.preview-bar :is(select, input)') ?? [])].at(-1)?.focus();
      return;
    }
    const act = meaning(event, tree);
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const command = event.ctrlKey || event.metaKey;
    const typing = (event.target as HTMLElement).matches('input, textarea, select');
    if (event.key === 'F6') {
      event.preventDefault();
      const all = [...(root.current?.querySelectorAll<HTMLElement>('[data-pane]') ?? [])];
      const at = all.findIndex((pane) => pane.contains(document.activeElement));
      const pane = all[(at + (event.shiftKey ? all.length - 1 : 1)) % all.length];
      (
        pane?.querySelector<HTMLElement>('.canvas-layer') ??
        pane?.querySelector<HTMLElement>('a, button:not(:disabled), input, select, summary, [tabindex="0"]')
      )?.focus();
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

  if (!draft || !tree)
    return (
      <main className="page">
        {message ? (
          <p className="notice" role="alert">
            {message.text} <a href={address('layouts')}>{say('designer.backToTheLayouts')}</a>
          </p>
        ) : null}
      </main>
    );
  const shownWidth = widths.find((each) => each.name === width);
  const title = textIn(tree.properties['title'], context.language) || String(tree.properties['entity'] ?? draft.key);
  const kind = String(tree.properties['kind'] ?? 'full');
  const isPiece = kind === 'piece';
  const beside = store && form && kind !== 'list' ? context.beside : undefined;
  const nodes = selection.map((id) => find(tree, id)).filter((node) => node !== undefined);
  const marks = compared ? marksOf(tree, compared.edits, compared.summary) : noMarks;
  const inView =
    context.mode === 'create' || context.record === undefined || context.record < 0
      ? undefined
      : { id: context.record, title: names.find((name) => name.id === context.record)?.title ?? String(context.record) };
  const written = renaming ? parts.written : undefined;
  return (
    <Scope value={{ layout: draft.key, fields, roles, record: inView, role: context.role, mode: context.mode }}>
      <div className="designer" data-left={left} data-region={region} data-revision={draft.revision} ref={root}>
        <DesignerBar
          state={state}
          from={from}
          title={title}
          isPiece={isPiece}
          widths={widths}
          width={width}
          onWidth={chooseWidth}
          trying={trying}
          onTry={() => setTrying(!trying)}
          onCommands={() => listCommands('all')}
          onPublish={() => setPublishing(true)}
        />
        <aside className="pane" data-pane data-side="start" aria-label={say('tour.parts')}>
          <div className="pane-switch" role="tablist">
            {(Object.entries(panes) as [typeof left, TextKey][]).map(([each, name]) => (
              <button key={each} type="button" role="tab" aria-selected={left === each} onClick={() => setLeft(each)}>
                {say(name)}
                {each === 'comments' && comments.open.size > 0 && (
                  <span className="count">{[...comments.open.values()].reduce((sum, count) => sum + count)}</span>
                )}
              </button>
            ))}
          </div>
          {left === 'fields' ? (
            <Palette
              entity={entity}
              tree={tree}
              pieces={pieces.filter((piece) => piece.key !== layoutKey)}
              onStart={start}
              onSelect={(id) => {
                select(id);
                setRegion('form');
              }}
              onAddField={isPiece ? undefined : () => setAdding(true)}
            />
          ) : left === 'outline' ? (
            <Suspense fallback={<p className="palette-none">{say('designer.opening')}</p>}>
              <Outline
                tree={tree}
                selection={selection}
                findings={draft.findings}
                nameOf={nameOf}
                onSelect={(ids) => {
                  select(ids.at(-1));
                  selectAll(ids);
                }}
                onPlace={(chosen, subject) => void place(chosen, subject)}
                renaming={written}
                onRename={rename}
                onBeginRename={beginRename}
                onKeyDown={onCanvasKey}
              />
            </Suspense>
          ) : left === 'changes' ? (
            <Suspense fallback={<p className="palette-none">{say('designer.opening')}</p>}>
              <Changes
                draft={draft}
                shown={compared !== undefined}
                onShow={setCompared}
                onEdit={(edits, label) => void apply(edits, label)}
              />
            </Suspense>
          ) : left === 'comments' ? (
            <Suspense fallback={<p className="palette-none">{say('designer.opening')}</p>}>
              <CommentsPane
                comments={comments}
                whole={say('designer.thisForm')}
                about={selected === tree.id ? undefined : selected}
                nameOf={(id) => find(tree, id) && nameOf(id)}
                onSelect={select}
              />
            </Suspense>
          ) : (
            <Suspense fallback={<p className="palette-none">{say('designer.opening')}</p>}>
              <Source layoutKey={draft.key} revision={draft.revision} selected={selected} words={words} onSaved={() => void refresh()} />
            </Suspense>
          )}
        </aside>
        <main className="desk" data-pane>
          <PreviewBar context={context} names={names} kind={kind} onChange={setContext} trying={trying} />
          <p className="status" role="status" aria-live="polite" data-bad={message?.bad ? '' : undefined}>
            {placing.sentence ? (
              <span className="newcomer">
                <span>{placing.sentence}</span>{' '}
                <button type="button" className="bt-link" onClick={placing.stop}>
                  {say('common.cancel')}
                </button>
              </span>
            ) : trying ? (
              say('designer.tryingConditionsFollowWhatYou')
            ) : (
              (message?.text ??
              (walking === 'offered' && (
                <span className="newcomer">
                  {rich(
                    'designer.newHere',
                    <button type="button" className="bt-link" onClick={() => setWalking('going')}>
                      {say('common.showTheTour')}
                    </button>,
                    <button
                      type="button"
                      className="bt-link"
                      onClick={() => {
                        neverMind(person);
                        setWalking(undefined);
                      }}
                    >
                      {say('designer.dismiss')}
                    </button>,
                  )}
                </span>
              )))
            )}
          </p>
          {draft.entity !== '' && !isPiece && (
            <WidthScale
              tree={draft.tree}
              widths={widths}
              chosen={width}
              width={context.width}
              onWidth={(pixels) => setContext((before) => ({ ...before, width: pixels }))}
              onChoose={chooseWidth}
              onCut={() => void cut()}
            />
          )}
          <div className="sheet-frame" data-beside={beside ? '' : undefined}>
            <div
              className="sheet"
              data-width={width && widths.findIndex((each) => each.name === width) + 1}
              style={{ width: context.width, zoom: context.zoom }}
            >
              <div
                className="sheet-edge"
                title={say('designer.dragToChangeTheSheet')}
                onPointerDown={(event) => {
                  const { width: from, zoom } = context;
                  followPointer(event, (by) =>
                    setContext((before) => ({ ...before, width: within(from + (by * (before.beside ? 1 : 2)) / zoom) })),
                  );
                }}
              />
              {store && form && (
                <Canvas
                  store={store}
                  tree={tree}
                  width={context.width}
                  selection={selection}
                  trying={trying}
                  page={page}
                  onPage={setPage}
                  onSelect={select}
                  renaming={left === 'outline' ? undefined : written}
                  onRename={rename}
                  onBeginRename={beginRename}
                  onSize={(id, property, value) =>
                    void change(
                      [{ op: 'set', node: id, property, value }],
                      say(property === 'lines' ? 'designer.linesOf' : 'common.widthOf', nameOf(selected ?? id)),
                    )
                  }
                  onMenu={() => listCommands('selection')}
                  onPlace={(chosen, subject) => void place(chosen, subject)}
                  nameOf={nameOf}
                  spot={placing.spot}
                  placing={placing.subject}
                  onKeyDown={onCanvasKey}
                  marks={marks}
                  comments={comments.open}
                  onComments={(id) => {
                    select(id);
                    setLeft('comments');
                    setRegion('fields');
                  }}
                  tabOrder={context.tabOrder}
                  onPaste={(text) => void reuse.paste(text)}
                />
              )}
            </div>
            {beside && form && (
              <SideBySide
                key={beside}
                form={form}
                values={values}
                references={record?.references ?? {}}
                page={page}
                width={beside}
                zoom={context.zoom}
              />
            )}
          </div>
        </main>
        <aside className="pane" data-pane data-side="end" aria-label={say('region.properties')}>
          {nodes.length === 0 && shownWidth ? (
            <VariantPane
              tree={base ?? draft.tree}
              width={shownWidth}
              widths={[...widths]}
              fields={fields}
              labels={labels}
              language={context.language}
              onEdit={(edits, label) => void apply(edits, label)}
            />
          ) : (
            (nodes.length > 0
              ? [nodes]
              : [[tree], [tree.children.find((child) => child.kind === 'body')].filter((child) => child !== undefined)]
            ).map(
              (each) =>
                each[0] && (
                  <Properties
                    key={each.map((one) => one.id).join(' ')}
                    nodes={each}
                    tree={tree}
                    fields={fields}
                    findings={draft.findings}
                    base={beneath}
                    language={context.language}
                    languages={languages}
                    name={
                      each[0].kind === 'layout' ? (isPiece ? title : say('common.layoutName', title, nounOf(tree))) : nameOf(each[0].id)
                    }
                    onEdit={(edits, label) => void change(edits, label)}
                    onTyping={(edits) => setTyping(edits && { edits, ...(width ? { width } : {}) })}
                    onRemove={parts.remove}
                    onChoices={setChoices}
                  >
                    {each.length === 1 && each[0].kind === 'piece' && (
                      <PieceUse
                        node={each[0]}
                        piece={pieces.find((piece) => piece.key === each[0]!.properties['piece'])}
                        fields={fields}
                        onEdit={(edits, label) => void change(edits, label)}
                        onDetach={() => void reuse.detach()}
                      />
                    )}
                    {each[0].kind === 'layout' && under && own && (
                      <DerivedPane
                        under={under}
                        own={own}
                        labels={labels}
                        language={context.language}
                        onEdit={(edits, label) => void apply(edits, label)}
                      />
                    )}
                    {each[0].kind === 'layout' &&
                      pieces.filter((piece) => piece.key === layoutKey).map((piece) => <PieceUses key={piece.key} piece={piece} />)}
                    {each.length === 1 && each[0].kind !== 'layout' && draft.entity && (
                      <Explanation layout={draft.key} node={each[0].id} revision={draft.revision} context={context} onSelect={select} />
                    )}
                  </Properties>
                ),
            )
          )}
        </aside>
        <Findings findings={draft.findings} onSelect={select} onMend={(edits, label) => void apply(edits, label)} />
        {kind !== 'list' && kind !== 'card' && <LengthMeter preview={preview} revision={draft.revision} published={draft.published} />}
        <nav className="region-switch" aria-label={say('designer.partsOfTheDesigner')}>
          {Object.entries(regions).map(([each, name]) => (
            <button key={each} type="button" aria-pressed={region === each} onClick={() => setRegion(each as typeof region)}>
              {say(name)}
            </button>
          ))}
        </nav>
        {walking === 'going' && (
          <WalkThrough
            person={person}
            onClose={() => {
              setWalking(undefined);
              focusForm();
            }}
          />
        )}
        {listing && (
          <CommandList
            title={listing.title}
            commands={listing.commands}
            selected={nodes.length > 0}
            onClose={(chosen) => {
              setListing(undefined);
              focusForm();
              chosen?.run();
            }}
          />
        )}
        <Suspense>
          {adding && (
            <AddField
              entity={draft.entity}
              onClose={(made) => {
                setAdding(false);
                if (made) {
                  readEntity();
                  start({ field: made });
                }
              }}
            />
          )}
          {choices && (
            <ChoicesDialog
              list={choices}
              languages={languages}
              onClose={(changed) => {
                setChoices(undefined);
                if (changed) {
                  readEntity();
                  reload();
                }
              }}
            />
          )}
          {naming && <NameDialog part={naming.part} onDone={naming.answer} />}
          {publishing && (
            <PublishDialog
              documents={[{ kind: 'layout', key: draft.key, revision: draft.revision }]}
              errors={draft.findings.filter((finding) => finding.severity === 'error')}
              title={isPiece ? say('common.thePiece', title) : say('designer.theLayout', title.toLowerCase(), nounOf(tree))}
              onClose={() => setPublishing(false)}
              onPublished={() => void refresh()}
            />
          )}
          {binding && <PieceDialog piece={binding.piece} fields={fields} placed={new Set(placedOn(tree).keys())} onDone={binding.answer} />}
        </Suspense>
      </div>
    </Scope>
  );
}

function* walkUp(tree: TreeNode, id: string): Generator<TreeNode> {
  for (let node = parentOf(tree, id); node; node = parentOf(tree, node.id)) yield node;
}
