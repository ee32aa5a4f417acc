import { useEffect, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useAnswer } from '../../shell/queries.ts';
import '../../styles/samples.css';

/** What a pattern says to these samples; asked of the engine that checks on saving, once nobody types. */
export function usePatternTrial(pattern: string, pass: string[], fail: string[]) {
  const [asked, setAsked] = useState('');
  const question = pattern && JSON.stringify({ pattern, samples: [...pass, ...fail] });
  useEffect(() => {
    const soon = setTimeout(() => setAsked(question), 150);
    return () => clearTimeout(soon);
  }, [question]);
  const { data } = useAnswer(
    ['unchanging', 'pattern', asked],
    asked ? () => answer(api.POST('/api/patterns/test', { body: JSON.parse(asked) as { pattern: string; samples: string[] } })) : undefined,
  );
  return data;
}

/** Each sample, and whether the pattern does with it as it must. */
export function PatternSamples({ pass, fail, matches }: { pass: string[]; fail: string[]; matches: readonly boolean[] | undefined }) {
  const known = matches?.length === pass.length + fail.length ? [...pass, ...fail] : [];
  return (
    <ul className="samples" aria-live="polite">
      {known.map((text, i) => {
        const mustMatch = i < pass.length;
        const good = matches![i] === mustMatch;
        return (
          <li key={i} data-good={good ? '' : undefined}>
            <span aria-hidden="true">{good ? '✓' : '✗'}</span> <code>{text}</code>{' '}
            {good ? say('patternProperty.isAsItMustBe') : mustMatch ? say('patternProperty.doesNotMatch') : say('patternProperty.matches')}
          </li>
        );
      })}
    </ul>
  );
}
