import { FormStore, type ResolvedForm, type FormHost, type Values } from '#form';
import { useEffect, useMemo, useState } from 'react';
import type { RecordInfo } from '../../api/client.ts';
import { Form } from '../../shell/Form.tsx';
import { address } from '../../shell/location.ts';
import { readPublishedForm } from '../../runtime/publishedForm.ts';

/** Records as the published card has them: what a list is where there is no room for columns. */
export function Cards({ entity, records, host }: { entity: string; records: RecordInfo[]; host: FormHost }) {
  const [card, setCard] = useState<ResolvedForm>();
  useEffect(() => {
    readPublishedForm(entity, 'card', 'view').then(
      (served) => setCard(served.form),
      () => undefined,
    );
  }, [entity]);
  return (
    <ul className="cards">
      {card &&
        records.map((record) => (
          <li key={record.id}>
            <Card entity={entity} form={card} record={record} host={host} />
          </li>
        ))}
    </ul>
  );
}

function Card({ entity, form, record, host }: { entity: string; form: ResolvedForm; record: RecordInfo; host: FormHost }) {
  const store = useMemo(() => new FormStore(form, record.values as Values, record.references, host), [form, record, host]);
  const picture = form.picture ? (record.values as Values)[form.picture] : undefined;
  return (
    <article className="card">
      {typeof picture === 'string' && <img className="card-picture" src={host.fileAddress(picture)} alt="" loading="lazy" />}
      <div className="card-lines">
        <Form store={store} />
      </div>
      <a className="card-link" href={address('records', entity, record.id)}>
        {record.title}
      </a>
    </article>
  );
}
