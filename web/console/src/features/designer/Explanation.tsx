import { answer, api } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import type { PreviewContext } from './usePreviewForm.ts';
import { say } from '../../shell/configurator/texts.ts';

interface ExplanationState {
  shown: boolean | null;
  reasons: { node: string; message: string; shows: boolean }[];
}

/** Why what is selected is there, or is not, for whoever the sheet is looked at as. */
export function Explanation({
  layout,
  node,
  revision,
  context,
  onSelect,
}: {
  layout: string;
  node: string;
  revision: number;
  context: PreviewContext;
  onSelect: (id: string) => void;
}) {
  const { role, mode, record } = context;
  const query = {
    node,
    mode,
    ...(role ? { role } : {}),
    ...(mode !== 'create' && record !== undefined && record >= 0 ? { record } : {}),
  };
  const { data } = useAnswer(
    ['drafts', layout, 'explain', revision, query],
    () => answer(api.GET('/api/layouts/{key}/explain', { params: { path: { key: layout }, query } })),
    { keeps: true },
  );
  const told = data as ExplanationState | undefined;
  if (!told) return null;
  return (
    <fieldset className="properties-group why">
      <legend>
        {told.shown === null
          ? say('explanation.itIsThereForSome')
          : told.shown
            ? say('explanation.whyItIsThere')
            : say('explanation.whyItIsNotThere')}
      </legend>
      <ul>
        {told.reasons.map((reason) => (
          <li key={reason.node + reason.message} data-shows={reason.shows ? '' : undefined}>
            {reason.node === node ? (
              reason.message
            ) : (
              <button type="button" className="bt-link" onClick={() => onSelect(reason.node)}>
                {reason.message}
              </button>
            )}
          </li>
        ))}
        {told.reasons.length === 0 && <li data-shows="">{say('explanation.nothingHidesIt')}</li>}
      </ul>
    </fieldset>
  );
}
