import { answer, api, type LayoutSummary, type TemplateInfo } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { say } from '../../shell/configurator/texts.ts';
import { BeginningPicture } from './LayoutPicture.tsx';

interface BeginningsProps {
  value: string;
  entity: string;
  kind: string;
  /** The layouts that can be copied. */
  copies: LayoutSummary[];
  templates: readonly TemplateInfo[];
  onChange: (from: string) => void;
}

/** What a new layout can begin with, each drawn small with the fields of its entity: one is chosen. */
export function Beginnings({ value, entity, kind, copies, templates, onChange }: BeginningsProps) {
  const { data: examples = [] } = useAnswer(
    ['entities', 'examples', entity],
    entity ? () => answer(api.GET('/api/entities/{entity}/examples', { params: { path: { entity } } })) : undefined,
  );
  const flows = kind === 'full' || kind === 'short' || kind === 'print';
  const beginnings = [
    { from: 'generated', name: say('newLayoutDialog.everything') },
    ...(flows ? [{ from: 'empty', name: say('newLayoutDialog.required') }] : []),
    { from: 'blank', name: say('newLayoutDialog.nothing') },
    ...copies
      .filter((layout) => layout.kind === kind)
      .map((layout) => ({ from: layout.key, name: say('newLayoutDialog.copy', layout.title) })),
    ...(kind === 'full' ? examples.map((each) => ({ from: `example:${each.key}`, name: say('newLayoutDialog.example', each.title) })) : []),
    ...(kind === 'full' ? templates : []).map((each) => ({
      from: `template:${each.key}`,
      name: say('newLayoutDialog.template', each.title),
    })),
  ];
  return (
    <fieldset className="beginnings">
      <legend>{say('newLayoutDialog.itBegins')}</legend>
      <div className="pictures">
        {beginnings.map(({ from, name }) => (
          <label key={from} className="picture-choice" data-on={from === value ? '' : undefined}>
            <BeginningPicture entity={entity} from={from} kind={kind} />
            <span>
              <input type="radio" name="begins" checked={from === value} onChange={() => onChange(from)} />
              {name}
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
