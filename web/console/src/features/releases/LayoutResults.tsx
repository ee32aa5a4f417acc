import type { EntitySummary, LayoutSummary } from '../../api/client.ts';
import { address } from '../../shell/location.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { say, sayGrammar } from '../../shell/configurator/texts.ts';
import { usePeople } from '../../shell/people.ts';
import { LayoutPicture } from './LayoutPicture.tsx';

/** How many errors and warnings there are. */
function findingsOf({ errors, warnings }: LayoutSummary): string {
  const found = [
    ...(errors > 0 ? [say('layoutsPage.errors', errors)] : []),
    ...(warnings > 0 ? [say('layoutsPage.warnings', warnings)] : []),
  ];
  return found.join(', ') || say('common.none');
}

/** How far a layout is published. */
function stateOf({ damaged, published, revision }: LayoutSummary): string {
  if (damaged) return say('layoutsPage.damaged');
  if (published === null || published === undefined) return say('common.neverPublished');
  return published === revision ? say('layoutsPage.published') : say('layoutsPage.notPublished', revision - published);
}

/** What can be done with a layout in the list of all. */
interface LayoutActs {
  /** Begins another one like it. */
  duplicate?: (layout: LayoutSummary) => void;
  archive?: (layout: LayoutSummary) => void;
  bringBack?: (layout: LayoutSummary) => void;
}

interface FoundProps {
  layouts: LayoutSummary[];
  entities: EntitySummary[];
  /** What can be done with one; nothing for who may not. */
  acts: LayoutActs | undefined;
}

/** Layouts as they look. */
export function LayoutPictures({ layouts, entities, acts }: FoundProps) {
  return (
    <ul className="pictures">
      {layouts.map((layout) => (
        <li key={layout.key} className="picture-card">
          {!layout.damaged && <LayoutPicture layout={layout.key} revision={layout.revision} />}
          <b>{layout.damaged ? layout.title : <a href={address('design', layout.key)}>{layout.title}</a>}</b>
          <small>
            {sayGrammar('word', layout.kind)}, {entities.find((each) => each.key === layout.entity)?.label ?? layout.entity}
          </small>
          <small>{stateOf(layout)}</small>
          <Acts layout={layout} acts={acts} />
        </li>
      ))}
    </ul>
  );
}

function Acts({ layout, acts }: { layout: LayoutSummary; acts: LayoutActs | undefined }) {
  if (!acts || layout.damaged) return null;
  const { duplicate, archive, bringBack } = acts;
  const button = (label: string, name: string, act: (layout: LayoutSummary) => void) => (
    <button type="button" className="button quiet" aria-label={name} onClick={() => act(layout)}>
      {label}
    </button>
  );
  return (
    <span className="acts">
      {duplicate && layout.entity !== '' && button(say('layoutsPage.duplicate'), say('layoutsPage.duplicateOf', layout.title), duplicate)}
      {archive && button(say('layoutsPage.archive'), say('layoutsPage.archiveOf', layout.title), archive)}
      {bringBack && button(say('layoutsPage.bringBack'), say('layoutsPage.bringBackOf', layout.title), bringBack)}
    </span>
  );
}

/** Layouts in rows: how far each is published, what is wrong with it, who names it. */
export function LayoutTable({ layouts, entities, acts }: FoundProps) {
  const people = usePeople();
  return (
    <div className="table-frame">
      <table className="table">
        <thead>
          <tr>
            <th scope="col">{say('kind.layout')}</th>
            <th scope="col">{say('common.kind')}</th>
            <th scope="col">{say('common.entity')}</th>
            <th scope="col">{say('layoutsPage.state')}</th>
            <th scope="col">{say('layoutsPage.findings')}</th>
            <th scope="col">{say('pane.comments')}</th>
            <th scope="col">{say('layoutsPage.uses')}</th>
            <th scope="col">{say('layoutsPage.lastChanged')}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {layouts.map((layout) => (
            <tr key={layout.key}>
              <td data-label={say('kind.layout')}>
                {layout.damaged ? layout.title : <a href={address('design', layout.key)}>{layout.title}</a>}
              </td>
              <td data-label={say('common.kind')}>{sayGrammar('word', layout.kind)}</td>
              <td data-label={say('common.entity')}>{entities.find((each) => each.key === layout.entity)?.label ?? layout.entity}</td>
              <td data-label={say('layoutsPage.state')}>{stateOf(layout)}</td>
              <td data-label={say('layoutsPage.findings')}>{findingsOf(layout)}</td>
              <td data-label={say('pane.comments')}>
                {layout.comments > 0 ? (
                  <a href={address('design', layout.key, 'comments')}>{say('layoutsPage.open', layout.comments)}</a>
                ) : (
                  say('common.none')
                )}
              </td>
              <td data-label={say('layoutsPage.uses')}>{layout.uses || say('common.none')}</td>
              <td data-label={say('layoutsPage.lastChanged')} className="cell-whole">
                {say('layoutsPage.changedBy', moment(layout.changedAt), people.name(layout.changedBy))}
              </td>
              <td>
                <Acts layout={layout} acts={acts} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
