import { usePageTitle } from '../../shell/hooks.ts';
import type { TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import { textIn } from '../../shell/localTexts.ts';
import { address } from '../../shell/location.ts';
import { Scope } from './conditionScope.ts';
import './designer.css';
import { deskActs } from './deskActs.ts';
import { DeskFoot } from './DeskFoot.tsx';
import { DeskDialogs } from './DeskDialogs.tsx';
import { canvasKeys, useWindowKeys } from './deskKeys.ts';
import { DeskSheet } from './DeskSheet.tsx';
import { DesignerBar } from './DesignerBar.tsx';
import { DeskDrawer } from './DeskDrawer.tsx';
import { EndPane } from './EndPane.tsx';
import { StartPane } from './StartPane.tsx';
import { usePanes, type Side } from './usePanes.ts';
import { useDesk, type Desk, type DesignerProps, type Region } from './useDesk.ts';
import type { Draft } from './draftState.ts';
import { NoticeBox } from '../../ui/Notice.tsx';

const regions = { fields: 'region.fields', form: 'region.form', view: 'region.view', properties: 'region.properties' } as const;

/** The place where a form is laid out: what can be placed at the left, the form itself, what is selected at the right, findings below. */
export function Designer(props: DesignerProps) {
  const desk = useDesk(props);
  const { draft, message } = desk.state;
  if (draft && desk.tree) return <OpenDesk desk={desk} draft={draft} tree={desk.tree} />;
  return (
    <main className="page">
      {message && (
        <NoticeBox tone="bad">
          {message.text} <a href={address('layouts')}>{say('designer.backToTheLayouts')}</a>
        </NoticeBox>
      )}
    </main>
  );
}

function OpenDesk({ desk, draft, tree }: { desk: Desk; draft: Draft; tree: TreeNode }) {
  const acts = deskActs(desk);
  const { state, context, dialogs, setRoot } = desk;
  const onKeyDown = canvasKeys(desk, acts);
  useWindowKeys({ root: desk.root, undo: state.undo, redo: state.redo, listCommands: () => acts.listCommands('all') });
  const kind = String(tree.properties['kind'] ?? 'full');
  const isPiece = kind === 'piece';
  const title = textIn(tree.properties['title'], context.language) || String(tree.properties['entity'] ?? draft.key);
  usePageTitle(title);
  const common = { desk, acts, draft, tree };
  const sizes = usePanes();
  const widthOf = (side: Side) => (sizes.panes[side].folded ? '0px' : `${sizes.panes[side].width}px`);
  const folded = (['start', 'end'] as const).filter((side) => sizes.panes[side].folded).join(' ') || undefined;
  return (
    <Scope
      value={{ layout: draft.key, fields: desk.fields, roles: desk.roles, record: inView(desk), role: context.role, mode: context.mode }}
    >
      <div
        className="designer"
        data-region={desk.region}
        data-revision={draft.revision}
        data-folded={folded}
        data-open={desk.drawer}
        style={{ '--start': widthOf('start'), '--end': widthOf('end') } as React.CSSProperties}
        ref={setRoot}
      >
        <DesignerBar
          state={state}
          from={desk.from}
          title={title}
          isPiece={isPiece}
          widths={desk.widths}
          width={desk.width}
          onWidth={acts.chooseWidth}
          trying={desk.trying}
          onTry={() => desk.setTrying(!desk.trying)}
          onCommands={() => acts.listCommands('all')}
          onPublish={() => dialogs.setPublishing(true)}
        />
        <StartPane {...common} isPiece={isPiece} onKeyDown={onKeyDown} />
        <DeskSheet {...common} sizes={sizes} kind={kind} onKeyDown={onKeyDown} />
        <EndPane {...common} title={title} />
        <DeskDrawer {...common} />
        <DeskFoot desk={desk} draft={draft} kind={kind} />
        <RegionSwitch region={desk.region} onChange={desk.setRegion} />
        <DeskDialogs {...common} title={title} />
      </div>
    </Scope>
  );
}

/** The record that is in view; nothing for a new or a made-up one. */
function inView({ context, names }: Desk): { id: number; title: string } | undefined {
  const { record, mode } = context;
  if (mode === 'create' || record === undefined || record < 0) return undefined;
  return { id: record, title: names.find((name) => name.id === record)?.title ?? String(record) };
}

/** In a narrow window: which part of the designer is there. */
function RegionSwitch({ region, onChange }: { region: Region; onChange: (region: Region) => void }) {
  return (
    <nav className="region-switch" aria-label={say('designer.partsOfTheDesigner')}>
      {(Object.keys(regions) as Region[]).map((each) => (
        <button key={each} type="button" aria-pressed={region === each} onClick={() => onChange(each)}>
          {say(regions[each])}
        </button>
      ))}
    </nav>
  );
}
