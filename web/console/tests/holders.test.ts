import { screen, waitFor, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, expect, it, vi } from 'vitest';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return held.calls!.api;
  },
}));
const { show, working } = await import('./pages.ts');
const { release, releaseCalls } = await import('./releaseAnswers.ts');
const { HoldersPage } = await import('../src/features/releases/HoldersPage.tsx');

const steps = [
  { at: '2027-01-04T06:30:00Z', share: 5 },
  { at: '2027-01-05T06:30:00Z', share: 50 },
  { at: '2027-01-06T06:30:00Z', share: 100 },
];
const rollout = { roles: ['quay-hand'], people: ['ada'], share: 10, steps, stops: true };
const staged = release(8, { note: 'For the quay first', state: 'staged', rollout });
const current = release(7, { state: 'current', current: true });
const state = {
  release: staged,
  people: 40,
  reached: 9,
  saves: { saved: 18, failed: 6 },
  before: { saved: 0, failed: 0 },
  entities: ['vessel'],
  rule: 'It is taken back by itself when saving fails.',
};

let calls: Calls;
beforeEach(() => {
  calls = held.calls = releaseCalls();
  calls.answers.set('GET /api/releases', [staged, current]);
  calls.answers.set('GET /api/releases/{number}/rollout', state);
  calls.answers.set('GET /api/releases/holders', {
    people: [
      { person: 'ada', name: 'Ada Wader', release: 8, because: 'person' },
      { person: 'bram', name: 'Bram Klaasen', release: 7, because: 'everyone' },
    ],
    total: 2,
  });
  working(['publish']);
});

it('says who has what and why, and finds people', async () => {
  show(HoldersPage, {});
  const rows = async () => (await screen.findAllByRole('row')).map((row) => row.textContent);
  await screen.findByText('Bram Klaasen');
  expect((await rows()).slice(-2)).toEqual(['Ada Wader8is named', 'Bram Klaasen7everyone has it']);
  await userEvent.click(await screen.findByLabelText('Release 8'));
  await userEvent.type(screen.getByRole('searchbox'), 'ada');
  await waitFor(() => expect(calls.of('GET /api/releases/holders').at(-1)).toEqual({ limit: 100, search: 'ada', release: 8 }));
  calls.answers.set('GET /api/releases/holders', { people: [], total: 0 });
  await userEvent.type(screen.getByRole('searchbox'), 'x');
  expect(await screen.findByText('Nobody is found.')).toBeTruthy();
});

it('says how a release goes that some have, what comes next, and gives it to more', async () => {
  show(HoldersPage, {});
  const part = within(await screen.findByRole('region', { name: 'Release 8 is out to: Quay hand, Ada Wader, 10 of 100 people' }));
  expect(part.getByText(/9 of 40 people have it/)).toBeTruthy();
  expect(part.getAllByRole('listitem').map((each) => each.textContent.split(': ')[1])).toEqual(['50 of 100 people', 'everyone']);
  expect(part.getAllByRole('row').map((row) => row.textContent)).toEqual([
    'ReleaseSavedFailedFailed of 100',
    '8, out to some18625',
    '7, which the others have00–',
  ]);
  expect(part.getByText(state.rule)).toBeTruthy();
  await userEvent.click(part.getByRole('button', { name: 'Widen' }));
  expect(calls.of('POST /api/releases/8/widen')).toEqual([{ share: 20 }]);
  expect(await screen.findByText('Release 8 is out to 20 of 100 people.')).toBeTruthy();
  await userEvent.click(part.getByRole('button', { name: 'Promote to everyone' }));
  expect(calls.of('POST /api/releases/8/promote')).toHaveLength(1);
});

it('says that everyone has the same where no release is out to some', async () => {
  calls.answers.set('GET /api/releases', [current]);
  show(HoldersPage, {});
  expect(await screen.findByText('Everyone has release 7.')).toBeTruthy();
  expect(screen.queryByRole('region')).toBeNull();
  expect(screen.queryByRole('radio')).toBeNull();
});
