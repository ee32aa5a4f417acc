import { useState } from 'react';
import { textIn, withText } from '../designing/tree.ts';
import { useSession } from '../shell/hooks.ts';
import { keyOf } from '../shell/keys.ts';
import { PartHead } from './ApplicationPage.tsx';
import { noApplication, type ApplicationFile, type StyleFile } from './applicationFile.ts';
import { contrast } from './contrast.ts';
import { useDocument } from './useDocument.ts';

/** The paper and ink of the form itself, in the light. */
const usual = { ink: '#1f2226', paper: '#fbfaf6' };

/** Named styles: colours and weight chosen once, used by name in any layout. */
export function StylesPart() {
  const { application } = useSession();
  const kept = useDocument<ApplicationFile>('application', 'application', noApplication);
  const { value, change } = kept;
  const [language, setLanguage] = useState(application.languages[0]!);
  if (!value) return <PartHead about="" kept={kept} />;
  const styles = value.styles ?? [];
  const put = (next: StyleFile[]) => change({ ...value, ...(next.length > 0 ? { styles: next } : { styles: undefined }) });
  const set = (i: number, more: Partial<StyleFile>) => put(styles.with(i, Object.fromEntries(Object.entries({ ...styles[i]!, ...more }).filter(([, each]) => each !== undefined)) as unknown as StyleFile));
  return (
    <>
      <PartHead about="Changed here, a style changes wherever a layout uses it. Ink on paper must be read by everyone: 4.5 to 1 at least (WCAG 2.2, 1.4.3)." kept={kept} />
      <label className="application-language">Labels in <select className="bt-input" value={language} onChange={(event) => setLanguage(event.target.value)}>{application.languages.map((tag) => <option key={tag}>{tag}</option>)}</select></label>
      <ul className="styles">
        {styles.map((style, i) => {
          const label = textIn(style.label, language);
          const ratio = contrast(style.ink ?? usual.ink, style.paper ?? usual.paper);
          const colour = (name: 'ink' | 'paper', said: string) => (
            <label>{said} <input type="checkbox" aria-label={`${label} has ${name} of its own`} checked={style[name] !== undefined} onChange={(event) => set(i, { [name]: event.target.checked ? usual[name] : undefined })} />
              {style[name] !== undefined && <input type="color" aria-label={`${said} of ${label}`} value={style[name]} onChange={(event) => set(i, { [name]: event.target.value })} />}</label>
          );
          return (
            <li key={style.key}>
              <span className="style-look" style={{ color: style.ink ?? usual.ink, background: style.paper ?? usual.paper, fontWeight: style.strong ? 650 : undefined }}>{label || style.key}</span>
              <input className="bt-input" aria-label={`Label of ${style.key}`} dir="auto" value={label} onChange={(event) => set(i, { label: (withText(style.label, event.target.value, language, [...application.languages]) ?? style.key) as StyleFile['label'] })} />
              {colour('ink', 'Ink')}{colour('paper', 'Paper')}
              <label><input type="checkbox" checked={style.strong ?? false} onChange={(event) => set(i, { strong: event.target.checked || undefined })} /> Strong</label>
              <span className="style-ratio" data-low={ratio < 4.5 ? '' : undefined}>{ratio.toFixed(1)} to 1{ratio < 4.5 ? ', too faint' : ''}</span>
              <button type="button" className="button" aria-label={`Remove ${label}`} onClick={() => put(styles.toSpliced(i, 1))}>×</button>
            </li>
          );
        })}
      </ul>
      <div className="application-acts"><button type="button" className="button" onClick={() => put([...styles, { key: keyOf('style', styles.map((each) => each.key)), label: 'New style', paper: '#e8f1f5' }])}>Add a style</button></div>
    </>
  );
}
