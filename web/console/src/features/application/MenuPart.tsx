import { useRef, useState } from 'react';
import { answer, api, type EntitySummary } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { textIn } from '../../shell/localTexts.ts';
import { useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { MenuEntryForm } from './MenuEntryForm.tsx';
import { MenuPreview, Picture } from './MenuPreview.tsx';
import { added, at, changed, indented, moved, outdented, removed, walkEntries, type Entry, type Path } from './menuTree.ts';
import { PartHead, useDocument } from '../documents/index.ts';
import { say } from '../../shell/configurator/texts.ts';

const noIcons: Record<string, string> = {};

interface Navigation {
  kind: 'navigation';
  entries?: Entry[];
}

/**
 * The business application's menu: a tree of headings, lists and addresses, each for some roles or for all; beside it, what somebody sees
 * of it.
 */
export function MenuPart({ entities }: { entities: EntitySummary[] }) {
  const { application } = useSession();
  const stored = useDocument<Navigation>('navigation', 'navigation', { kind: 'navigation', entries: [] });
  const { value, change } = stored;
  const [chosen, setChosen] = useState<Path>();
  const [language, setLanguage] = useState(application.languages[0]!);
  const { data: icons = noIcons } = useAnswer(['unchanging', 'icons'], () => answer(api.GET('/api/icons')));
  const entries = value?.entries ?? [];
  const changeEntries = (next: Entry[], go?: Path) => {
    change({ kind: 'navigation', entries: next });
    if (go) setChosen(go);
  };
  const add = (inside: boolean) => {
    const { next, path } = added(entries, chosen, inside, newEntry(entries));
    changeEntries(next, path);
  };
  const entry = chosen && at(entries, chosen);
  const set = (more: Partial<Entry>) => {
    if (chosen && entry) changeEntries(changed(entries, chosen, withMore(entry, more)));
  };
  const list = useRef<HTMLDivElement>(null);
  const onKey = (event: React.KeyboardEvent) => {
    const done = chosen && event.altKey ? movedBy(event.key, entries, chosen) : undefined;
    if (!done) return;
    event.preventDefault();
    changeEntries(done.next, done.path);
    requestAnimationFrame(() => list.current?.querySelector<HTMLElement>('[aria-current="true"]')?.focus());
  };
  return (
    <>
      <PartHead about={say('menuPart.whatUsersFindAtThe')} kept={stored} title={say('applicationPart.menu')} />
      <div className="application-panes">
        <section aria-label={say('menuPart.entries')} ref={list} onKeyDown={onKey}>
          <MenuTree entries={entries} chosen={chosen} icons={icons} language={language} onChoose={setChosen} />
          <MenuActs
            entries={entries}
            chosen={entry && chosen}
            onAdd={add}
            onChange={changeEntries}
            onRemove={() => {
              if (chosen) changeEntries(removed(entries, chosen));
              setChosen(undefined);
            }}
          />
        </section>
        <section aria-label={say('menuPart.selectedEntry')} className="application-form">
          {entry ? (
            <MenuEntryForm
              entry={entry}
              entities={entities}
              icons={Object.keys(icons)}
              language={language}
              onLanguage={setLanguage}
              onChange={set}
            />
          ) : (
            <p className="empty">{say('menuPart.selectAnEntryToEdit')}</p>
          )}
        </section>
        <MenuPreview entries={entries} icons={icons} language={language} />
      </div>
    </>
  );
}

interface MenuActsProps {
  entries: Entry[];
  chosen: Path | undefined;
  onAdd: (inside: boolean) => void;
  onChange: (next: Entry[], path: Path) => void;
  onRemove: () => void;
}

/** What can be done with the menu, and with the entry that is chosen. */
function MenuActs({ entries, chosen, onAdd, onChange, onRemove }: MenuActsProps) {
  const act = (name: string, done: { next: Entry[]; path: Path } | undefined) => (
    <button
      type="button"
      className="button"
      // One that is at the top keeps the focus: the next press may be the other way.
      aria-disabled={done ? undefined : true}
      onClick={() => {
        if (done) onChange(done.next, done.path);
      }}
    >
      {name}
    </button>
  );
  return (
    <div className="application-acts">
      <button type="button" className="button" onClick={() => onAdd(false)}>
        {chosen ? say('menuPart.addBelow') : say('menuPart.addAnEntry')}
      </button>
      {chosen && (
        <>
          <button type="button" className="button" onClick={() => onAdd(true)}>
            {say('menuPart.addInside')}
          </button>
          {act(say('menuPart.up'), moved(entries, chosen, -1))}
          {act(say('menuPart.down'), moved(entries, chosen, 1))}
          {act(say('menuPart.furtherIn'), indented(entries, chosen))}
          {act(say('menuPart.furtherOut'), outdented(entries, chosen))}
          <button type="button" className="button" onClick={onRemove}>
            {say('common.remove')}
          </button>
        </>
      )}
    </div>
  );
}

interface MenuLineProps {
  entry: Entry;
  path: Path;
  chosen: Path | undefined;
  icons: Record<string, string>;
  language: string;
  onChoose: (path: Path) => void;
}

/** An entry with those in it. */
function MenuLine({ entry, path, ...props }: MenuLineProps): React.ReactNode {
  const roles = entry.roles ?? [];
  const leads = entry.entity ?? entry.address ?? (entry.entries?.length ? '' : say('menuPart.leadsNowhere'));
  return (
    <li>
      <button
        type="button"
        className="menu-line"
        aria-current={props.chosen?.join() === path.join() ? 'true' : undefined}
        onClick={() => props.onChoose(path)}
      >
        {entry.icon && <Picture path={props.icons[entry.icon]} />}
        <span>{textIn(entry.title, props.language)}</span>
        <small>
          {leads}
          {roles.length > 0 && ` · ${roles.length === 1 ? roles[0] : say('menuPart.roles', roles.length)}`}
        </small>
      </button>
      {entry.entries && entry.entries.length > 0 && (
        <ol>
          {entry.entries.map((child, i) => (
            <MenuLine key={child.key} entry={child} path={[...path, i]} {...props} />
          ))}
        </ol>
      )}
    </li>
  );
}

/** The entries as the tree they are. */
function MenuTree({
  entries,
  chosen,
  icons,
  language,
  onChoose,
}: {
  entries: Entry[];
  chosen: Path | undefined;
  icons: Record<string, string>;
  language: string;
  onChoose: (path: Path) => void;
}) {
  return entries.length === 0 ? (
    <p className="empty">{say('menuPart.thereIsNoMenuYet')}</p>
  ) : (
    <ol className="menu-tree">
      {entries.map((each, i) => (
        <MenuLine key={each.key} entry={each} path={[i]} chosen={chosen} icons={icons} language={language} onChoose={onChoose} />
      ))}
    </ol>
  );
}

/** The menu after an entry was moved by a key, and where it is then; nothing where the key moves nothing. */
function movedBy(key: string, entries: Entry[], chosen: Path) {
  const moves: Record<string, () => ReturnType<typeof moved>> = {
    ArrowUp: () => moved(entries, chosen, -1),
    ArrowDown: () => moved(entries, chosen, 1),
    ArrowRight: () => indented(entries, chosen),
    ArrowLeft: () => outdented(entries, chosen),
  };
  return moves[key]?.();
}

/** An entry with some of it changed: what is undefined is no longer there. */
const withMore = (entry: Entry, more: Partial<Entry>) =>
  Object.fromEntries(Object.entries({ ...entry, ...more }).filter(([, each]) => each !== undefined)) as unknown as Entry;

const newEntry = (entries: Entry[]): Entry => {
  const taken = [...walkEntries(entries)].map((each) => each.key);
  return { key: keyOf('entry', taken), title: say('menuPart.newEntry') };
};
