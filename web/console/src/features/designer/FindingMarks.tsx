import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { flushSync } from 'react-dom';
import { isItem, walk, type Edit, type TreeNode } from '#layout';
import type { Finding } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { boxesOf, setBox } from './boxes.ts';
import { placeBeneath } from '#form';

/** How long the form is as it is before marks are placed on it, in milliseconds: nobody waits for them. */
const settled = 150;

interface FindingMarksProps {
  sheet: RefObject<HTMLElement | null>;
  /** Another text for another drawing of the form, at another width or another page of it. */
  drawn: string;
  tree: TreeNode;
  findings: readonly Finding[];
  onSelect: (id: string) => void;
  onMend: (edits: Edit[], label: string) => void;
}

/** What the checks find, where it is on the form, with what mends it. Advice is quiet. */
export function FindingMarks({ sheet, drawn, tree, findings, onSelect, onMend }: FindingMarksProps) {
  const marked = useMemo(() => drawnOn(tree, findings), [tree, findings]);
  const [opened, setOpened] = useState<string>();
  const panel = useRef<HTMLDivElement>(null);
  const marks = useRef<HTMLDivElement>(null);
  // Once the form has been as it is for a moment; while something is held over it nothing is placed.
  useEffect(() => {
    const soon = setTimeout(() => {
      if (sheet.current && marks.current) placeAll(sheet.current, marks.current);
    }, settled);
    return () => clearTimeout(soon);
  }, [sheet, marked, drawn]);
  const open = (id: string, button: HTMLElement) => {
    flushSync(() => {
      onSelect(id);
      setOpened(id);
    });
    panel.current?.showPopover();
    if (panel.current) placeBeneath(panel.current, button);
  };
  const here = (opened && marked.get(opened)) || [];
  return (
    <>
      <div className="mark-findings" ref={marks}>
        {[...marked].map(([id, found]) => (
          <div key={id} className="mark-finding" data-for={id} data-severity={worstOf(found)} hidden>
            <button
              type="button"
              title={say('canvas.findings', found.length)}
              aria-label={say('canvas.findings', found.length)}
              onClick={(event) => {
                event.stopPropagation();
                open(id, event.currentTarget);
              }}
            >
              !
            </button>
          </div>
        ))}
      </div>
      <div
        ref={panel}
        className="popover"
        popover="auto"
        role="dialog"
        aria-label={say('canvas.findings', here.length)}
        onClick={(event) => event.stopPropagation()}
      >
        <Found
          findings={here}
          onMend={(edits, label) => {
            panel.current?.hidePopover();
            onMend(edits, label);
          }}
        />
      </div>
    </>
  );
}

/** Places marks over what they are about. */
function placeAll(sheet: HTMLElement, marks: HTMLElement): void {
  const all = [...marks.querySelectorAll<HTMLElement>('[data-for]')];
  const boxes = boxesOf(
    sheet,
    all.map((mark) => ({ node: mark.dataset['for']! })),
  );
  for (const [i, mark] of all.entries()) {
    mark.toggleAttribute('hidden', !boxes[i]);
    if (boxes[i]) setBox(mark, boxes[i]);
  }
}

const order = ['error', 'warning', 'advice'];

const worstOf = (findings: readonly Finding[]) => order.find((severity) => findings.some((each) => each.severity === severity));

/** Findings by what is drawn: of a row or a cell by what is in it first. What is about the whole form stands in the list alone. */
function drawnOn(tree: TreeNode, findings: readonly Finding[]): Map<string, Finding[]> {
  const found = new Map<string, Finding[]>();
  if (findings.length === 0) return found;
  const drawn = new Map<string, string>();
  const look = (node: TreeNode) => {
    if (node.kind === 'variant' || node.kind === 'change') return;
    const shown =
      isItem(node.kind) || ['section', 'column', 'top', 'bottom'].includes(node.kind)
        ? node
        : node.kind === 'row' || node.kind === 'cell'
          ? [...walk(node)].find((each) => isItem(each.kind))
          : undefined;
    if (shown) drawn.set(node.id, shown.id);
    node.children.forEach(look);
  };
  look(tree);
  for (const finding of findings) {
    const at = drawn.get(finding.node);
    if (at) found.set(at, [...(found.get(at) ?? []), finding]);
  }
  return found;
}

/** What was found in one place, with what mends it. */
function Found({ findings, onMend }: Pick<FindingMarksProps, 'findings' | 'onMend'>) {
  return (
    <ul className="findings-here">
      {findings.map((finding) => (
        <li key={finding.code + finding.message}>
          <p>{finding.message}</p>
          {finding.fix && (
            <button type="button" className="tool" onClick={() => onMend(finding.fix!.edits as unknown as Edit[], finding.fix!.label)}>
              {finding.fix.label}
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
