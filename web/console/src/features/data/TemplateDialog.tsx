import { useEffect, useState } from 'react';
import type { LayoutSummary } from '../../api/client.ts';
import { putDocument, readDocument } from '../../api/documents.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { textIn, withText, type LocalText } from '../../shell/localTexts.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';

interface TemplateFile {
  kind: 'template';
  key: string;
  title: LocalText;
  about?: LocalText | undefined;
  layouts: string[];
}

interface TemplateDialogProps {
  /** The key of the template that is changed; nothing for a new one. */
  template: string | undefined;
  layouts: readonly LayoutSummary[];
  taken: readonly string[];
  onClose: () => void;
}

const none: TemplateFile = { kind: 'template', key: '', title: '', layouts: [] };

/** A template as it is written: what it is called, what it is for, and the layouts it makes. */
export function TemplateDialog({ template, layouts, taken, onClose }: TemplateDialogProps) {
  const { language, application } = useSession();
  const [stored, setStored] = useState<{ value: TemplateFile; revision: number } | undefined>(
    template === undefined ? { value: none, revision: 0 } : undefined,
  );
  const [problem, setProblem] = useState<string>();
  const [change, setChange] = useState<{ title?: string; about?: string; layouts?: string[] }>({});
  useEffect(() => {
    if (template !== undefined)
      readDocument<TemplateFile>('template', template).then(setStored, (error: Error) => setProblem(error.message));
  }, [template]);
  const file = stored?.value ?? none;
  const title = change.title ?? textIn(file.title, language);
  const about = change.about ?? textIn(file.about, language);
  const chosen = change.layouts ?? file.layouts;
  const text = (of: LocalText | undefined, next: string) => withText(of, next.trim(), language, [...application.languages]) ?? undefined;
  const save = async () => {
    const key = file.key || keyOf(title, taken);
    const next: TemplateFile = {
      ...file,
      key,
      title: text(file.key ? file.title : undefined, title) ?? key,
      about: text(file.about, about),
      layouts: chosen,
    };
    await putDocument('template', key, next, stored?.revision ?? 0);
  };
  return (
    <FormDialog
      title={template === undefined ? say('templates.new') : title}
      submit={say('common.save')}
      incomplete={!stored || !title.trim() || chosen.length === 0}
      problem={problem}
      onSubmit={save}
      onClose={onClose}
    >
      <label htmlFor="template-title">{say('common.name')}</label>
      <input
        id="template-title"
        className="bt-input"
        autoComplete="off"
        dir="auto"
        maxLength={100}
        value={title}
        onChange={(event) => setChange({ ...change, title: event.target.value })}
      />
      <label htmlFor="template-about">{say('templates.what')}</label>
      <textarea
        id="template-about"
        className="bt-input"
        rows={2}
        dir="auto"
        value={about}
        onChange={(event) => setChange({ ...change, about: event.target.value })}
      />
      <LayoutChoice layouts={layouts} chosen={chosen} onChange={(next) => setChange({ ...change, layouts: next })} />
    </FormDialog>
  );
}

interface LayoutChoiceProps {
  layouts: readonly LayoutSummary[];
  /** Their keys, in the order they are made in. */
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
}

/** The layouts a template makes; those chosen stand first, in their order. */
function LayoutChoice({ layouts, chosen, onChange }: LayoutChoiceProps) {
  const offered = [
    ...chosen.map((key) => ({ key, title: layouts.find((each) => each.key === key)?.title ?? say('templates.gone', key) })),
    ...layouts.filter((each) => !chosen.includes(each.key) && each.kind !== 'piece'),
  ];
  return (
    <fieldset className="dialog-choices">
      <legend>{say('templates.layouts')}</legend>
      {offered.map((each) => (
        <label key={each.key} className="dialog-check">
          <input
            type="checkbox"
            checked={chosen.includes(each.key)}
            onChange={(event) => onChange(event.target.checked ? [...chosen, each.key] : chosen.filter((key) => key !== each.key))}
          />{' '}
          {each.title} <small>{each.key}</small>
        </label>
      ))}
    </fieldset>
  );
}
