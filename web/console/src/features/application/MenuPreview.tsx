import { icon } from '#form';
import { useEffect, useRef, useState } from 'react';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { textIn } from '../../shell/localTexts.ts';
import { seenBy, type Entry } from './menuTree.ts';

interface MenuPreviewProps {
  entries: Entry[];
  icons: Record<string, string>;
  language: string;
}

/** The menu as somebody in one role sees it, or in all of them. */
export function MenuPreview({ entries, icons, language }: MenuPreviewProps) {
  const { application } = useSession();
  const [role, setRole] = useState('');
  return (
    <section aria-label={say('menuPart.preview')} className="application-seen">
      <label>
        {say('menuPreview.previewAs')}{' '}
        <select className="bt-input bt-select" value={role} onChange={(event) => setRole(event.target.value)}>
          <option value="">{say('common.someoneInEveryRole')}</option>
          {application.roles.map((each) => (
            <option key={each.key} value={each.key}>
              {each.label}
            </option>
          ))}
        </select>
      </label>
      <div className="menu" role="group" aria-label={say('applicationPart.menu')}>
        <Seen entries={seenBy(entries, role ? [role] : application.roles.map((each) => each.key))} icons={icons} language={language} />
      </div>
    </section>
  );
}

const Seen = ({ entries, icons, language }: { entries: Entry[]; icons: Record<string, string>; language: string }): React.ReactNode =>
  entries.map((each) =>
    each.entries?.length ? (
      <div key={each.key} className="menu-part">
        <span className="menu-group">
          <Picture path={each.icon && icons[each.icon]} />
          {textIn(each.title, language)}
        </span>
        <Seen entries={each.entries} icons={icons} language={language} />
      </div>
    ) : (
      <span key={each.key} className="menu-entry">
        <Picture path={each.icon && icons[each.icon]} />
        {textIn(each.title, language)}
      </span>
    ),
  );

/** An icon, drawn as the form draws it. */
export function Picture({ path }: { path: string | undefined }) {
  const place = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const drawn = path ? icon(path) : undefined;
    place.current?.replaceChildren(...(drawn ? [drawn] : []));
  }, [path]);
  return path ? <span ref={place} /> : null;
}
