import { useState } from 'react';
import { answer, api, type LayoutSummary } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { NoticeBox, NoticeLine, type Notice } from '../../ui/Notice.tsx';

/** What archiving came to: the layout that was archived last, or what stands against it. */
interface ArchiveActs {
  archived: LayoutSummary | undefined;
  notice: Notice | undefined;
  archive: (layout: LayoutSummary) => void;
  bringBack: (layout: LayoutSummary) => void;
}

/** Puts layouts away and brings them back. */
export function useArchive(reload: () => Promise<void>): ArchiveActs {
  const [archived, setArchived] = useState<LayoutSummary>();
  const [notice, setNotice] = useState<Notice>();
  const run = async (act: () => Promise<unknown>, done: () => void) => {
    setArchived(undefined);
    setNotice(undefined);
    try {
      await act();
      done();
      await reload();
    } catch (problem) {
      setNotice({ text: (problem as Error).message, bad: true });
    }
  };
  const path = (layout: LayoutSummary) => ({ params: { path: { key: layout.key } } });
  return {
    archived,
    notice,
    archive: (layout) =>
      void run(
        () => answer(api.POST('/api/layouts/{key}/archive', path(layout))),
        () => setArchived(layout),
      ),
    bringBack: (layout) =>
      void run(
        () => answer(api.POST('/api/layouts/{key}/bring-back', path(layout))),
        () => setNotice({ text: say('layoutsPage.isBack', layout.title), bad: false }),
      ),
  };
}

/** What was just done, with the way back. */
export const ArchiveNotice = ({ archived, notice, bringBack }: ArchiveActs) =>
  archived ? (
    <NoticeBox tone="good">
      {say('layoutsPage.isArchived', archived.title)}{' '}
      <button type="button" className="bt-link" onClick={() => bringBack(archived)}>
        {say('common.undo')}
      </button>
    </NoticeBox>
  ) : (
    <NoticeLine notice={notice} />
  );
