import type { ReactNode } from 'react';
import type { ReleaseReach, UnroutedLayout } from '../../api/client.ts';
import { rich } from '../../shell/configurator/rich.ts';
import { say } from '../../shell/configurator/texts.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { useSession } from '../../shell/hooks.ts';
import { Dialog, useDialog } from '../../ui/Dialog.tsx';
import { address } from '../../shell/location.ts';
import { may } from '../../shell/session.ts';
import { addMenuEntry, addRoutingRule } from './followUps.ts';
import { PublishForm } from './PublishForm.tsx';
import { ReceiptPart } from './ReceiptPart.tsx';
import { usePublication, type Publication } from './usePublication.ts';
import '../../pages.css';

interface PublishDialogProps extends Publication {
  /** It stands beside the form it is about, which shows the changes. */
  beside?: boolean;
  /** What changes, in words. */
  children?: ReactNode;
  /** The record one came from, to see it afterwards. */
  back?: { href: string; title: string } | undefined;
  onClose: () => void;
  onPublished: () => void;
}

/** Publishing: what goes out and what goes with it, to whom and when, a note, then the receipt. */
export function PublishDialog({ documents, title, errors, beside, children, back, onClose, onPublished }: PublishDialogProps) {
  const session = useSession();
  const dialog = useDialog();
  const publishing = usePublication({ documents, title, errors }, onPublished);
  const close = () => dialog.current?.close();
  const { receipt, scheduled, audience, goOn } = publishing;
  const configures = may(session, 'configure');
  const addToMenu = (reach: ReleaseReach) =>
    void goOn(addMenuEntry(reach), say('publishDialog.theMenu'), say('publishDialog.inTheMenu', reach.label));
  const give = (layout: UnroutedLayout, roles: readonly string[]) => {
    const note = say('publishDialog.givenTo', layout.title, audience({ roles }) || say('receiptPart.everyRole'));
    void goOn(addRoutingRule(layout, roles), say('publishDialog.theRouting'), note);
  };
  return (
    <Dialog dialog={dialog} className={beside ? 'dialog at-side' : 'dialog'} labelledBy="publish-title" onClose={onClose}>
      {receipt ? (
        <ReceiptPart
          receipt={receipt}
          audience={audience}
          problem={publishing.problem?.detail}
          onAddToMenu={configures ? addToMenu : undefined}
          onGive={configures ? give : undefined}
          back={back}
          onDone={close}
        />
      ) : scheduled ? (
        <div className="receipt">
          <h2 id="publish-title">{say('publishDialog.scheduledFor', moment(scheduled.at))}</h2>
          <p>{rich('publishDialog.itPublishesTheDraftsAs', <a href={address('releases')}>{say('common.releases')}</a>)}</p>
          <div className="dialog-acts">
            <button type="button" className="button primary" autoFocus onClick={close}>
              {say('common.done')}
            </button>
          </div>
        </div>
      ) : (
        <PublishForm publishing={publishing} onLeave={close}>
          {children}
        </PublishForm>
      )}
    </Dialog>
  );
}
