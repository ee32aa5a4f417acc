import { contrast, groundColours, themed, type Ground } from '#form';
import { useLayoutEffect, useRef } from 'react';
import { Select } from '../../ui/Select.tsx';
import { say } from '../../shell/configurator/texts.ts';
import type { ThemeFile } from './applicationFile.ts';

/** The theme of the whole application: what can be clicked, what is current, the typeface; shown as it will be. */
export function ThemePart({ theme, onChange }: { theme: ThemeFile; onChange: (theme: ThemeFile | undefined) => void }) {
  const preview = useRef<HTMLDivElement>(null);
  const ground = (theme.ground ?? 'sand') as Ground;
  const supplied = groundColours[ground];
  useLayoutEffect(() => themed(preview.current!, { ...theme, ground }), [theme, ground]);
  const set = (more: Partial<ThemeFile>) => {
    const next = Object.fromEntries(Object.entries({ ...theme, ...more }).filter(([, each]) => each !== undefined)) as ThemeFile;
    onChange(Object.keys(next).length > 0 ? next : undefined);
  };
  const colour = (name: 'primary' | 'accent', said: string, least: number) => {
    const value = theme[name];
    const shown = value ?? supplied[name];
    const ratio = contrast(shown, '#ffffff');
    return (
      <div className="theme-colour">
        <label>
          {said} <input type="color" aria-label={said} value={shown} onChange={(event) => set({ [name]: event.target.value })} />
        </label>
        <span className="style-ratio" data-low={ratio < least ? '' : undefined}>
          {ratio < least ? say('stylesPart.ratioNeeds', ratio.toFixed(1), least) : say('stylesPart.ratio', ratio.toFixed(1))}
        </span>
        {value !== undefined && (
          <button
            type="button"
            className="button"
            aria-label={say('stylesPart.asSupplied', said)}
            onClick={() => set({ [name]: undefined })}
          >
            {say('stylesPart.asSupplied2')}
          </button>
        )}
      </div>
    );
  };
  return (
    <section className="theme" aria-label={say('stylesPart.theme')}>
      <h2>{say('stylesPart.theme')}</h2>
      <Grounds ground={ground} onChange={(next) => set({ ground: next === 'sand' ? undefined : next })} />
      <div className="theme-choices">
        {colour('primary', say('stylesPart.whatCanBeClicked'), 4.5)}
        {colour('accent', say('stylesPart.whatIsCurrentOrChosen'), 3)}
        <label>
          {say('stylesPart.typeface')}{' '}
          <Select
            value={theme.typeface ?? ''}
            options={[
              { key: '', label: say('stylesPart.asSupplied3') },
              { key: 'serif', label: say('stylesPart.withSerifs') },
              { key: 'system', label: say('stylesPart.thatOfTheDevice') },
            ]}
            onChange={(typeface) => set({ typeface: typeface || undefined })}
          />
        </label>
      </div>
      <div className="theme-look" ref={preview}>
        <span className="theme-tab">{say('stylesPart.currentTab')}</span>
        <span className="theme-link">{say('stylesPart.aLink')}</span>
        <span className="theme-button">{say('stylesPart.mainButton')}</span>
      </div>
    </section>
  );
}

const grounds = Object.keys(groundColours) as Ground[];

/** What everything stands on, each as a piece of a form in its own colours. */
function Grounds({ ground, onChange }: { ground: Ground; onChange: (ground: Ground) => void }) {
  return (
    <fieldset className="grounds">
      <legend>{say('stylesPart.ground')}</legend>
      {grounds.map((each) => (
        <label key={each} className="ground" data-ground={each} data-on={each === ground ? '' : undefined}>
          <input type="radio" name="ground" checked={each === ground} onChange={() => onChange(each)} /> {say(`stylesPart.ground.${each}`)}
          <span className="ground-look" aria-hidden="true">
            <span className="ground-tab" />
            <span className="ground-label" />
            <span className="ground-field" />
            <span className="ground-field" />
            <span className="ground-button" />
          </span>
        </label>
      ))}
    </fieldset>
  );
}
