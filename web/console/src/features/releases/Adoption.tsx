import { useEffect, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

/** How many open browsers have drawn a release, counted as they say so. */
export function Adoption({ release }: { release: number }) {
  const [count, setCount] = useState<{ open: number; drawn: number }>();
  useEffect(() => {
    let left = false;
    const reload = () =>
      answer(api.GET('/api/releases/{number}/adoption', { params: { path: { number: release } } })).then(
        (found) => {
          if (!left) setCount({ open: Number(found.open), drawn: Number(found.drawn) });
        },
        () => undefined,
      );
    void reload();
    const again = setInterval(() => void reload(), 1_000);
    return () => {
      left = true;
      clearInterval(again);
    };
  }, [release]);
  return <span role="status">{count === undefined ? '…' : say('adoption.count', count.drawn, count.open)}</span>;
}
