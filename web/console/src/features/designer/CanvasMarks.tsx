import type { RefObject } from 'react';
import { find, type TreeNode } from '#layout';
import { say } from '../../shell/configurator/texts.ts';
import type { CanvasProps } from './canvasProps.ts';
import { FindingMarks } from './FindingMarks.tsx';
import { OthersMarks } from './OthersMarks.tsx';
import { Rename } from './Rename.tsx';
import { Sizes } from './Sizes.tsx';
import { TabOrder } from './TabOrder.tsx';
import { briefly } from './names.ts';

const changes = { added: 'mark.added', moved: 'mark.moved', changed: 'mark.changed' } as const;

/** What is laid over the form: changes, comments, what is under the pointer and what is selected. Placed by what it is for. */
export function CanvasMarks({
  sheet,
  hovered,
  row,
  ...props
}: CanvasProps & {
  sheet: RefObject<HTMLDivElement | null>;
  hovered: string | undefined;
  /** The row the pointer is in. */
  row: string | undefined;
}) {
  const { store, tree, selection, nameOf } = props;
  const selected = selection.at(-1);
  return (
    <>
      {[...props.marks].map(([id, mark]) => (
        <div key={id} className="mark-change" data-change={mark.what} data-for={id} title={mark.words}>
          <span>{say(changes[mark.what])}</span>
        </div>
      ))}
      <SaidMarks comments={props.comments} onComments={props.onComments} />
      <OthersMarks others={props.others} />
      <FindingMarks
        sheet={sheet}
        drawn={`${props.width} ${props.page ?? ''}`}
        tree={tree}
        findings={props.findings}
        onSelect={(id) => props.onSelect(id, false)}
        onMend={props.onMend}
      />
      {props.tabOrder && <TabOrder sheet={sheet} />}
      <EmptyMarks tree={tree} onCloseUp={props.onCloseUp} />
      {row && (
        <div className="mark-row" data-for={row}>
          <span title={say('kind.row')} />
        </div>
      )}
      {hovered && !selection.includes(hovered) && <div className="mark-hover" data-for={hovered} />}
      {selection.map((id) => (
        <div key={id} className="mark-selected" data-for={id}>
          {id === selected &&
            (props.renaming === undefined ? (
              <span className="mark-name">{selection.length > 1 ? say('common.selected', selection.length) : briefly(nameOf(id), 26)}</span>
            ) : (
              <Rename
                name={props.renaming}
                {...(find(tree, id)?.kind === 'text' ? { lines: true } : {})}
                onDone={props.onRename}
                over={() => wordsOf(sheet.current, id)}
              />
            ))}
        </div>
      ))}
      {selected && selection.length === 1 && props.renaming === undefined && (
        <Sizes
          key={selected}
          sheet={sheet}
          tree={tree}
          node={selected}
          rightToLeft={store.form.language.startsWith('ar')}
          onSize={props.onSize}
        />
      )}
    </>
  );
}

/** What is drawn of a part, and in that the words it is called by; of what is all words, itself. */
function wordsOf(sheet: HTMLElement | null, id: string) {
  const node = CSS.escape(id);
  const drawn = sheet?.querySelector(`[data-node="${node}"], [data-tab="${node}"]`);
  return drawn ? { drawn, words: drawn.querySelector('.bt-section-title, .bt-label, .bt-heading') ?? drawn } : undefined;
}

/** What is empty on the form and takes drops: cells, and sections and pages in which nothing is. */
function emptyPlaces(tree: TreeNode): TreeNode[] {
  const found: TreeNode[] = [];
  const look = (node: TreeNode) => {
    if (node.kind === 'variant' || node.kind === 'change') return;
    if (node.children.length === 0 && ['cell', 'section', 'page'].includes(node.kind)) found.push(node);
    node.children.forEach(look);
  };
  look(tree);
  return found;
}

/** How much is said of what, where it stands. */
function SaidMarks({ comments, onComments }: { comments: CanvasProps['comments']; onComments: CanvasProps['onComments'] }) {
  return (
    <>
      {[...comments].map(
        ([id, count]) =>
          id && (
            <div key={`said ${id}`} className="mark-said" data-for={id}>
              <span
                title={say('canvas.openComments', count)}
                onClick={(event) => {
                  event.stopPropagation();
                  onComments(id);
                }}
              >
                {count}
              </span>
            </div>
          ),
      )}
    </>
  );
}

/** What takes drops, and how an empty cell is done away with. */
function EmptyMarks({ tree, onCloseUp }: { tree: TreeNode; onCloseUp: CanvasProps['onCloseUp'] }) {
  return (
    <>
      {emptyPlaces(tree).map(({ id, kind }) => (
        <div key={id} className="mark-empty" data-kind={kind} data-for={id}>
          {kind === 'cell' ? (
            <button
              type="button"
              title={say('canvas.closeUp')}
              aria-label={say('canvas.closeUp')}
              onClick={(event) => {
                event.stopPropagation();
                onCloseUp(id);
              }}
            >
              ×
            </button>
          ) : (
            <span>{say('canvas.dropFieldsHere')}</span>
          )}
        </div>
      ))}
    </>
  );
}
