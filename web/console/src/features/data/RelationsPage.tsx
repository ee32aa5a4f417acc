import { Suspense, useEffect, useState } from 'react';
import { answer, api, type EntityRelations } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { Segments } from '../../ui/Segments.tsx';
import { Select } from '../../ui/Select.tsx';
import { DataHead } from './DataHead.tsx';
import { NewReference, ReferenceDialog } from './ReferenceDialog.tsx';
import { RelationDiagram, type ReferenceName } from './RelationDiagram.tsx';
import '../../styles/relations.css';
import { around } from './relationLayout.ts';
import { PublishWaiting, useWaiting } from './WaitingDrafts.tsx';

const none: EntityRelations[] = [];

/** How many entities are drawn together; of more, those around one. */
const most = 120;

/** What is done on the page: a reference is made from one entity to another, or one that is there is changed. */
type Act = { from: string; to: string } | ReferenceName;

/** How the entities hang together: a diagram one reads, prints and changes. */
export function RelationsPage() {
  usePageTitle(say('data.parts.relations'));
  usePaper();
  const session = useSession();
  const { data: entities, reload } = useAnswer(['documents', 'relations'], () => answer(api.GET('/api/relations')));
  const waiting = useWaiting('entity');
  const [middle, setMiddle] = useState('');
  const [size, setSize] = useState<'fit' | 'full'>(() => (matchMedia('(max-width: 720px)').matches ? 'full' : 'fit'));
  const [doing, setDoing] = useState<Act>();
  const all = entities ?? none;
  const many = all.length > most;
  const chosen = middle || (many ? mostRelated(all) : '');
  const shown = chosen ? around(all, chosen) : all;
  const configures = may(session, 'configure');
  const close = () => {
    setDoing(undefined);
    void reload();
  };
  return (
    <>
      <DataHead here="relations">
        {configures && all.length > 0 && (
          <button type="button" className="button" onClick={() => setDoing({ from: chosen, to: '' })}>
            {say('relations.add')}
          </button>
        )}
        <PublishWaiting waiting={waiting} title={say('data.parts.relations')} onClose={close} />
      </DataHead>
      {entities && all.length === 0 && <p className="empty">{say('relations.none')}</p>}
      {all.length > 0 && (
        <>
          <RelationsBar entities={all} many={many} middle={chosen} onMiddle={setMiddle} size={size} onSize={setSize} />
          <RelationDiagram
            entities={shown}
            fit={size === 'fit'}
            onOpen={setDoing}
            onRelate={configures ? (from, to) => setDoing({ from, to }) : undefined}
          />
        </>
      )}
      <Suspense>
        {doing && 'field' in doing ? (
          <ReferenceDialog reference={doing} entities={all} disabled={!configures} onClose={close} />
        ) : (
          doing && <NewReference from={doing.from} to={doing.to} entities={all} onClose={close} />
        )}
      </Suspense>
    </>
  );
}

interface RelationsBarProps {
  entities: readonly EntityRelations[];
  /** Whether there are too many to draw them all. */
  many: boolean;
  /** The entity the others are drawn around; empty for all. */
  middle: string;
  onMiddle: (entity: string) => void;
  size: 'fit' | 'full';
  onSize: (size: 'fit' | 'full') => void;
}

/** What is drawn, how large, and to paper. */
const RelationsBar = ({ entities, many, middle, onMiddle, size, onSize }: RelationsBarProps) => (
  <div className="sheet-bar relations-bar">
    <label className="label-language">
      {say('relations.around')}{' '}
      <Select
        value={middle}
        options={[
          ...(many ? [] : [{ key: '', label: say('relations.all') }]),
          ...entities.map(({ key, plural }) => ({ key, label: plural })),
        ]}
        onChange={onMiddle}
      />
    </label>
    <Segments
      id="relations-size"
      label={say('relations.size')}
      value={size}
      options={(['fit', 'full'] as const).map((key) => ({ key, label: say(`relations.${key}`) }))}
      onChange={onSize}
    />
    <button type="button" className="button" onClick={() => print()}>
      {say('relations.print')}
    </button>
    <p>{many ? say('relations.tooMany', entities.length) : say('relations.about')}</p>
  </div>
);

/** On paper there is the diagram and nothing of the page around it, by whatever way it is printed. */
function usePaper(): void {
  useEffect(() => {
    const { dataset } = document.documentElement;
    dataset['page'] = 'relations';
    return () => void delete dataset['page'];
  }, []);
}

/** The entity that most others hang together with. */
function mostRelated(entities: readonly EntityRelations[]): string {
  const counts = new Map<string, number>();
  for (const { key, references } of entities)
    for (const { target } of references) for (const each of [key, target]) counts.set(each, (counts.get(each) ?? 0) + 1);
  return [...counts].toSorted((one, other) => other[1] - one[1])[0]?.[0] ?? entities[0]?.key ?? '';
}
