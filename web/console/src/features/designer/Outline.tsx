import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { createContext, useContext, useEffect, useMemo, useRef, useState } from 'react';
import { Button, Collection, Tree, TreeItem, TreeItemContent, type Key } from 'react-aria-components';
import { isItem, kindOf, placeAt, type Edge, type Facts, type Place, type Subject, type TreeNode } from '#layout';
import type { Finding } from '../../api/client.ts';
import { Rename } from './Rename.tsx';
import { say } from '../../shell/configurator/texts.ts';
import { briefly } from './names.ts';

interface Entry {
  id: string;
  name: string;
  kind: string;
  finding: string | undefined;
  children: Entry[];
}

/**
 * The levels of the form. Rows and cells that hold one thing are passed over, since they say nothing of their own.
 */
function entries(nodes: TreeNode[], nameOf: (id: string) => string, findings: Map<string, string>): Entry[] {
  return nodes.flatMap((node): Entry[] => {
    // What a width or a use has differently is no level of the form; it has lists of its own.
    if (node.kind === 'variant' || node.kind === 'change') return [];
    const below = entries(node.children, nameOf, findings);
    if (node.kind === 'body' || node.kind === 'cell' || (node.kind === 'row' && below.length === 1)) return below;
    return [
      {
        id: node.id,
        name: nameOf(node.id),
        kind: node.kind,
        finding: findings.get(node.id),
        children: below,
      },
    ];
  });
}

export interface OutlineProps {
  tree: TreeNode;
  facts: Facts;
  selection: string[];
  findings: Finding[];
  nameOf: (id: string) => string;
  onSelect: (ids: string[]) => void;
  onPlace: (place: Place, subject: Subject) => void;
  /** The name of a node is being written in its line. */
  renaming: string | undefined;
  onRename: (name: string | undefined) => void;
  onBeginRename: () => void;
  /** The keys that do something with the selection, as on the form. */
  onKeyDown: (event: React.KeyboardEvent) => void;
}

const Outlined = createContext<OutlineProps | undefined>(undefined);

export function Outline(props: OutlineProps) {
  const { tree, selection, findings, nameOf, onSelect } = props;
  const [folded, setFolded] = useState<Set<Key>>(new Set());
  const marked = useMemo(() => new Map(findings.map((finding) => [finding.node, finding.severity])), [findings]);
  const items = entries(tree.children, nameOf, marked);
  const all: string[] = [];
  const gather = (entry: Entry) => {
    all.push(entry.id);
    entry.children.forEach(gather);
  };
  items.forEach(gather);
  return (
    <Outlined value={props}>
      <div
        className="outline-keys"
        onKeyDownCapture={(event) => {
          if ((event.target as Element).matches('input')) return;
          if (
            event.altKey ||
            ['Delete', 'F2', 'ContextMenu'].includes(event.key) ||
            ((event.ctrlKey || event.metaKey) && 'cx'.includes(event.key))
          )
            props.onKeyDown(event);
        }}
      >
        <Tree
          className="outline"
          aria-label={say('outline.outlineOfTheForm')}
          items={items}
          selectionMode="multiple"
          selectionBehavior="replace"
          selectedKeys={selection.filter((id) => all.includes(id))}
          dependencies={[props.renaming, selection]}
          onSelectionChange={(keys) => {
            const chosen = keys === 'all' ? all : [...keys].map(String);
            if (chosen.length > 0)
              onSelect([...selection.filter((id) => chosen.includes(id)), ...chosen.filter((id) => !selection.includes(id))]);
          }}
          expandedKeys={all.filter((id) => !folded.has(id))}
          onExpandedChange={(keys) => setFolded(new Set(all.filter((id) => !keys.has(id))))}
        >
          {render}
        </Tree>
      </div>
    </Outlined>
  );
}

function render(entry: Entry) {
  return (
    <TreeItem id={entry.id} textValue={entry.name} className="outline-item" data-kind={isItem(entry.kind as never) ? 'item' : entry.kind}>
      <TreeItemContent>
        {({ level, hasChildItems, isExpanded }) => (
          <Line entry={entry} level={level} fold={hasChildItems ? (isExpanded ? '▾' : '▸') : undefined} />
        )}
      </TreeItemContent>
      <Collection items={entry.children}>{render}</Collection>
    </TreeItem>
  );
}

/**
 * One line of the outline: dragged to another place, or taking what is dragged above, below or inside it, wherever that is legal on the
 * form.
 */
function Line({ entry, level, fold }: { entry: Entry; level: number; fold: string | undefined }) {
  const { tree, facts, selection, renaming, onPlace, onRename, onBeginRename } = useContext(Outlined)!;
  const element = useRef<HTMLSpanElement>(null);
  const [edge, setEdge] = useState<Edge>();
  const now = useRef({ tree, facts, onPlace });
  useEffect(() => {
    now.current = { tree, facts, onPlace };
  });
  useEffect(() => {
    const line = element.current!;
    const read = (clientY: number, subject: Subject): Place | undefined => {
      const box = line.getBoundingClientRect();
      const part = (clientY - box.top) / box.height;
      const edges = edgesAt(part, kindOf(now.current.tree, subject) === 'page');
      return edges
        .map((each) => placeAt(now.current.tree, subject, { target: entry.id, edge: each }, now.current.facts))
        .find((place) => place !== undefined);
    };
    const stops = [
      draggable({ element: line, getInitialData: () => ({ subject: { node: entry.id } }) }),
      dropTargetForElements({
        element: line,
        onDragEnter: ({ location, source }) => setEdge(read(location.current.input.clientY, source.data['subject'] as Subject)?.edge),
        onDrag: ({ location, source }) => setEdge(read(location.current.input.clientY, source.data['subject'] as Subject)?.edge),
        onDragLeave: () => setEdge(undefined),
        onDrop: ({ location, source }) => {
          setEdge(undefined);
          const subject = source.data['subject'] as Subject;
          const place = read(location.current.input.clientY, subject);
          if (place) now.current.onPlace(place, subject);
        },
      }),
    ];
    return () => stops.forEach((stop) => stop());
  }, [entry.id]);
  const writing = renaming !== undefined && selection.at(-1) === entry.id;
  return (
    <span
      ref={element}
      className="outline-line"
      data-edge={edge}
      style={{ paddingInlineStart: 6 + (level - 1) * 14 }}
      onDoubleClick={onBeginRename}
    >
      {fold ? (
        <Button slot="chevron" className="outline-fold">
          {fold}
        </Button>
      ) : (
        <span className="outline-fold" />
      )}
      {writing ? (
        <Rename name={renaming} onDone={onRename} />
      ) : (
        <span className="outline-name" title={entry.name}>
          {briefly(entry.name, 60)}
        </span>
      )}
      {entry.finding && (
        <span className="outline-finding" data-severity={entry.finding} aria-label={entry.finding}>
          ●
        </span>
      )}
    </span>
  );
}

/**
 * What a height within a line means, as a share of it, the likelier first. Tabs stand side by side on the form, one under another here; the
 * lower part of what holds others means inside it.
 */
function edgesAt(part: number, sideways: boolean): Edge[] {
  if (sideways) return [part < 0.5 ? 'left' : 'right'];
  if (part < 0.3) return ['above', 'inside'];
  return part > 0.7 ? ['below', 'inside'] : ['inside', part < 0.5 ? 'above' : 'below'];
}
