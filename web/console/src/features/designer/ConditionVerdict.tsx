import { useContext, useEffect, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { Scope } from './conditionScope.ts';

export interface ConditionReport {
  /** The text this is known of. */
  of: string;
  problems: { start: number; length: number; message: string }[];
  tree?: unknown;
  holds?: { verdict: string; example: string | null } | null;
  fails?: { verdict: string; example: string | null } | null;
  result: string | null;
}

/**
 * What the service says of a condition, for the record and role in view; of the text before, until it has said it of this one.
 * @param typing it is being written: asked once nobody types
 */
export function useConditionReport(text: string, typing: boolean): ConditionReport | undefined {
  const { layout, record, role, mode } = useContext(Scope) ?? {};
  const [known, setKnown] = useState<ConditionReport>();
  useEffect(() => {
    if (!layout || text.trim() === '') return;
    let left = false;
    const timer = setTimeout(
      () => {
        const body = { text, record: mode === 'create' ? null : (record?.id ?? null), role: role || null, mode: mode ?? null };
        answer(api.POST('/api/layouts/{key}/conditions/check', { params: { path: { key: layout } }, body })).then(
          (found) => {
            if (!left) setKnown({ ...(found as unknown as ConditionReport), of: text });
          },
          () => undefined,
        );
      },
      typing ? 200 : 0,
    );
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [layout, text, typing, record?.id, role, mode]);
  return text.trim() === '' ? undefined : known;
}

/** What is wrong with a condition and where; or what it comes to. */
export function ConditionVerdict({ id, known }: { id: string; known: ConditionReport | undefined }) {
  const { record, mode } = useContext(Scope) ?? {};
  return (
    <div id={id} className="condition-said" aria-live="polite">
      {known?.problems.map((problem) => (
        <p key={problem.message} className="property-wrong">
          <code>
            {known.of.slice(0, problem.start)}
            <mark>{known.of.slice(problem.start, problem.start + problem.length) || '…'}</mark>
            {known.of.slice(problem.start + problem.length)}
          </code>
          <br />
          {problem.message}
        </p>
      ))}
      {known && known.problems.length === 0 && <Verdict known={known} record={mode === 'create' ? undefined : record?.title} />}
    </div>
  );
}

const results = { holds: 'conditionEditor.holdsFor', 'does not hold': 'conditionEditor.doesNotHoldFor' } as const;

/** What a condition comes to: for the record in view, and for all there can be. */
function Verdict({ known, record }: { known: ConditionReport; record: string | undefined }) {
  const never = known.holds?.verdict === 'no';
  const always = known.fails?.verdict === 'no';
  return (
    <p data-warn={never || always ? '' : undefined}>
      {record && known.result && (
        <span className="condition-now" data-holds={known.result === 'holds' ? '' : undefined}>
          {say(results[known.result as 'holds'] ?? 'conditionEditor.resultFor', record, known.result)}{' '}
        </span>
      )}
      {never
        ? say('conditionEditor.noRecordCanMakeIt')
        : always
          ? say('conditionEditor.itHoldsForEveryRecord')
          : known.holds?.verdict === 'yes' && known.holds.example
            ? say('conditionEditor.itHoldsForExampleWith', known.holds.example)
            : ''}
    </p>
  );
}
