import { keyOf } from '../../shell/keys.ts';
import { NameForm } from './NameForm.tsx';
import { noApplication, type ApplicationFile } from './applicationFile.ts';
import { PartHead, useDocument } from '../documents/index.ts';
import { say } from '../../shell/configurator/texts.ts';

const usual = [{ name: 'narrow', below: 40 }, { name: 'medium', below: 64 }, { name: 'wide' }];

/** The application's scale of widths: where the ranges are cut in which layouts may differ. */
export function WidthsPart() {
  const stored = useDocument<ApplicationFile>('application', 'application', noApplication);
  const { value, change } = stored;
  if (!value) return <PartHead about="" kept={stored} />;
  const widths = value.widths ?? usual;
  const changeWidths = (next: ApplicationFile['widths']) => change({ ...value, widths: next });
  const from = (i: number) => widths[i - 1]?.below ?? 0;
  const top = Math.max(90, (widths.at(-2)?.below ?? 40) + 26);
  const add = (name: string) => {
    const key = keyOf(
      name,
      widths.map((each) => each.name),
    );
    const last = widths.at(-2)?.below ?? 0;
    changeWidths([...widths.slice(0, -1), { name: key, below: Math.min(last + 20, 200) }, widths.at(-1)!]);
  };
  return (
    <>
      <PartHead about={say('widthsPart.aFormIsAsWide')} kept={stored} title={say('applicationPart.widths')} />
      <div className="width-bar" aria-hidden="true">
        {widths.map((each, i) => (
          <span key={each.name} data-width={i + 1} style={{ flexGrow: (each.below ?? top) - from(i) }}>
            {each.name}
          </span>
        ))}
      </div>
      <table className="application-table">
        <WidthHead />
        <tbody>
          {widths.map((each, i) => (
            <WidthLine
              key={each.name}
              width={each}
              from={from(i)}
              below={widths[i + 1]?.below}
              onBelow={(below) => changeWidths(widths.with(i, { ...each, below }))}
              onRemove={each.below !== undefined && widths.length > 2 ? () => changeWidths(widths.toSpliced(i, 1)) : undefined}
            />
          ))}
        </tbody>
      </table>
      <NameForm label={say('widthsPart.nameOfANewWidth')} submit={say('widthsPart.addAWidth')} full={widths.length > 6} onAdd={add} />
    </>
  );
}

interface WidthLineProps {
  width: { name: string; below?: number | undefined };
  /** Where it begins, and where the next one ends, in rem. */
  from: number;
  below: number | undefined;
  onBelow: (below: number) => void;
  onRemove: (() => void) | undefined;
}

function WidthLine({ width, from, below: next, onBelow, onRemove }: WidthLineProps) {
  return (
    <tr>
      <th scope="row">{width.name}</th>
      <td>{say('widthsPart.px', from * 16)}</td>
      <td>
        {width.below === undefined ? (
          say('widthsPart.whateverThereIs')
        ) : (
          <label>
            <input
              className="bt-input"
              type="number"
              aria-label={say('widthsPart.upToInRem', width.name)}
              min={from + 4}
              max={(next ?? 204) - 4}
              value={width.below}
              onChange={(event) => {
                const below = Math.round(Number(event.target.value));
                if (below > from && below < (next ?? Infinity)) onBelow(below);
              }}
            />{' '}
            {say('widthsPart.remPx', width.below * 16)}
          </label>
        )}
      </td>
      <td>
        {onRemove && (
          <button
            type="button"
            className="button"
            aria-label={say('common.removeNamed', width.name)}
            title={say('widthsPart.layoutsWithAFormAt')}
            onClick={onRemove}
          >
            ×
          </button>
        )}
      </td>
    </tr>
  );
}

/** What is said of each width. */
function WidthHead() {
  return (
    <thead>
      <tr>
        <th scope="col">{say('common.name')}</th>
        <th scope="col">{say('widthsPart.from')}</th>
        <th scope="col">{say('widthsPart.upTo')}</th>
        <th>
          <span className="bt-visually-hidden">{say('widthsPart.acts')}</span>
        </th>
      </tr>
    </thead>
  );
}
