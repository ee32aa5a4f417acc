import { useState, type KeyboardEvent } from 'react';
import { removal, type TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { Canvas } from './Canvas.tsx';
import { drawItem } from './drawItem.ts';
import type { DeskActs } from './acts.ts';
import { FingerBar } from './FingerBar.tsx';
import { marksOf } from './marks.ts';
import { PaneEdge } from './PaneEdge.tsx';
import { PreviewBar } from './PreviewBar.tsx';
import { SideBySide } from './SideBySide.tsx';
import type { usePanes } from './usePanes.ts';
import type { Desk } from './useDesk.ts';
import type { Draft } from './draftState.ts';
import { followPointer, WidthScale, within } from './WidthScale.tsx';

const noMarks = new Map<string, never>();

interface DeskSheetProps {
  desk: Desk;
  acts: DeskActs;
  draft: Draft;
  tree: TreeNode;
  kind: string;
  sizes: ReturnType<typeof usePanes>;
  onKeyDown: (event: KeyboardEvent) => void;
}

/** The form itself, as wide as it is looked at, under what it is looked at through. */
export function DeskSheet(props: DeskSheetProps) {
  const { desk, acts, draft, kind } = props;
  const { context, setContext, form, store } = desk;
  const [byFinger, setByFinger] = useState(false);
  const [gathering, setGathering] = useState(false);
  const beside = store && form && kind !== 'list' ? context.beside : undefined;
  return (
    <main className="desk" data-pane onPointerDownCapture={(event) => setByFinger(event.pointerType === 'touch')}>
      <PreviewBar context={context} names={desk.names} kind={kind} onChange={setContext} trying={desk.trying} />
      {draft.entity !== '' && kind !== 'piece' && (
        <WidthScale
          tree={draft.tree}
          widths={desk.widths}
          chosen={desk.width}
          width={context.width}
          onWidth={(pixels) => setContext((before) => ({ ...before, width: pixels }))}
          onChoose={acts.chooseWidth}
          onCut={() => void acts.cut()}
        />
      )}
      <PaneEdge side="start" sizes={props.sizes} />
      <PaneEdge side="end" sizes={props.sizes} />
      <div className="sheet-frame" data-beside={beside ? '' : undefined}>
        <Sheet {...props} gathering={byFinger && gathering} />
        {beside && form && (
          <SideBySide
            key={beside}
            form={form}
            values={desk.values}
            references={desk.record?.references ?? {}}
            page={desk.page}
            width={beside}
            zoom={context.zoom}
          />
        )}
      </div>
      {byFinger && desk.selected && !desk.trying && !desk.placing.subject && (
        <FingerBar desk={desk} acts={acts} gathering={gathering} onGathering={setGathering} />
      )}
    </main>
  );
}

function Sheet({ desk, acts, draft, tree, onKeyDown, gathering }: DeskSheetProps & { gathering: boolean }) {
  const { context, setContext, width, store, compared } = desk;
  const drag = (event: React.PointerEvent<HTMLElement>) => {
    const { width: from, zoom } = context;
    followPointer(event, (by) => setContext((before) => ({ ...before, width: within(from + (by * (before.beside ? 1 : 2)) / zoom) })));
  };
  const openComments = (id: string) => {
    desk.select(id);
    desk.setDrawer('comments');
  };
  return (
    <div
      className="sheet"
      data-width={width && desk.widths.findIndex((each) => each.name === width) + 1}
      style={{ width: context.width, zoom: context.zoom }}
    >
      <div className="sheet-edge" title={say('designer.dragToChangeTheSheet')} onPointerDown={drag} />
      {store && desk.form && (
        <Canvas
          store={store}
          tree={tree}
          facts={desk.facts}
          width={context.width}
          selection={desk.selection}
          trying={desk.trying}
          page={desk.page}
          onPage={desk.setPage}
          onSelect={(id, how) => desk.select(id, gathering || how)}
          renaming={desk.left === 'outline' || !desk.renaming ? undefined : acts.parts.written}
          onRename={acts.rename}
          onBeginRename={acts.beginRename}
          onSize={(node, property, value) =>
            void acts.change(
              [{ op: 'set', node, property, value }],
              say(property === 'lines' ? 'designer.linesOf' : 'common.widthOf', desk.nameOf(desk.selected ?? node)),
            )
          }
          onMenu={(at) => acts.listCommands('selection', at)}
          onHold={desk.foresee}
          onPlace={acts.place}
          onPlaceSeveral={acts.placeSeveral}
          onSelectAll={desk.selectAll}
          onCloseUp={(cell) => void acts.change(removal(tree, cell), say('canvas.closeUp'))}
          draw={(node) =>
            desk.store &&
            drawItem(node, desk.store, desk.values, { fields: desk.fields, language: context.language, body: '' }, desk.placedPiece(node))
          }
          nameOf={desk.nameOf}
          spot={desk.placing.spot}
          placing={desk.placing.subject}
          onKeyDown={onKeyDown}
          marks={compared ? marksOf(tree, compared.edits, compared.summary) : noMarks}
          findings={draft.findings}
          onMend={(edits, label) => void desk.state.apply(edits, label)}
          others={desk.others}
          comments={desk.comments.open}
          onComments={openComments}
          tabOrder={context.tabOrder}
          onPaste={(text) => void acts.reuse.paste(text)}
        />
      )}
    </div>
  );
}
