import { pageOf } from '#form';
import { useEffect, useMemo, useRef, useState } from 'react';
import { find, guessBinding, type Facts, type NewNode, type Subject, type TreeNode } from '#layout';
import type { FieldInfo, Piece } from '../../api/client.ts';
import { useSession } from '../../shell/hooks.ts';
import { useComments } from '../comments/index.ts';
import type { DiffResult } from './Changes.tsx';
import type { PlacedPiece } from './drawItem.ts';
import { nameOf as nameOfNode } from './names.ts';
import { PieceForms } from './pieceForms.ts';
import { placedOn } from './placedFields.ts';
import { useOthersSelections } from './useOthersSelections.ts';
import { usePieces } from './PieceUses.tsx';
import { PreviewSource } from './previewSource.ts';
import { useDialogs } from './useDialogs.ts';
import type { PendingChange } from './draftState.ts';
import { useDraft } from './useDraft.ts';
import { usePlacement } from './usePlacement.ts';
import { usePreviewForm } from './usePreviewForm.ts';
import { useSelection } from './useSelection.ts';
import { useTrees } from './useTrees.ts';

/** What of the designer's start pane is open. */
export type Pane = 'fields' | 'outline';

/** What can be drawn over the properties, and put away again. */
export type Drawer = 'proposals' | 'changes' | 'comments' | 'source';

/** What a form is to become. */
export type Aim = 'shorter' | 'tidier';

/** What of the designer there is one at a time of in a narrow window. */
export type Region = 'fields' | 'form' | 'view' | 'properties';

export interface DesignerProps {
  layoutKey: string;
  /** The part of the address behind the layout: which pane is open at first. */
  section: string | undefined;
  /** The record that is looked at first. */
  record: number | undefined;
  /** What of the form was in view where one comes from: a section. */
  at: string | undefined;
}

/** What the designer is looked at through: which pane, which page, what is compared. */
function useDeskView(section: string | undefined) {
  const [page, setPage] = useState<string>();
  const [left, setLeft] = useState<Pane>('fields');
  const [drawer, setDrawer] = useState<Drawer | undefined>(section === 'comments' ? 'comments' : undefined);
  // Where there is no room for all of the designer beside one another, one part of it is there at a time.
  const [region, setRegion] = useState<Region>('form');
  const [renaming, setRenaming] = useState(false);
  const [fresh, setFresh] = useState<string>();
  const [compared, setCompared] = useState<DiffResult>();
  const [trying, setTrying] = useState(false);
  const [typing, setTyping] = useState<PendingChange>();
  const [aim, setAim] = useState<Aim>('shorter');
  return {
    page,
    setPage,
    left,
    setLeft,
    drawer,
    setDrawer,
    region,
    setRegion,
    renaming,
    setRenaming: (on: boolean) => {
      setRenaming(on);
      if (!on) setFresh(undefined);
    },
    /** What was placed just now and is being named. */
    fresh,
    nameFresh: (id: string | undefined) => {
      setFresh(id);
      setRenaming(id !== undefined);
    },
    compared,
    setCompared,
    trying,
    setTrying,
    /** What is just being typed into a property, or proposed: a change that is looked at and not made. */
    typing,
    setTyping,
    aim,
    setAim,
  };
}

const noFields: FieldInfo[] = [];

/** What was in view where one comes from is in view here, once. */
function useArrival(root: HTMLElement | null, at: string | undefined, drawn: boolean): void {
  const arrived = useRef(false);
  useEffect(() => {
    if (arrived.current || !root || !drawn || at === undefined) return;
    arrived.current = true;
    root.querySelector(`.canvas [data-node="${CSS.escape(at)}"]`)?.scrollIntoView({ block: 'start' });
  }, [root, at, drawn]);
}

/** Pieces as they are held over the form. */
function usePieceForms(
  pieces: readonly Piece[],
  fields: readonly FieldInfo[],
  tree: TreeNode | undefined,
  { context, reloads }: { context: { language: string }; reloads: number },
) {
  // What pieces look like is read anew once what the form rests on has changed.
  const forms = useMemo(() => ({ reloads, of: new PieceForms() }), [reloads]).of;
  return {
    /** What a piece comes to where it is held, bound as it would be; nothing for what is no piece, or is not known yet. */
    placedPiece: (node: NewNode): PlacedPiece | undefined => {
      const piece = node.kind === 'piece' ? pieces.find((each) => each.key === node.properties?.['piece']) : undefined;
      const form = piece && forms.of(piece.key, context.language);
      if (!form) return undefined;
      const bound = node.properties?.['slots'] as Record<string, string> | undefined;
      return { form, slots: bound ?? guessBinding(piece.slots, fields, new Set(tree && placedOn(tree).keys())).slots };
    },
    /** Reads what a piece looks like, before it is over the form. */
    foresee: (subject: Subject) => {
      if ('piece' in subject) forms.of(subject.piece, context.language);
    },
  };
}

/** Everything there is while one layout is designed: its draft, how it is looked at, what is selected, what is open. */
export function useDesk({ layoutKey, section, record: from, at }: DesignerProps) {
  const session = useSession();
  const [root, setRoot] = useState<HTMLElement | null>(null);
  const view = useDeskView(section);
  const preview = useMemo(() => new PreviewSource(layoutKey), [layoutKey]);
  const state = useDraft(layoutKey);
  const shown = usePreviewForm(preview, state, view.typing, session.person!.language, view.trying, from);
  const trees = useTrees(state, session.application.widths);
  const pieces = usePieces(state.draft, shown.reloads);
  const dialogs = useDialogs(session.person!.id);
  const { tree } = trees;
  const fields = shown.entity?.fields ?? noFields;
  const held = usePieceForms(pieces, fields, tree, shown);
  const page = view.page ?? (shown.form && at ? pageOf(shown.form.pages, at) : undefined);
  useArrival(root, at, shown.form !== undefined);
  const facts = useMemo<Facts>(() => new Map(fields.map((field) => [field.key, field])), [fields]);
  const nameOf = (id: string) => {
    const node = tree && find(tree, id);
    const piece = node?.kind === 'piece' && pieces.find((each) => each.key === node.properties['piece']);
    return piece ? piece.title : node ? nameOfNode(node, shown.labels, shown.context.language) : id;
  };
  const selection = useSelection(root, tree, (id) => {
    view.setRenaming(false);
    view.setTyping(undefined);
    const { form } = shown;
    const on = id && form ? (form.pages.some((each) => each.id === id) ? id : pageOf(form.pages, id)) : undefined;
    if (on) view.setPage(on);
  });
  return {
    layoutKey,
    from,
    person: session.person!.id,
    languages: session.application.languages,
    roles: session.application.roles,
    root,
    setRoot,
    ...view,
    page,
    preview,
    state,
    ...shown,
    fields,
    facts,
    ...trees,
    pieces,
    ...held,
    dialogs,
    nameOf,
    ...selection,
    comments: useComments('layout', layoutKey),
    others: useOthersSelections(layoutKey, session.person!.id, selection.selection),
    placing: usePlacement(tree, facts, nameOf, view.setPage),
    focusForm: () => root?.querySelector<HTMLElement>('.canvas-layer')?.focus(),
  };
}

export type Desk = ReturnType<typeof useDesk>;
