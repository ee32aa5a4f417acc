import type { Edit } from '#layout';
import type { Finding } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

const severities = { error: 'severity.error', warning: 'severity.warning', advice: 'severity.advice' } as const;

/** What the checks find, each with its place and, where there is one, what mends it. */
export function Findings({
  findings,
  onSelect,
  onMend,
}: {
  findings: Finding[];
  onSelect: (id: string) => void;
  onMend: (edits: Edit[], label: string) => void;
}) {
  return (
    <details className="findings" data-pane open={findings.some((finding) => finding.severity === 'error')}>
      <summary>{say('findings.count', findings.length)}</summary>
      <ul>
        {findings.map((finding) => (
          <li key={finding.code + finding.node + finding.message} data-severity={finding.severity}>
            <span className="finding-severity">{say(severities[finding.severity as 'error'])}</span>
            <button type="button" className="bt-link" onClick={() => onSelect(finding.node)}>
              {finding.message}
            </button>
            {finding.fix && (
              <button type="button" className="tool" onClick={() => onMend(finding.fix!.edits as unknown as Edit[], finding.fix!.label)}>
                {finding.fix.label}
              </button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
