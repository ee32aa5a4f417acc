import { isItem, pathTo, walk, type Edit, type TreeNode } from '#layout';
import type { Finding } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { Popover } from '../../ui/Popover.tsx';

interface FindingMarksProps {
  tree: TreeNode;
  findings: readonly Finding[];
  onSelect: (id: string) => void;
  onMend: (edits: Edit[], label: string) => void;
}

/** What the checks find, where it is on the form, with what mends it. Advice is quiet. */
export function FindingMarks({ tree, findings, onSelect, onMend }: FindingMarksProps) {
  return [...drawnOn(tree, findings)].map(([id, here]) => (
    <div key={id} className="mark-finding" data-for={id} data-severity={worstOf(here)}>
      <span onPointerDown={(event) => event.stopPropagation()} onClick={(event) => event.stopPropagation()}>
        <Popover label="!" name={say('canvas.findings', here.length)} className="finding-button" onOpen={() => onSelect(id)}>
          <ul className="findings-here">
            {here.map((finding) => (
              <li key={finding.code + finding.message}>
                <p>{finding.message}</p>
                {finding.fix && (
                  <button
                    type="button"
                    className="tool"
                    onClick={() => onMend(finding.fix!.edits as unknown as Edit[], finding.fix!.label)}
                  >
                    {finding.fix.label}
                  </button>
                )}
              </li>
            ))}
          </ul>
        </Popover>
      </span>
    </div>
  ));
}

const order = ['error', 'warning', 'advice'];

const worstOf = (findings: readonly Finding[]) => order.find((severity) => findings.some((each) => each.severity === severity));

/** Findings by what is drawn: of a row or a cell by what is in it first. What is about the whole form stands in the list alone. */
function drawnOn(tree: TreeNode, findings: readonly Finding[]): Map<string, Finding[]> {
  const found = new Map<string, Finding[]>();
  for (const finding of findings) {
    const path = pathTo(tree, finding.node);
    const node = path.at(-1);
    if (!node || path.some(({ kind }) => kind === 'variant' || kind === 'change')) continue;
    const drawn =
      isItem(node.kind) || ['section', 'column', 'top', 'bottom'].includes(node.kind)
        ? node
        : node.kind === 'row' || node.kind === 'cell'
          ? [...walk(node)].find((each) => isItem(each.kind))
          : undefined;
    if (drawn) found.set(drawn.id, [...(found.get(drawn.id) ?? []), finding]);
  }
  return found;
}
