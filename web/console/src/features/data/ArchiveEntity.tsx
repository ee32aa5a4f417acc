import { useState } from 'react';
import { answer, api, ApiError } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { FormDialog, stay } from '../../ui/FormDialog.tsx';

/** A draft at a revision, to be published. */
export interface DraftReference {
  kind: string;
  key: string;
  revision: number;
}

const path = (key: string) => ({ params: { path: { key } } });

/** Puts an entity away, as drafts; those to publish then. */
export const archiveEntity = (key: string): Promise<DraftReference[]> => answer(api.POST('/api/entities/{key}/archive', path(key)));

export const bringBackEntity = (key: string): Promise<DraftReference[]> => answer(api.POST('/api/entities/{key}/bring-back', path(key)));

interface ArchiveEntityProps {
  entity: string;
  title: string;
  /** The drafts that were changed; nothing where it was left. */
  onClose: (drafts: DraftReference[] | undefined) => void;
}

/** Asks before an entity is put away: what goes with it, and what stands against it. */
export function ArchiveEntity({ entity, title, onClose }: ArchiveEntityProps) {
  const [uses, setUses] = useState<readonly string[]>([]);
  const [problem, setProblem] = useState<string>();
  const archive = async () => {
    try {
      return await archiveEntity(entity);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setProblem(error.message);
      setUses((error.problem.problems ?? []).map((each) => each.message));
      return stay;
    }
  };
  return (
    <FormDialog
      title={say('entityArchive.title', title)}
      submit={say('entityArchive.submit')}
      problem={
        problem && (
          <>
            {problem}
            {uses.length > 1 && (
              <ul>
                {uses.map((each) => (
                  <li key={each}>{each}</li>
                ))}
              </ul>
            )}
          </>
        )
      }
      onSubmit={archive}
      onClose={onClose}
    >
      <p>{say('entityArchive.about')}</p>
    </FormDialog>
  );
}
