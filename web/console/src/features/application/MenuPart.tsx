import { icon } from '#form';
import { useEffect, useRef, useState } from 'react';
import { answer, api, type EntitySummary } from '../../api/client.ts';
import { textIn, withText } from '../../shell/localTexts.ts';
import { useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { PartHead } from './PartHead.tsx';
import { added, at, changed, indented, moved, outdented, removed, seenBy, walkEntries, type Entry, type Path } from './menuTree.ts';
import { useDocument } from './useDocument.ts';
import { say } from '../../shell/configuring/texts.ts';

interface Navigation {
  kind: 'navigation';
  entries?: Entry[];
}

/** The business application's menu: a tree of headings, lists and addresses, each for some roles or for all; beside it, what somebody sees of it. */
export function MenuPart({ entities }: { entities: EntitySummary[] }) {
  const { application } = useSession();
  const stored = useDocument<Navigation>('navigation', 'navigation', { kind: 'navigation', entries: [] });
  const { value, change } = stored;
  const [icons, setIcons] = useState<Record<string, string>>({});
  const [chosen, setChosen] = useState<Path>();
  const [language, setLanguage] = useState(application.languages[0]!);
  const [role, setRole] = useState('');
  useEffect(() => {
    answer(api.GET('/api/icons')).then(setIcons, () => undefined);
  }, []);
  const entries = value?.entries ?? [];
  const changeEntries = (next: Entry[], go?: Path) => {
    change({ kind: 'navigation', entries: next });
    if (go) setChosen(go);
  };
  const add = (inside: boolean) => {
    const key = keyOf(
      'entry',
      [...walkEntries(entries)].map((each) => each.key),
    );
    const { next, path } = added(entries, chosen, inside, { key, title: say('menuPart.newEntry') });
    changeEntries(next, path);
  };
  const entry = chosen && at(entries, chosen);
  const set = (more: Partial<Entry>) => {
    if (chosen && entry)
      changeEntries(
        changed(
          entries,
          chosen,
          Object.fromEntries(Object.entries({ ...entry, ...more }).filter(([, each]) => each !== undefined)) as unknown as Entry,
        ),
      );
  };
  const list = useRef<HTMLDivElement>(null);
  const onKey = (event: React.KeyboardEvent) => {
    if (!chosen || !event.altKey) return;
    const move = {
      ArrowUp: () => moved(entries, chosen, -1),
      ArrowDown: () => moved(entries, chosen, 1),
      ArrowRight: () => indented(entries, chosen),
      ArrowLeft: () => outdented(entries, chosen),
    }[event.key];
    const done = move?.();
    if (!done) return;
    event.preventDefault();
    changeEntries(done.next, done.path);
    requestAnimationFrame(() => list.current?.querySelector<HTMLElement>('[aria-current="true"]')?.focus());
  };
  const line = (each: Entry, path: Path): React.ReactNode => (
    <li key={each.key}>
      <button
        type="button"
        className="menu-line"
        aria-current={chosen?.join() === path.join() ? 'true' : undefined}
        onClick={() => setChosen(path)}
      >
        {each.icon && <Picture path={icons[each.icon]} />}
        <span>{textIn(each.title, language)}</span>
        <small>
          {each.entity ?? each.address ?? (each.entries?.length ? '' : say('menuPart.leadsNowhere'))}
          {each.roles?.length ? ` · ${each.roles.length === 1 ? each.roles[0] : say('menuPart.roles', each.roles.length)}` : ''}
        </small>
      </button>
      {each.entries && each.entries.length > 0 && <ol>{each.entries.map((child, i) => line(child, [...path, i]))}</ol>}
    </li>
  );
  const act = (name: string, done: { next: Entry[]; path: Path } | undefined) => (
    <button
      type="button"
      className="button"
      disabled={!done}
      onClick={() => {
        if (done) changeEntries(done.next, done.path);
      }}
    >
      {name}
    </button>
  );
  return (
    <>
      <PartHead about={say('menuPart.whatUsersFindAtThe')} kept={stored} />
      <div className="application-panes">
        <section aria-label={say('menuPart.entries')} ref={list} onKeyDown={onKey}>
          {entries.length === 0 ? (
            <p className="empty">{say('menuPart.thereIsNoMenuYet')}</p>
          ) : (
            <ol className="menu-tree">{entries.map((each, i) => line(each, [i]))}</ol>
          )}
          <div className="application-acts">
            <button type="button" className="button" onClick={() => add(false)}>
              {chosen ? say('menuPart.addBelow') : say('menuPart.addAnEntry')}
            </button>
            {entry && (
              <button type="button" className="button" onClick={() => add(true)}>
                {say('menuPart.addInside')}
              </button>
            )}
            {chosen && (
              <>
                {act(say('menuPart.up'), moved(entries, chosen, -1))}
                {act(say('menuPart.down'), moved(entries, chosen, 1))}
                {act(say('menuPart.furtherIn'), indented(entries, chosen))}
                {act(say('menuPart.furtherOut'), outdented(entries, chosen))}
                <button
                  type="button"
                  className="button"
                  onClick={() => {
                    changeEntries(removed(entries, chosen));
                    setChosen(undefined);
                  }}
                >
                  {say('common.remove')}
                </button>
              </>
            )}
          </div>
        </section>
        <section aria-label={say('menuPart.selectedEntry')} className="application-form">
          {entry ? (
            <>
              <label>
                {say('menuPart.in')}{' '}
                <select className="bt-input" value={language} onChange={(event) => setLanguage(event.target.value)}>
                  {application.languages.map((tag) => (
                    <option key={tag}>{tag}</option>
                  ))}
                </select>
              </label>
              <label>
                {say('common.title')}{' '}
                <input
                  className="bt-input"
                  dir="auto"
                  value={textIn(entry.title, language)}
                  onChange={(event) =>
                    set({
                      title: (withText(entry.title, event.target.value, language, [...application.languages]) ?? '') as Entry['title'],
                    })
                  }
                />
              </label>
              <label>
                {say('menuPart.icon')}{' '}
                <select className="bt-input" value={entry.icon ?? ''} onChange={(event) => set({ icon: event.target.value || undefined })}>
                  <option value="">{say('common.none')}</option>
                  {Object.keys(icons).map((name) => (
                    <option key={name}>{name}</option>
                  ))}
                </select>
              </label>
              <label>
                {say('menuPart.leadsTo')}{' '}
                <select
                  className="bt-input"
                  value={entry.entity ?? (entry.address === undefined ? '' : '/')}
                  onChange={(event) =>
                    set(
                      event.target.value === '/'
                        ? { entity: undefined, address: 'https://' }
                        : { entity: event.target.value || undefined, address: undefined },
                    )
                  }
                >
                  <option value="">{say('menuPart.nothingItIsAHeading')}</option>
                  {entities.map((each) => (
                    <option key={each.key} value={each.key}>
                      {say('menuPart.theListOf', each.plural.toLowerCase())}
                    </option>
                  ))}
                  <option value="/">{say('menuPart.anAddress')}</option>
                </select>
              </label>
              {entry.address !== undefined && (
                <label>
                  {say('menuPart.address')}{' '}
                  <input className="bt-input" dir="ltr" value={entry.address} onChange={(event) => set({ address: event.target.value })} />
                </label>
              )}
              <fieldset>
                <legend>{say('common.seenBy')}</legend>
                {application.roles.map((each) => (
                  <label key={each.key}>
                    <input
                      type="checkbox"
                      checked={entry.roles?.includes(each.key) ?? false}
                      onChange={(event) => {
                        const next = application.roles
                          .map((one) => one.key)
                          .filter((key) => (key === each.key ? event.target.checked : entry.roles?.includes(key)));
                        set({ roles: next.length > 0 ? next : undefined });
                      }}
                    />{' '}
                    {each.label}
                  </label>
                ))}
                <small>{entry.roles?.length ? '' : say('menuPart.nobodyIsNamedEveryoneSees')}</small>
              </fieldset>
            </>
          ) : (
            <p className="empty">{say('menuPart.selectAnEntryToEdit')}</p>
          )}
        </section>
        <section aria-label={say('menuPart.preview')} className="application-seen">
          <label>
            {say('tour.preview')}{' '}
            <select className="bt-input" value={role} onChange={(event) => setRole(event.target.value)}>
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
      </div>
    </>
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
function Picture({ path }: { path: string | undefined }) {
  const place = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const drawn = path ? icon(path) : undefined;
    place.current?.replaceChildren(...(drawn ? [drawn] : []));
  }, [path]);
  return path ? <span ref={place} /> : null;
}
