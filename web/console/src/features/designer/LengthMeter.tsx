import { useEffect, useState } from 'react';
import type { LayoutLength, PreviewSource } from './previewSource.ts';
import { say } from '../../shell/configurator/texts.ts';

interface LengthMeterProps {
  preview: PreviewSource;
  now: readonly LayoutLength[];
  published: number | null;
}

/** How long the form is at each width, now and as it is published. */
export function LengthMeter({ preview, now, published }: LengthMeterProps) {
  const before = usePublishedLengths(preview, published);
  const most = Math.max(1, ...now.concat(before).map((each) => each.screens));
  const screens = now.map((each) => each.screens).reduce((one, other) => Math.max(one, other), 0);
  return (
    <details className="lengths" aria-label={say('lengthMeter.lengthOfTheForm')}>
      <summary>{say('lengthMeter.lengthScreensAtItsLongest', screens.toFixed(1))}</summary>
      <table>
        <thead>
          <tr>
            <th scope="col">{say('kind.variant')}</th>
            <th scope="col">{say('lengthMeter.rows')}</th>
            <th scope="col">{say('lengthMeter.screens')}</th>
            <th scope="col">{say('lengthMeter.asPublished')}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {now.map((each, i) => {
            const was = before.find((one) => one.width === each.width);
            return (
              <tr key={each.width}>
                <th scope="row" data-width={i + 1}>
                  {each.width}
                </th>
                <td>{each.rows}</td>
                <td>{each.screens.toFixed(1)}</td>
                <td>{was ? compared(was.screens, each.screens) : say('lengthMeter.notYet')}</td>
                <td className="length-bars" aria-hidden="true">
                  {was && <span data-was="" style={{ width: `${(was.screens / most) * 100}%` }} />}
                  <span style={{ width: `${(each.screens / most) * 100}%` }} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </details>
  );
}

/** How long it is as it is published; nothing where it is not, or that cannot be had. */
function usePublishedLengths(preview: PreviewSource, published: number | null): readonly LayoutLength[] {
  const [lengths, setLengths] = useState<readonly LayoutLength[]>([]);
  useEffect(() => {
    let left = false;
    const show = (found: readonly LayoutLength[]) => {
      if (!left) setLengths(found);
    };
    (published === null ? Promise.resolve([]) : preview.publishedLengths()).then(show, () => show([]));
    return () => {
      left = true;
    };
  }, [preview, published]);
  return lengths;
}

/** How long it was, and whether that is longer or shorter than now. */
function compared(was: number, now: number): string {
  if (was === now) return was.toFixed(1);
  return say(was > now ? 'lengthMeter.longer' : 'lengthMeter.shorter', was.toFixed(1));
}
