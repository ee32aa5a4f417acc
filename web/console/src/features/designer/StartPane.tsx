import { lazy, Suspense, type KeyboardEvent, type ReactNode } from 'react';
import type { TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { PaneTabs } from '../../ui/PaneTabs.tsx';
import type { DeskActs } from './acts.ts';
import { Palette } from './Palette.tsx';
import type { Desk, Pane } from './useDesk.ts';
import type { Draft } from './draftState.ts';

// What is not there at first is fetched when it is opened.
const Outline = lazy(() => import('./Outline.tsx').then((module) => ({ default: module.Outline })));

const panes = {
  fields: 'pane.fields',
  outline: 'pane.outline',
} as const;

interface StartPaneProps {
  desk: Desk;
  acts: DeskActs;
  draft: Draft;
  tree: TreeNode;
  isPiece: boolean;
  onKeyDown: (event: KeyboardEvent) => void;
}

/** What can be placed, and what is: the form's outline. */
export function StartPane(props: StartPaneProps) {
  const { left, setLeft } = props.desk;
  return (
    <aside className="pane" data-pane data-side="start" aria-label={say('pane.parts')}>
      <PaneTabs
        label={say('pane.parts')}
        tabs={(Object.keys(panes) as Pane[]).map((each) => ({
          key: each,
          title: say(panes[each]),
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
};
