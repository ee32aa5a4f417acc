import { useMemo, useState } from 'react';
import { Button, Collection, Tree, TreeItem, TreeItemContent, type Key } from 'react-aria-components';
import type { Finding } from '../api/client.ts';
import { isItem, type TreeNode } from './tree.ts';

interface Entry {
  id: string;
  name: string;
  kind: string;
  finding: string | undefined;
  children: Entry[];
}

/** The levels of the form. Rows and cells that hold one thing are passed over, since they say nothing of their own. */
function entries(nodes: TreeNode[], nameOf: (id: string) => string, findings: Map<string, string>): Entry[] {
  return nodes.flatMap((node): Entry[] => {
    const below = entries(node.children, nameOf, findings);
    if (node.kind === 'body' || node.kind === 'cell' || (node.kind === 'row' && below.length === 1)) return below;
    return [{ id: node.id, name: node.kind === 'row' ? 'Row' : nameOf(node.id), kind: node.kind, finding: findings.get(node.id), children: below }];
  });
}

export function Outline({ tree, selection, findings, nameOf, onSelect }: { tree: TreeNode; selection: string[]; findings: Finding[]; nameOf: (id: string) => string; onSelect: (ids: string[]) => void }) {
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
    <Tree
      className="outline" aria-label="Outline of the form" items={items} selectionMode="multiple" selectionBehavior="replace" selectedKeys={selection.filter((id) => all.includes(id))}
      onSelectionChange={(keys) => {
        const chosen = keys === 'all' ? all : [...keys].map(String);
        if (chosen.length > 0) onSelect([...selection.filter((id) => chosen.includes(id)), ...chosen.filter((id) => !selection.includes(id))]);
      }}
      expandedKeys={all.filter((id) => !folded.has(id))} onExpandedChange={(keys) => setFolded(new Set(all.filter((id) => !keys.has(id))))}
    >
      {render}
    </Tree>
  );
}

function render(entry: Entry) {
  return (
    <TreeItem id={entry.id} textValue={entry.name} className="outline-item" data-kind={isItem(entry.kind as never) ? 'item' : entry.kind}>
      <TreeItemContent>
        {({ level, hasChildItems, isExpanded }) => (
          <span className="outline-line" style={{ paddingInlineStart: 6 + (level - 1) * 14 }}>
            {hasChildItems ? <Button slot="chevron" className="outline-fold">{isExpanded ? '▾' : '▸'}</Button> : <span className="outline-fold" />}
            <span className="outline-name">{entry.name}</span>
            {entry.finding && <span className="outline-finding" data-severity={entry.finding} aria-label={entry.finding}>●</span>}
          </span>
        )}
      </TreeItemContent>
      <Collection items={entry.children}>{render}</Collection>
    </TreeItem>
  );
}
