import { useCallback, type RefObject } from 'react';
import { answer, api } from '../../api/client.ts';
import type { ServerEvent } from '../../shell/events.ts';
import { useServerEvents } from '../../shell/hooks.ts';
import { people } from '../../shell/people.ts';
import type { Draft, DraftMessage } from './draftState.ts';

/** What somebody else does to the draft is taken over, and said with their name. */
export function useOthersEdits(
  key: string,
  latest: RefObject<Draft | undefined>,
  queue: RefObject<Promise<unknown>>,
  refresh: () => Promise<void>,
  onMessage: (message: DraftMessage) => void,
): void {
  useServerEvents(
    useCallback(
      (event: ServerEvent) => {
        const elsewhere =
          event.type === 'draft' &&
          event.data.key === key &&
          event.data.kind === 'layout' &&
          (event.data.revision ?? 0) > (latest.current?.revision ?? 0);
        // A release may have been made of it, or have brought back what it was.
        if (event.type === 'release') void queue.current.then(refresh).catch(() => undefined);
        // One's own changes are announced too, usually before their answer arrives; those wait for it.
        if (elsewhere || event.type === 'resync')
          void queue.current
            .then(async () => {
              if ((event.data.revision ?? Infinity) <= (latest.current?.revision ?? 0)) return;
              await refresh();
              // What somebody else does is not only seen on the sheet but said, with her name.
              const [who, changes] = await Promise.all([
                people(),
                answer(api.GET('/api/layouts/{key}/changes', { params: { path: { key } } })),
              ]);
              const last = changes.at(-1);
              if (elsewhere && last)
                onMessage({ text: `${who.find((person) => person.id === last.by)?.name ?? last.by}: ${last.label}`, bad: false });
            })
            .catch(() => undefined);
      },
      [key, latest, queue, refresh, onMessage],
    ),
  );
}
