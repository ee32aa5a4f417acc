import { answer, api, type AttachSketch } from '../../api/client.ts';
import { fieldTypes } from '../../shell/configurator/fieldTypes.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useAnswer } from '../../shell/queries.ts';
import { Problem } from '../../ui/Notice.tsx';

interface AttachPreviewProps {
  name: string;
  tables: readonly string[];
}

/** What the chosen tables would become, field by field, with the reason for what is only read. */
export function AttachPreview({ name, tables }: AttachPreviewProps) {
  const body = { tables: [...tables], publish: false };
  const { data: sketches, problem } = useAnswer(
    ['databases', name, 'sketch', ...tables],
    () => answer(api.POST('/api/databases/{name}/sketch', { params: { path: { name } }, body })),
    { keeps: true },
  );
  return (
    <section aria-label={say('databases.becomes')}>
      <h2>{say('databases.becomes')}</h2>
      <Problem text={problem?.message} />
      {sketches?.map((sketch, i) => (
        <SketchPart key={sketch.table} sketch={sketch} open={i === 0 && sketches.length < 4} />
      ))}
    </section>
  );
}

function SketchPart({ sketch, open }: { sketch: AttachSketch; open: boolean }) {
  return (
    <details className="attach-sketch" open={open}>
      <summary>
        <b>{sketch.label}</b> {say('databases.fieldsOf', sketch.fields.length, sketch.table)}
        {sketch.readOnly && <span> {sketch.readOnly}</span>}
      </summary>
      <div className="table-frame">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">{say('databases.column')}</th>
              <th scope="col">{say('databases.field')}</th>
              <th scope="col">{say('databases.type')}</th>
              <th scope="col">{say('databases.note')}</th>
            </tr>
          </thead>
          <tbody>
            {sketch.fields.map((field) => (
              <tr key={field.key}>
                <td data-label={say('databases.column')}>
                  <bdi className="mono-inline">{field.columns}</bdi> <span className="soft">{field.databaseType}</span>
                </td>
                <td data-label={say('databases.field')}>{field.label}</td>
                <td data-label={say('databases.type')}>
                  {field.type in fieldTypes ? say(fieldTypes[field.type as keyof typeof fieldTypes]) : field.type}
                  {field.target && ` → ${field.target}`}
                  {field.choices.length > 0 && <span className="soft"> {field.choices.join(', ')}</span>}
                </td>
                <td data-label={say('databases.note')}>
                  {field.required && say('databases.required')} {!sketch.readOnly && field.readOnly}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {sketch.left.map((left) => (
        <p key={left.column} className="soft">
          <bdi className="mono-inline">{left.column}</bdi> {left.reason}
        </p>
      ))}
    </details>
  );
}
