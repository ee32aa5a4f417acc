import { lazy, Suspense, useMemo, type KeyboardEvent, type ReactNode } from 'react';
import { find, type TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { PaneTabs } from '../../ui/PaneTabs.tsx';
import { CommentsPane } from '../comments/index.ts';
import type { DeskActs } from './acts.ts';
import { Palette } from './Palette.tsx';
import type { Desk, Pane } from './useDesk.ts';
import type { Draft } from './draftState.ts';

// What is not there at first is fetched when it is opened.
const Changes = lazy(() => import('./Changes.tsx').then((module) => ({ default: module.Changes })));
const Outline = lazy(() => import('./Outline.tsx').then((module) => ({ default: module.Outline })));
const Source = lazy(() => import('./Source.tsx').then((module) => ({ default: module.Source })));

const panes = {
  fields: 'pane.fields',
  outline: 'pane.outline',
  changes: 'pane.changes',
  comments: 'pane.comments',
  source: 'pane.source',
} as const;

/** Words of our files that the text offers beside the fields. */
const fileWords = ['field', 'rows', 'title', 'sections', 'pages', 'visible', 'required', 'readOnly', 'label', 'help', 'span'].concat([
  'lines',
  'editor',
  'columns',
  'heading',
  'text',
]);

interface StartPaneProps {
  desk: Desk;
  acts: DeskActs;
  draft: Draft;
  tree: TreeNode;
  isPiece: boolean;
  onKeyDown: (event: KeyboardEvent) => void;
}

/** What can be placed, and other ways to look at the form: its outline, changes, comments, its text. */
export function StartPane(props: StartPaneProps) {
  const { left, setLeft, comments } = props.desk;
  return (
    <aside className="pane" data-pane data-side="start" aria-label={say('tour.parts')}>
      <PaneTabs
        label={say('tour.parts')}
        tabs={(Object.keys(panes) as Pane[]).map((each) => ({
          key: each,
          title: (
            <>
              {say(panes[each])}
              {each === 'comments' && comments.open.size > 0 && (
                <span className="count">{[...comments.open.values()].reduce((sum, count) => sum + count)}</span>
              )}
            </>
          ),
        }))}
        selected={left}
        onSelect={setLeft}
      >
        <Suspense fallback={<p className="palette-none">{say('designer.opening')}</p>}>{opened[left](props)}</Suspense>
      </PaneTabs>
    </aside>
  );
}

/** What each of them shows. */
const opened: Record<Pane, (props: StartPaneProps) => ReactNode> = {
  fields: ({ desk, acts, tree, isPiece }) => (
    <Palette
      entity={desk.entity}
      tree={tree}
      pieces={desk.pieces.filter((piece) => piece.key !== desk.layoutKey)}
      onStart={acts.start}
      onStartSeveral={acts.placeSeveral}
      onSelect={(id) => {
        desk.select(id);
        desk.setRegion('form');
      }}
      onAddField={isPiece ? undefined : () => desk.dialogs.setAdding(true)}
    />
  ),
  outline: ({ desk, acts, draft, tree, onKeyDown }) => (
    <Outline
      tree={tree}
      facts={desk.facts}
      selection={desk.selection}
      findings={draft.findings}
      nameOf={desk.nameOf}
      onSelect={(ids) => {
        desk.select(ids.at(-1));
        desk.selectAll(ids);
      }}
      onPlace={(chosen, subject) => void acts.place(chosen, subject)}
      renaming={desk.renaming ? acts.parts.written : undefined}
      onRename={acts.rename}
      onBeginRename={acts.beginRename}
      onKeyDown={onKeyDown}
    />
  ),
  changes: ({ desk, draft }) => (
    <Changes
      draft={draft}
      shown={desk.compared !== undefined}
      onShow={desk.setCompared}
      onEdit={(edits, label) => void desk.state.apply(edits, label)}
    />
  ),
  comments: ({ desk, tree }) => (
    <CommentsPane
      comments={desk.comments}
      whole={say('designer.thisForm')}
      about={desk.selected === tree.id ? undefined : desk.selected}
      nameOf={(id) => find(tree, id) && desk.nameOf(id)}
      onSelect={desk.select}
    />
  ),
  source: (props) => <SourcePane {...props} />,
};

function SourcePane({ desk, draft }: StartPaneProps) {
  const words = useMemo(() => [...desk.labels.keys(), ...fileWords], [desk.labels]);
  return (
    <Source
      layoutKey={draft.key}
      revision={draft.revision}
      selected={desk.selected}
      words={words}
      onSaved={() => void desk.state.refresh()}
    />
  );
}
