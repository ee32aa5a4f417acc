import { Calls } from './pages.ts';

/** A release as it is answered. */
export const release = (
  number: number,
  more: Record<string, unknown> & { documents?: readonly ({ change: string } & Record<string, unknown>)[] } = {},
) => ({
  number,
  at: '2026-11-27T09:00:00Z',
  by: 'ada',
  note: '',
  restores: null,
  current: false,
  documents: [],
  state: 'past',
  base: number - 1,
  rollout: null,
  stopReason: null,
  overrideReason: null,
  changed: more.documents?.length ?? 0,
  added: more.documents?.filter((document) => document.change === 'added').length ?? 0,
  ...more,
});
export const vessel = { kind: 'layout', key: 'vessel', revision: 7 };

/** Calls answered as where somebody publishes. */
export function releaseCalls(): Calls {
  const calls = new Calls();
  calls.answers.set('GET /api/people', [{ id: 'ada', name: 'Ada Wader', roles: [], language: 'en' }]);
  calls.answers.set('GET /api/releases/dependencies', []);
  calls.answers.set('GET /api/releases/{number}/adoption', { open: 3, drawn: 2 });
  calls.answers.set('GET /api/scheduled-releases', []);
  calls.answers.set('GET /api/releases/diff', { from: '3', to: 'drafts', documents: [] });
  calls.answers.set('GET /api/approvals', { required: false, given: [], own: [] });
  calls.answers.set('POST /api/releases', {
    release: release(8, {
      documents: [{ kind: 'layout', key: 'vessel', change: 'changed' }],
    }),
    reached: [],
    openClients: 3,
  });
  return calls;
}
