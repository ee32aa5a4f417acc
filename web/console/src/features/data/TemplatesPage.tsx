import { useState } from 'react';
import { answer, api, type LayoutSummary, type TemplateInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { address } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { LayoutPicture } from '../releases/index.ts';
import { DataHead } from './DataHead.tsx';
import { TemplateDialog } from './TemplateDialog.tsx';
import { PublishWaiting, useWaiting } from './WaitingDrafts.tsx';

const none: TemplateInfo[] = [];
const noLayouts: LayoutSummary[] = [];

/** The families of layouts one can begin with, each as the layouts it makes. */
export function TemplatesPage() {
  usePageTitle(say('data.parts.templates'));
  const session = useSession();
  const { data: templates, reload } = useAnswer(['documents', 'templates'], () => answer(api.GET('/api/templates')));
  const { data: layouts = noLayouts } = useAnswer(['layouts'], () => answer(api.GET('/api/layouts')));
  const waiting = useWaiting('template');
  // The key of the template that is changed, empty for a new one.
  const [open, setOpen] = useState<string>();
  const all = templates ?? none;
  const configures = may(session, 'configure');
  const close = () => {
    setOpen(undefined);
    void reload();
  };
  return (
    <>
      <DataHead here="templates">
        {configures && (
          <button type="button" className="button" onClick={() => setOpen('')}>
            {say('templates.new')}
          </button>
        )}
        <PublishWaiting waiting={waiting} title={say('data.parts.templates')} onClose={close} />
      </DataHead>
      <p>{say('templates.about')}</p>
      {templates && all.length === 0 && <p className="empty">{say('templates.none')}</p>}
      {all.map((template) => (
        <Template
          key={template.key}
          template={template}
          layouts={layouts}
          changed={waiting.some((each) => each.key === template.key)}
          onOpen={configures ? () => setOpen(template.key) : undefined}
        />
      ))}
      {open !== undefined && (
        <TemplateDialog template={open || undefined} layouts={layouts} taken={all.map((each) => each.key)} onClose={close} />
      )}
    </>
  );
}

interface TemplateProps {
  template: TemplateInfo;
  layouts: readonly LayoutSummary[];
  /** Whether not everybody has it as it is here. */
  changed: boolean;
  onOpen: (() => void) | undefined;
}

/** A template: what it is for, and its layouts drawn small. */
function Template({ template: { title, about, layouts: keys = [] }, layouts, changed, onOpen }: TemplateProps) {
  return (
    <section className="template">
      <header>
        <h2>{title}</h2>
        <small>{say(changed ? 'data.changedSince' : 'layoutsPage.published')}</small>
        {onOpen && (
          <button type="button" className="button" aria-label={say('templates.change', title)} onClick={onOpen}>
            {say('common.change')}
          </button>
        )}
      </header>
      {about && <p dir="auto">{about}</p>}
      <ul className="template-layouts">
        {keys?.map((key) => {
          const layout = layouts.find((each) => each.key === key);
          return (
            <li key={key}>
              {layout ? (
                <a href={address('design', key)}>
                  <LayoutPicture layout={key} revision={Number(layout.revision)} />
                  {layout.title}
                </a>
              ) : (
                say('templates.gone', key)
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
