import { screen, waitFor, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined }));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    return held.calls!.api;
  },
}));
const { Calls: Made, show, working } = await import('./pages.ts');
const { PeoplePage } = await import('../src/features/people/PeoplePage.tsx');
const { AuditPage } = await import('../src/features/people/AuditPage.tsx');
const { AccountPage } = await import('../src/features/people/AccountPage.tsx');

let calls: Calls;
beforeEach(() => {
  calls = held.calls = new Made();
  calls.answers.set('GET /api/people', [
    { id: 'bram', name: 'Bram Klaasen', roles: ['quay-hand'], language: 'nl', vouched: false },
    { id: 'ines', name: 'Ines Buoy', roles: [], language: 'en', vouched: true },
  ]);
  working(['administer', 'configure', 'publish']);
});

const rows = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) =>
      within(row)
        .getAllByRole('cell')
        .map((cell) => cell.textContent),
    );

describe('people', () => {
  it('are listed with what they may, in the words of the application', async () => {
    show(PeoplePage, {});
    await screen.findByText('Bram Klaasen');
    expect(rows()).toEqual([
      ['Bram Klaasen', 'bram', 'Quay hand', 'nl', '–', 'See as this person'],
      ['Ines Buoy', 'ines', 'none by the identity provider', 'en', '–', 'See as this person'],
    ]);
  });

  it('are made with roles, a language and a first password, which is sent on its own', async () => {
    show(PeoplePage, {});
    await userEvent.click(await screen.findByText('New person…'));
    const dialog = within(screen.getByRole('dialog', { name: 'New person' }));
    expect(dialog.getByText('(liftOut, workLine alone)')).toBeTruthy();
    await userEvent.type(dialog.getByLabelText('User name'), 'noor');
    await userEvent.type(dialog.getByLabelText('Name'), 'Noor Dekker');
    await userEvent.click(dialog.getByLabelText('Quay hand'));
    await userEvent.selectOptions(dialog.getByLabelText('Language'), 'nl');
    await userEvent.type(dialog.getByLabelText('First password'), 'eleven herons over the quay');
    await userEvent.click(dialog.getByText('Save'));
    expect((await screen.findByRole('status')).textContent).toBe('Noor Dekker is kept. A new password is chosen at the next sign-in.');
    expect(calls.of('PUT /api/people/noor')).toEqual([{ name: 'Noor Dekker', roles: ['quay-hand'], language: 'nl', region: null }]);
    expect(calls.of('PUT /api/people/noor/password')).toEqual([{ password: 'eleven herons over the quay' }]);
    expect(calls.of('GET /api/people'), 'and looked at again').toHaveLength(2);
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  it('keep the roles their provider gives them', async () => {
    show(PeoplePage, {});
    await userEvent.click(await screen.findByText('Ines Buoy'));
    const roles = screen.getByRole<HTMLFieldSetElement>('group', { name: 'Roles, as the identity provider says' });
    expect(roles.disabled).toBe(true);
  });

  it('are changed without a word about a password, and given one with what comes of it', async () => {
    show(PeoplePage, {});
    await userEvent.click(await screen.findByText('Bram Klaasen'));
    const dialog = within(screen.getByRole('dialog', { name: 'Bram Klaasen' }));
    expect(dialog.queryByLabelText('User name')).toBeNull();
    expect((dialog.getByLabelText('Quay hand') as HTMLInputElement).checked).toBe(true);
    await userEvent.click(dialog.getByLabelText('Quay hand'));
    await userEvent.type(dialog.getByLabelText('Another password'), 'x');
    expect(dialog.getByText(/sessions and tokens end/)).toBeTruthy();
    await userEvent.clear(dialog.getByLabelText('Another password'));
    await userEvent.click(dialog.getByText('Save'));
    await screen.findByRole('status');
    expect([calls.of('PUT /api/people/bram'), calls.of('PUT /api/people/bram/password')]).toEqual([
      [{ name: 'Bram Klaasen', roles: [], language: 'nl', region: null }],
      [],
    ]);
  });

  it('stay in the dialog with what was refused, and as they were when it is left', async () => {
    calls.answers.set('PUT /api/people/{id}', new Error('Her roles come from the port’s directory.'));
    show(PeoplePage, {});
    await userEvent.click(await screen.findByText('Ines Buoy'));
    await userEvent.click(screen.getByText('Save'));
    expect((await screen.findByRole('alert')).textContent).toBe('Her roles come from the port’s directory.');
    await userEvent.click(screen.getByText('Cancel'));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect([calls.of('GET /api/people').length, screen.queryByRole('status')]).toEqual([1, null]);
  });

  it('are not there for whoever may not see them, who is told so', async () => {
    calls.answers.set('GET /api/people', new Error('Only administrators see who there is.'));
    show(PeoplePage, {});
    expect((await screen.findByRole('alert')).textContent).toBe('Only administrators see who there is.');
  });
});

describe('the audit log', () => {
  const entry = (number: number, act: string, detail: unknown = {}) => ({
    number,
    at: '2026-11-27T09:00:00Z',
    by: 'bram',
    action: act,
    subject: 'release/2',
    detail,
    hash: 'h',
  });

  it('says what was done in parts by their names, and goes back page by page', async () => {
    calls.answers.set('GET /api/audit/entries', {
      entries: [entry(9, 'release.published', { note: '', documents: ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'], roles: ['quay-hand'] })],
      next: '9',
    });
    show(AuditPage, {});
    await screen.findByText('release.published');
    expect(rows()[0]!.slice(1)).toEqual([
      'Bram Klaasen',
      'release.published',
      'release/2',
      'documents: a, b, c, d, e, f and 2 more; roles: quay-hand',
    ]);
    calls.answers.set('GET /api/audit/entries', { entries: [entry(8, 'draft.changed')], next: null });
    await userEvent.click(screen.getByText('Load earlier entries'));
    await screen.findByText('draft.changed');
    expect([rows().length, calls.of('GET /api/audit/entries').at(-1), screen.queryByText('Load earlier entries')]).toEqual([
      2,
      { limit: 50, after: '9' },
      null,
    ]);
  });

  it('is searched a moment after one stops typing, and taken away as it is searched', async () => {
    calls.answers.set('GET /api/audit/entries', { entries: [], next: null });
    show(AuditPage, {});
    expect(await screen.findByText('No entries match.')).toBeTruthy();
    await userEvent.type(screen.getByLabelText(/Containing/), 'canvas');
    await userEvent.selectOptions(screen.getByLabelText(/Who/), 'bram');
    await waitFor(() => expect(calls.of('GET /api/audit/entries').at(-1)).toEqual({ by: 'bram', q: 'canvas', limit: 50 }));
    expect(calls.of('GET /api/audit/entries').length, 'not for every letter').toBeLessThan(6);
    expect(screen.getByText('Export CSV').getAttribute('href')).toBe('/api/audit/entries/export?by=bram&q=canvas');
  });

  it('is of records where that is asked for, each with a way to it', async () => {
    calls.answers.set('GET /api/audit/entries', { entries: [entry(9, 'draft.changed')], next: null });
    calls.answers.set('GET /api/audit/record-entries', {
      entries: [{ at: '2026-11-27T09:00:00Z', by: 'bram', action: 'delete', entity: 'berth', record: 17, version: 4 }],
      next: 'abc',
    });
    show(AuditPage, {});
    await screen.findByText('draft.changed');
    await userEvent.selectOptions(screen.getByLabelText(/Log of/), 'records');
    await screen.findByText('record deleted');
    expect(rows()[0]!.slice(1)).toEqual(['Bram Klaasen', 'record deleted', 'berth/17', 'version 4']);
    expect(screen.getByText('berth/17').getAttribute('href')).toBe('/records/berth/17');
    expect(screen.getByText('Export CSV').getAttribute('href')).toBe('/api/audit/record-entries/export?');
    expect([screen.queryByLabelText(/Containing/), screen.queryByText('Verify log')]).toEqual([null, null]);
    await userEvent.click(screen.getByText('Load earlier entries'));
    await waitFor(() => expect(calls.of('GET /api/audit/record-entries').at(-1)).toEqual({ limit: 50, after: 'abc' }));
  });

  it.each([
    [
      { intact: true, entries: 12, hash: '0123456789abcdef0123', firstBroken: null },
      'All 12 entries are intact; none was altered or removed. The last hash is 0123456789abcdef…',
      'good',
    ],
    [
      { intact: false, entries: 4, hash: 'x', firstBroken: 5 },
      'Entry 5 is missing or was altered in the database. The entries before it are intact.',
      'bad',
    ],
  ])('is proved whole or not: %j', async (proof, said, tone) => {
    calls.answers.set('GET /api/audit/entries', { entries: [], next: null });
    calls.answers.set('GET /api/audit/proof', proof);
    show(AuditPage, {});
    await userEvent.click(await screen.findByText('Verify log'));
    const status = await screen.findByRole(tone === 'bad' ? 'alert' : 'status');
    expect([status.textContent, status.dataset['tone']]).toEqual([said, tone]);
  });
});

describe('one’s own account', () => {
  const token = (id: string, name: string, scopes: string[] | null) => ({ id, name, scopes, expires: '2027-02-25T10:00:00Z' });

  it('makes a token for some acts, and shows its secret until another is made', async () => {
    calls.answers.set('GET /api/tokens', [token('a1', 'pipeline', ['configure', 'publish']), token('b2', 'everything', null)]);
    calls.answers.set('POST /api/tokens', { ...token('c3', 'nightly', ['configure']), secret: 'bt_secret' });
    show(AccountPage, {});
    await screen.findByText('pipeline');
    expect(rows().map((row) => row.slice(0, 3))).toEqual([
      ['pipeline', 'configure, publish', 'Feb 25, 2027'],
      ['everything', 'all of yours', 'Feb 25, 2027'],
    ]);
    await userEvent.type(document.querySelector('#token-name')!, 'nightly');
    await userEvent.click(screen.getByLabelText('configure'));
    await userEvent.click(screen.getByRole('button', { name: /create/i }));
    expect(await screen.findByText('bt_secret')).toBeTruthy();
    expect(calls.of('POST /api/tokens')).toEqual([{ name: 'nightly', days: 90, scopes: ['configure'] }]);
    expect([
      document.querySelector<HTMLInputElement>('#token-name')!.value,
      (screen.getByLabelText('configure') as HTMLInputElement).checked,
    ]).toEqual(['', false]);
  });

  it('ends a token only when one says so twice', async () => {
    calls.answers.set('GET /api/tokens', [token('a1', 'pipeline', null)]);
    const asked = vi.spyOn(window, 'confirm').mockReturnValueOnce(false).mockReturnValueOnce(true);
    show(AccountPage, {});
    await screen.findByText('pipeline');
    const end = within(screen.getAllByRole('row')[1]!).getByRole('button');
    await userEvent.click(end);
    expect(calls.of('DELETE /api/tokens/a1')).toEqual([]);
    await userEvent.click(end);
    await waitFor(() => expect(calls.of('DELETE /api/tokens/a1')).toHaveLength(1));
    expect(asked.mock.calls[0]![0]).toContain('pipeline');
  });

  it('changes the password and forgets what was typed, or says why not and keeps it', async () => {
    calls.answers.set('GET /api/tokens', []);
    calls.answers.set('PUT /api/session/password', new Error('That is not your password.'));
    show(AccountPage, {});
    const [now, next] = [await screen.findByLabelText<HTMLInputElement>(/current/i), document.querySelector<HTMLInputElement>('#next')!];
    await userEvent.type(now, 'wrong words');
    await userEvent.type(next, 'twelve terns upon the jetty');
    await userEvent.click(next.form!.querySelector('button')!);
    expect((await screen.findByRole('alert')).textContent).toBe('That is not your password.');
    expect([now.value, next.value]).toEqual(['wrong words', 'twelve terns upon the jetty']);
    calls.answers.delete('PUT /api/session/password');
    await userEvent.click(next.form!.querySelector('button')!);
    await waitFor(() => expect([now.value, next.value]).toEqual(['', '']));
    expect(calls.of('PUT /api/session/password')).toEqual([
      { current: 'wrong words', new: 'twelve terns upon the jetty' },
      { current: 'wrong words', new: 'twelve terns upon the jetty' },
    ]);
  });
});
