import { Suspense, useState } from 'react';
import type { EntitySummary } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { textIn, withText } from '../../shell/localTexts.ts';
import { address } from '../../shell/location.ts';
import { may } from '../../shell/session.ts';
import { NoticeBox } from '../../ui/Notice.tsx';
import { Select } from '../../ui/Select.tsx';
import { AddField, AddFields, arrived, PartHead, useDocument } from '../documents/index.ts';
import { PublishDialog } from '../releases/index.ts';
import { ArchiveEntity, bringBackEntity, type DraftReference } from './ArchiveEntity.tsx';
import type { EntityFile } from './entityFile.ts';
import { FieldSheet } from './FieldSheet.tsx';

const none: EntityFile = { kind: 'entity', key: '', label: '', plural: '', display: '', fields: [] };

/** One entity: what its records are called and the fields they have, each changed where it stands. */
export function EntityPage({ entity, entities }: { entity: string; entities: EntitySummary[] }) {
  const session = useSession();
  const { languages } = session.application;
  const stored = useDocument<EntityFile>('entity', entity, none);
  const { value, change, revision } = stored;
  const [language, setLanguage] = useState(languages[0]!);
  const [open, setOpen] = useState<'field' | 'fields' | 'publish' | 'archive'>();
  // What is not there has no revision.
  const known = revision > 0;
  const changes = known && !value?.archived && may(session, 'configure');
  // What goes out together: the entity alone, or with what was archived or brought back with it.
  const [together, setTogether] = useState<DraftReference[]>();
  const title = value ? textIn(value.plural, session.language) || entity : entity;
  usePageTitle(title);
  const close = () => setOpen(undefined);
  // What was typed last is often still on its way; it goes out as well.
  const publish = () => void arrived().then(() => setOpen('publish'));
  const moved = (drafts: DraftReference[] | undefined) => {
    close();
    if (!drafts?.length || !may(session, 'publish')) return;
    setTogether(drafts);
    setOpen('publish');
  };
  return (
    <>
      <Head
        title={title}
        onAdd={changes && value && !value.attached ? setOpen : undefined}
        onArchive={changes ? () => setOpen('archive') : undefined}
        onPublish={known && may(session, 'publish') && value ? publish : undefined}
      />
      {known ? (
        <PartHead about={say('data.entityAbout')} kept={stored} title={title} changes={changes} />
      ) : (
        value && <NoticeBox tone="bad">{say('data.noEntity', entity)}</NoticeBox>
      )}
      {value && known && (
        <>
          {value.archived && <Archived entity={entity} title={title} onBack={may(session, 'configure') ? moved : undefined} />}
          {value.attached && <Attached table={value.attached} />}
          <Names value={value} language={language} disabled={!changes} onChange={change} />
          <FieldSheet entity={entity} value={value} language={language} disabled={!changes} onChange={change}>
            <label className="label-language">
              {say('stylesPart.labelsIn')}{' '}
              <Select value={language} options={languages.map((tag) => ({ key: tag, label: tag }))} onChange={setLanguage} />
            </label>
          </FieldSheet>
        </>
      )}
      <Suspense>
        {open === 'field' && <AddField entity={entity} onClose={close} />}
        {open === 'fields' && <AddFields entity={entity} entities={entities} onClose={close} />}
        {open === 'archive' && <ArchiveEntity entity={entity} title={title} onClose={moved} />}
        {open === 'publish' && (
          <PublishDialog
            documents={together ?? [{ kind: 'entity', key: entity, revision }]}
            errors={[]}
            title={title}
            onClose={() => {
              close();
              setTogether(undefined);
            }}
            onPublished={() => undefined}
          />
        )}
      </Suspense>
    </>
  );
}

/** Where the records of an attached entity are. */
const Attached = ({ table }: { table: NonNullable<EntityFile['attached']> }) => (
  <p>
    {say('data.attachedTo', table.table)} <a href={address('data', 'databases', table.database)}>{table.database}</a>
  </p>
);

interface ArchivedProps {
  entity: string;
  title: string;
  /** Told of the drafts that brought it back; nothing for those who may not. */
  onBack: ((drafts: DraftReference[]) => void) | undefined;
}

/** That it is put away, and the way back. */
function Archived({ entity, title, onBack }: ArchivedProps) {
  const [problem, setProblem] = useState<string>();
  const back = () => bringBackEntity(entity).then(onBack, (error: Error) => setProblem(error.message));
  return (
    <NoticeBox>
      {problem ?? say('entityArchive.isArchived', title)}{' '}
      {onBack && (
        <button type="button" className="button" onClick={() => void back()}>
          {say('layoutsPage.bringBack')}
        </button>
      )}
    </NoticeBox>
  );
}

interface NamesProps {
  value: EntityFile;
  language: string;
  disabled: boolean;
  onChange: (next: EntityFile) => void;
}

/** What one record and several are called, and how each is shown. */
function Names({ value, language, disabled, onChange }: NamesProps) {
  const { languages } = useSession().application;
  const input = (label: string, shown: string, onText: (text: string) => EntityFile) => (
    <label>
      {label}
      <input
        key={shown}
        className="bt-input"
        maxLength={200}
        defaultValue={shown}
        disabled={disabled}
        onBlur={(event) => event.target.value !== shown && onChange(onText(event.target.value))}
      />
    </label>
  );
  const local = (of: 'label' | 'plural') => (text: string) => ({
    ...value,
    [of]: withText(value[of], text, language, [...languages]) ?? value[of],
  });
  return (
    <div className="sketch-names">
      {input(say('data.one'), textIn(value.label, language), local('label'))}
      {input(say('data.several'), textIn(value.plural, language), local('plural'))}
      {input(say('data.shownAs'), value.display, (display) => ({ ...value, display }))}
    </div>
  );
}

interface HeadProps {
  title: string;
  onAdd: ((what: 'field' | 'fields') => void) | undefined;
  onArchive: (() => void) | undefined;
  onPublish: (() => void) | undefined;
}

/** What it is, and what can be done with it. */
function Head({ title, onAdd, onArchive, onPublish }: HeadProps) {
  return (
    <header className="page-head">
      <h1>{title}</h1>
      <a className="button" href={address('data')}>
        {say('data.toData')}
      </a>
      {onAdd && (
        <>
          <button type="button" className="button" onClick={() => onAdd('fields')}>
            {say('addFields.several')}
          </button>
          <button type="button" className="button" onClick={() => onAdd('field')}>
            {say('addField.addAField')}
          </button>
        </>
      )}
      {onArchive && (
        <button type="button" className="button" onClick={onArchive}>
          {say('entityArchive.archive')}
        </button>
      )}
      {onPublish && (
        <button type="button" className="button primary" onClick={onPublish}>
          {say('data.publish')}
        </button>
      )}
    </header>
  );
}
