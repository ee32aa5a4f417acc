import { localeIn } from '#form';
import { useMemo } from 'react';
import { useWords } from '../../shell/hooks.ts';

/** Every region there is (ISO 3166-1), by its name in a language; codes that stand for another are left out. */
function regionsIn(language: string): { code: string; name: string }[] {
  const names = new Intl.DisplayNames([language], { type: 'region', fallback: 'none' });
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
  return letters
    .flatMap((one) => letters.map((other) => one + other))
    .filter((code) => !['EU', 'EZ', 'UN', 'QO', 'XA', 'XB', 'ZZ'].includes(code) && new Intl.Locale(`und-${code}`).region === code)
    .map((code) => ({ code, name: names.of(code) ?? '' }))
    .filter(({ name }) => name !== '')
    .sort((one, other) => one.name.localeCompare(other.name, language));
}

/** A day, a time and a number as they would be written. */
function sample(language: string, region: string | undefined): string {
  const { dates, numbers, hourCycle } = localeIn(language, region);
  const at = new Date(Date.UTC(2026, 11, 1, 14, 30));
  const day = new Intl.DateTimeFormat(dates, {
    dateStyle: 'medium',
    timeStyle: 'short',
    timeZone: 'UTC',
    numberingSystem: 'latn',
    ...(hourCycle ? { hourCycle } : {}),
  });
  return `${day.format(at)} · ${new Intl.NumberFormat(numbers, { numberingSystem: 'latn' }).format(12345.6)}`;
}

/** Whose dates, times and numbers are written for somebody, with an example. */
export function RegionChoice(props: { id: string; language: string; value: string | null; onChange: (region: string | null) => void }) {
  const say = useWords();
  const { id, language, value } = props;
  const regions = useMemo(() => regionsIn(language), [language]);
  return (
    <>
      <label htmlFor={id}>{say('region')}</label>
      <select
        id={id}
        className="bt-input"
        value={value ?? ''}
        aria-describedby={`${id}-sample`}
        onChange={(event) => props.onChange(event.target.value || null)}
      >
        <option value="">{say('regionUsual')}</option>
        {regions.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </select>
      <small id={`${id}-sample`}>{say('regionSample', sample(language, value ?? undefined))}</small>
    </>
  );
}
