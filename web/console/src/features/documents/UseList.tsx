import { answer, api } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useAnswer } from '../../shell/queries.ts';

/** Every place that would notice if something changed. */
export function UseList({ subject, name }: { subject: 'field' | 'role' | 'pattern'; name: string }) {
  const { data: uses } = useAnswer(['documents', 'uses', subject, name], () =>
    answer(api.GET('/api/impact', { params: { query: { subject, name } } })),
  );
  if (!uses) return null;
  return uses.length === 0 ? (
    <p className="field-uses">{say('data.nowhere')}</p>
  ) : (
    <ul className="field-uses">
      {uses.map((use) => (
        <li key={`${use.kind} ${use.key} ${use.place} ${use.as}`}>{use.message}</li>
      ))}
    </ul>
  );
}
