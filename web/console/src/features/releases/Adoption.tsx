import { answer, api } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { say } from '../../shell/configurator/texts.ts';

/** How many open browsers have drawn a release, counted as they say so. */
export function Adoption({ release }: { release: number }) {
  const { data } = useAnswer(
    ['releases', 'adoption', release],
    () => answer(api.GET('/api/releases/{number}/adoption', { params: { path: { number: release } } })),
    { every: 1_000 },
  );
  return <span role="status">{data === undefined ? '…' : say('adoption.count', Number(data.drawn), Number(data.open))}</span>;
}
