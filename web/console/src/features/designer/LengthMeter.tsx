import { useEffect, useState } from 'react';
import { answer, api } from '../../api/client.ts';

interface Length {
  width: string;
  rows: number;
  screens: number;
}

/** How long the form is at each width, now and as it is published. */
export function LengthMeter({ layout, revision, published }: { layout: string; revision: number; published: number | null }) {
  const [now, setNow] = useState<readonly Length[]>([]);
  const [before, setBefore] = useState<readonly Length[]>([]);
  useEffect(() => {
    let left = false;
    const ask = (released: boolean, take: (lengths: readonly Length[]) => void) =>
      void answer(api.GET('/api/layouts/{key}/length', { params: { path: { key: layout }, query: { released } } })).then((found) => { if (!left) take(found); }, () => { if (!left) take([]); });
    ask(false, setNow);
    if (published !== null) ask(true, setBefore);
    return () => {
      left = true;
    };
  }, [layout, revision, published]);
  const most = Math.max(1, ...now.concat(before).map((each) => each.screens));
  const said = now.map((each) => each.screens).reduce((one, other) => Math.max(one, other), 0);
  return (
    <aside className="lengths" aria-label="Length of the form"><details>
      <summary>Length: {said.toFixed(1)} screens at its longest</summary>
      <table>
        <thead><tr><th scope="col">Width</th><th scope="col">Rows</th><th scope="col">Screens</th><th scope="col">As published</th><td /></tr></thead>
        <tbody>
          {now.map((each, i) => {
            const was = before.find((one) => one.width === each.width);
            return (
              <tr key={each.width}>
                <th scope="row" data-width={i + 1}>{each.width}</th><td>{each.rows}</td><td>{each.screens.toFixed(1)}</td><td>{was ? `${was.screens.toFixed(1)}${was.screens === each.screens ? '' : was.screens > each.screens ? ', longer' : ', shorter'}` : 'not yet'}</td>
                <td className="length-bars" aria-hidden="true">{was && <span data-was="" style={{ width: `${(was.screens / most) * 100}%` }} />}<span style={{ width: `${(each.screens / most) * 100}%` }} /></td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </details></aside>
  );
}
