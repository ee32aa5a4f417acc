import { contrast } from '#form';
import { useState } from 'react';
import { textIn, withText } from '../../shell/localTexts.ts';
import { useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { Select } from '../../ui/Select.tsx';
import { noApplication, type ApplicationFile, type StyleFile } from './applicationFile.ts';
import { ThemePart } from './ThemePart.tsx';
import { PartHead, useDocument } from '../documents/index.ts';
import { say } from '../../shell/configurator/texts.ts';

/** The paper and ink of the form itself, in the light. */
const usual = { ink: '#1f2226', paper: '#fbfaf6' };

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
      <PartHead about={say('stylesPart.chosenOnceForEveryForm')} kept={stored} title={say('applicationPart.styles')} />
      <ThemePart theme={value.theme ?? {}} onChange={(theme) => change({ ...value, theme })} />
      <h2>{say('stylesPart.styles')}</h2>
      <label className="label-language">
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
