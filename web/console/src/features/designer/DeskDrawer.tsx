import { lazy, Suspense, useEffect, useEffectEvent, useMemo, useRef, type ReactNode } from 'react';
import { find, type TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { CommentsPane } from '../comments/index.ts';
import type { Draft } from './draftState.ts';
import type { Desk, Drawer } from './useDesk.ts';

// What is not there at first is fetched when it is opened.
const Changes = lazy(() => import('./Changes.tsx').then((module) => ({ default: module.Changes })));
const Proposals = lazy(() => import('./Proposals.tsx').then((module) => ({ default: module.Proposals })));
const Source = lazy(() => import('./Source.tsx').then((module) => ({ default: module.Source })));

export const drawers = { proposals: 'pane.proposals', changes: 'pane.changes', comments: 'pane.comments', source: 'pane.source' } as const;

/** Words of our files that the text offers beside the fields. */
const fileWords = ['field', 'rows', 'title', 'sections', 'pages', 'visible', 'required', 'readOnly', 'label', 'help', 'span'].concat([
  'lines',
  'editor',
  'columns',
  'heading',
  'text',
]);

interface DeskDrawerProps {
  desk: Desk;
  draft: Draft;
  tree: TreeNode;
}

/** The draft's history, what is said about it, its text: drawn over the properties, and put away by Escape. */
export function DeskDrawer(props: DeskDrawerProps) {
  const { drawer } = props.desk;
  return drawer ? <OpenDrawer key={drawer} drawer={drawer} {...props} /> : null;
}

function OpenDrawer({ drawer, ...props }: DeskDrawerProps & { drawer: Drawer }) {
  const { setDrawer, focusForm } = props.desk;
  const element = useRef<HTMLElement>(null);
  useEffect(() => element.current?.focus(), []);
  const close = () => {
    setDrawer(undefined);
    focusForm();
  };
  const escape = useEffectEvent((event: KeyboardEvent) => {
    const target = event.target as Node;
    // The focus is nowhere when what had it has gone, as a button does that has done its work.
    const here = target === document.body || element.current?.contains(target);
    if (event.key === 'Escape' && here && !event.defaultPrevented) close();
  });
  useEffect(() => {
    window.addEventListener('keydown', escape);
    return () => window.removeEventListener('keydown', escape);
  }, []);
  return (
    <aside ref={element} className="drawer" data-pane data-drawer={drawer} tabIndex={-1} aria-label={say(drawers[drawer])}>
      <header className="drawer-head">
        <h2>{say(drawers[drawer])}</h2>
        <button type="button" className="tool" aria-label={say('drawer.close')} title={say('drawer.close')} onClick={close}>
          ×
        </button>
      </header>
      <div className="drawer-body">
        <Suspense fallback={<p className="palette-none">{say('designer.opening')}</p>}>{opened[drawer](props)}</Suspense>
      </div>
    </aside>
  );
}

/** What each of them shows. */
const opened: Record<Drawer, (props: DeskDrawerProps) => ReactNode> = {
  proposals: ({ desk, draft }) => <Proposals desk={desk} draft={draft} />,
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

function SourcePane({ desk, draft }: DeskDrawerProps) {
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
