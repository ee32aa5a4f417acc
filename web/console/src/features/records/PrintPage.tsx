import { nameWindow } from '../../shell/pageTitle.ts';
import { FormStore, type Values } from '#form';
import { useEffect, useState } from 'react';
import { answer, api } from '../../api/client.ts';
import { Form } from '../../shell/Form.tsx';
import { useSession, useWords } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { formHost } from '../../shell/session.ts';
import { readPublishedForm } from '../../runtime/publishedForm.ts';
import { Problem } from '../../ui/Notice.tsx';
import '../../pages.css';

/** A record as the published print layout has it, on paper: nothing of the frame is printed. */
export function PrintPage({ entity, id }: { entity: string; id: number }) {
  const session = useSession();
  const say = useWords();
  const [store, setStore] = useState<FormStore>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    Promise.all([
      readPublishedForm(entity, 'print', 'view', id),
      answer(api.GET('/api/records/{entity}/{id}', { params: { path: { entity, id } } })),
    ]).then(
      ([served, record]) => {
        setStore(new FormStore(served.form, record.values as Values, record.references, formHost(), { record: id }));
        nameWindow(record.title);
      },
      (error: Error) => setProblem(error.message),
    );
    return () => {
      nameWindow();
    };
  }, [entity, id, session]);
  return (
    <div className="paper">
      <p className="paper-acts">
        <a className="button" href={address('records', entity, id)}>
          {say('close')}
        </a>
        <button type="button" className="button primary" onClick={() => window.print()}>
          {say('print')}
        </button>
      </p>
      <Problem text={problem} />
      {store && <Form store={store} />}
    </div>
  );
}
