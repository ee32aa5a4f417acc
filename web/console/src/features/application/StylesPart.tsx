import { contrast, groundColours, themed } from '#form';
import { useLayoutEffect, useRef, useState } from 'react';
import { textIn, withText } from '../../shell/localTexts.ts';
import { useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { Select } from '../../ui/Select.tsx';
import { PartHead } from './PartHead.tsx';
import { noApplication, type ApplicationFile, type StyleFile, type ThemeFile } from './applicationFile.ts';
import { useDocument } from './useDocument.ts';
import { say } from '../../shell/configurator/texts.ts';

/** The paper and ink of the form itself, in the light. */
const usual = { ink: '#1f2226', paper: '#fbfaf6' };

/** The theme of the whole application: what can be clicked, what is current, the typeface; shown as it will be. */
function ThemePart({ theme, onChange }: { theme: ThemeFile; onChange: (theme: ThemeFile | undefined) => void }) {
  const preview = useRef<HTMLDivElement>(null);
  const ground = theme.ground ?? 'sand';
  const supplied = groundColours[ground]!;
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

const grounds = ['sand', 'chalk', 'heather'] as const;

/** What everything stands on, each as a piece of a form in its own colours. */
function Grounds({ ground, onChange }: { ground: string; onChange: (ground: string) => void }) {
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

/** Named styles: colours and weight chosen once, used by name in any layout. */
export function StylesPart() {
  const { application } = useSession();
  const stored = useDocument<ApplicationFile>('application', 'application', noApplication);
  const { value, change } = stored;
  const [language, setLanguage] = useState(application.languages[0]!);
  if (!value) return <PartHead about="" kept={stored} />;
  const styles = value.styles ?? [];
  const changeStyles = (next: StyleFile[]) => change({ ...value, ...(next.length > 0 ? { styles: next } : { styles: undefined }) });
  const set = (i: number, more: Partial<StyleFile>) =>
    changeStyles(
      styles.with(
        i,
        Object.fromEntries(Object.entries({ ...styles[i]!, ...more }).filter(([, each]) => each !== undefined)) as unknown as StyleFile,
      ),
    );
  return (
    <>
      <PartHead about={say('stylesPart.chosenOnceForEveryForm')} kept={stored} />
      <ThemePart theme={value.theme ?? {}} onChange={(theme) => change({ ...value, theme })} />
      <h2>{say('stylesPart.styles')}</h2>
      <label className="application-language">
        {say('stylesPart.labelsIn')}{' '}
        <Select value={language} options={application.languages.map((tag) => ({ key: tag, label: tag }))} onChange={setLanguage} />
      </label>
      <ul className="styles">
        {styles.map((style, i) => (
          <StyleLine
            key={style.key}
            style={style}
            label={textIn(style.label, language)}
            onLabel={(text) =>
              set(i, {
                label: (withText(style.label, text, language, [...application.languages]) ?? style.key) as StyleFile['label'],
              })
            }
            onChange={(more) => set(i, more)}
            onRemove={() => changeStyles(styles.toSpliced(i, 1))}
          />
        ))}
      </ul>
      <div className="application-acts">
        <button
          type="button"
          className="button"
          onClick={() =>
            changeStyles([
              ...styles,
              {
                key: keyOf(
                  'style',
                  styles.map((each) => each.key),
                ),
                label: say('stylesPart.newStyle'),
                paper: '#e8f1f5',
              },
            ])
          }
        >
          {say('stylesPart.addAStyle')}
        </button>
      </div>
    </>
  );
}

interface StyleLineProps {
  style: StyleFile;
  /** In the language that is written. */
  label: string;
  onLabel: (text: string) => void;
  onChange: (more: Partial<StyleFile>) => void;
  onRemove: () => void;
}

/** A style as it looks, and what it is made of. */
function StyleLine({ style, label, onLabel, onChange, onRemove }: StyleLineProps) {
  const ratio = contrast(style.ink ?? usual.ink, style.paper ?? usual.paper);
  const colour = (name: 'ink' | 'paper', said: string) => (
    <label>
      {said}{' '}
      <input
        type="checkbox"
        aria-label={say(name === 'ink' ? 'stylesPart.inkOwn' : 'stylesPart.paperOwn', label)}
        checked={style[name] !== undefined}
        onChange={(event) => onChange({ [name]: event.target.checked ? usual[name] : undefined })}
      />
      {style[name] !== undefined && (
        <input
          type="color"
          aria-label={say('common.of', said, label)}
          value={style[name]}
          onChange={(event) => onChange({ [name]: event.target.value })}
        />
      )}
    </label>
  );
  return (
    <li>
      <span
        className="style-look"
        style={{
          color: style.ink ?? usual.ink,
          background: style.paper ?? usual.paper,
          fontWeight: style.strong ? 650 : undefined,
        }}
      >
        {label || style.key}
      </span>
      <input
        className="bt-input"
        aria-label={say('stylesPart.labelOf', style.key)}
        dir="auto"
        value={label}
        onChange={(event) => onLabel(event.target.value)}
      />
      {colour('ink', say('stylesPart.ink'))}
      {colour('paper', say('stylesPart.paper'))}
      <label>
        <input
          type="checkbox"
          checked={style.strong ?? false}
          onChange={(event) => onChange({ strong: event.target.checked || undefined })}
        />{' '}
        {say('stylesPart.strong')}
      </label>
      <span className="style-ratio" data-low={ratio < 4.5 ? '' : undefined}>
        {say(ratio < 4.5 ? 'stylesPart.ratioFaint' : 'stylesPart.ratio', ratio.toFixed(1))}
      </span>
      <button type="button" className="button" aria-label={say('common.removeNamed', label)} onClick={onRemove}>
        ×
      </button>
    </li>
  );
}
