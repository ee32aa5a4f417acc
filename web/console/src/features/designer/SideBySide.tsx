import { FormStore, type ResolvedForm, type Values } from '#form';
import { useMemo } from 'react';
import { Form } from '../../shell/Form.tsx';
import { formHost } from '../../shell/session.ts';
import { say } from '../../shell/configurator/texts.ts';

interface SideBySideProps {
  form: ResolvedForm;
  values: Values;
  references: ConstructorParameters<typeof FormStore>[2];
  page: string | undefined;
  width: number;
  zoom: number;
}

/** The same form at another width, to be looked at only. */
export function SideBySide({ form, values, references, page, width, zoom }: SideBySideProps) {
  const store = useMemo(
    () => new FormStore(form, values, references, formHost({ open: () => undefined, create: () => Promise.resolve(undefined) })),
    [form, values, references],
  );
  return (
    <div className="sheet beside" inert aria-hidden="true" title={say('sideBySide.theFormPixelsWide', width)} style={{ width, zoom }}>
      <Form store={store} page={page} onPage={() => undefined} />
    </div>
  );
}
