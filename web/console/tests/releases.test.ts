import { screen, waitFor, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({ calls: undefined as Calls | undefined }));
vi.mock('../src/api/client.ts', async (original) => ({ ...(await original<object>()), get api() { return held.calls!.api; } }));
const { Calls: Made, show, working } = await import('./pages.ts');
const { PublishDialog } = await import('../src/releases/PublishDialog.tsx');
const { ReleasesPage } = await import('../src/releases/ReleasesPage.tsx');

const release = (number: number, more: object = {}) => ({ number, at: '2026-11-27T09:00:00Z', by: 'ada', note: '', restores: null, current: false, documents: [], state: 'past', base: number - 1, roles: null, everyoneAt: null, despite: null, ...more });
const vessel = { kind: 'layout', key: 'vessel', revision: 7 };

let calls: Calls;
beforeEach(() => {
  calls = held.calls = new Made();
  calls.answers.set('GET /api/people', [{ id: 'ada', name: 'Ada Wader', roles: [], language: 'en' }]);
  calls.answers.set('GET /api/releases/along', []);
  calls.answers.set('GET /api/releases/{number}/adoption', { open: 3, drawn: 2 });
  calls.answers.set('GET /api/releases/plans', []);
  calls.answers.set('POST /api/releases', { release: release(8, { documents: [{ kind: 'layout', key: 'vessel', change: 'changed' }, { kind: 'entity', key: 'berth', change: 'unchanged' }] }), reached: [], openClients: 3 });
  working(['configure', 'publish']);
});

describe('publishing', () => {
  const closed = vi.fn();
  const published = vi.fn();
  const open = async (more: Partial<Parameters<typeof PublishDialog>[0]> = {}) => {
    closed.mockClear();
    published.mockClear();
    show(PublishDialog, { documents: [vessel], title: 'the vessel form', errors: [], about: 'vessel', onClose: closed, onPublished: published, ...more });
    await screen.findByRole('dialog');
    return () => calls.of('POST /api/releases').at(-1) as Record<string, unknown>;
  };
  const button = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name });

  it('goes to everyone at once with its note, and says who has drawn it', async () => {
    const sent = await open();
    await userEvent.type(screen.getByLabelText('Note for your colleagues'), 'Beam first');
    await userEvent.click(button('Publish'));
    const receipt = within(await screen.findByRole('dialog', { name: 'Release 8 is out' }));
    expect(sent()).toEqual({ documents: [vessel], note: 'Beam first' });
    expect(receipt.getByText('layout vessel')).toBeTruthy();
    expect((await receipt.findByText('2 of 3 open browsers so far')).getAttribute('role')).toBe('status');
    expect(published).toHaveBeenCalledOnce();
    await userEvent.click(button('Done'));
    expect(closed).toHaveBeenCalledOnce();
  });

  it('takes along what it rests on, unless one leaves it', async () => {
    calls.answers.set('GET /api/releases/along', [{ kind: 'entity', key: 'vessel', revision: 3, forKind: 'layout', forKey: 'vessel' }, { kind: 'choice-list', key: 'propulsion', revision: 2, forKind: 'entity', forKey: 'vessel' }]);
    const sent = await open();
    const fieldset = within(await screen.findByRole('group', { name: 'Changed too, and needed by what goes out' }));
    expect(fieldset.getAllByRole('checkbox').map((each) => each.parentElement!.textContent.trim())).toEqual(['the entity vessel for the layout vessel', 'the choices propulsion for the entity vessel']);
    await userEvent.click(fieldset.getAllByRole('checkbox')[1]!);
    await userEvent.click(button('Publish'));
    await screen.findByText('Release 8 is out');
    expect(sent()['documents']).toEqual([{ kind: 'entity', key: 'vessel', revision: 3 }, vessel]);
  });

  it('goes to some roles first, and not before some are named', async () => {
    calls.answers.set('POST /api/releases', { release: release(8, { roles: ['quay-hand'], documents: [] }), reached: [], openClients: 0 });
    const sent = await open();
    await userEvent.click(screen.getByText('To everyone, at once'));
    await userEvent.click(screen.getByLabelText('To some roles first'));
    expect(button('Publish').disabled).toBe(true);
    await userEvent.click(screen.getByLabelText('Quay hand'));
    expect(screen.getByText('to Quay hand first')).toBeTruthy();
    await userEvent.click(button('Publish'));
    expect(await screen.findByText('Release 8 is out to Quay hand')).toBeTruthy();
    expect(sent()['roles']).toEqual(['quay-hand']);
    expect(screen.getByText(/Everyone else has what they had/)).toBeTruthy();
  });

  it('is set for a time, in the time of whoever sets it', async () => {
    calls.answers.set('POST /api/releases/plans', { id: 1, at: '2027-01-04T06:00:00Z' });
    await open();
    await userEvent.click(screen.getByLabelText('At a set time'));
    await userEvent.type(screen.getByLabelText('When it goes out'), '2027-01-04T06:30');
    await userEvent.click(button('Set it for then'));
    expect(await screen.findByText(/^It goes out /)).toBeTruthy();
    expect(calls.of('POST /api/releases/plans')).toEqual([{ documents: [vessel], note: '', at: new Date('2027-01-04T06:30').toISOString() }]);
    expect(calls.of('POST /api/releases')).toEqual([]);
  });

  it('stops at errors, and goes out in spite of them only with a reason from whoever may', async () => {
    const errors = [{ node: 'rig', code: 'unknown-field', message: 'There is no field mst.' }];
    await open({ errors });
    expect(screen.getByRole('alert').textContent).toContain('There is no field mst.');
    expect([button('Publish').disabled, screen.queryByText(/in spite of it/)]).toEqual([true, null]);
    working(['publish', 'override']);
    const sent = await open({ errors });
    await userEvent.click(await screen.findByLabelText('Publish in spite of it, in my name'));
    await userEvent.type(screen.getByLabelText('Why it goes out in spite of errors'), 'The yard waits');
    await userEvent.click(button('Publish'));
    await screen.findByText('Release 8 is out');
    expect(sent()['despite']).toBe('The yard waits');
  });

  it('says what the service found, and lets one try again', async () => {
    calls.answers.set('POST /api/releases', new Error('Another release was made at the same moment.'));
    await open();
    await userEvent.click(button('Publish'));
    expect((await screen.findByRole('alert')).textContent).toBe('Another release was made at the same moment.');
    expect([button('Publish').disabled, published.mock.calls.length]).toEqual([false, 0]);
  });
});

describe('the releases', () => {
  const many = [
    release(4, { state: 'ahead', roles: ['quay-hand'], note: 'For the quay first', documents: [{ kind: 'layout', key: 'vessel', change: 'changed' }] }),
    release(3, { state: 'current', current: true, note: 'Berths by zone' }),
    release(2, { state: 'called-off', despite: 'It could not wait' }),
    release(1, { documents: Array.from({ length: 6 }, (_, i) => ({ kind: 'layout', key: `l${i}`, change: 'added' })) }),
  ];
  const rows = async () => (await screen.findByText('For the quay first'), [...document.querySelectorAll<HTMLElement>('ol.releases:last-of-type > li')]);

  it('are told in words, with what can be done with each', async () => {
    calls.answers.set('GET /api/releases', many);
    show(ReleasesPage, {});
    const all = await rows();
    expect(all.map((row) => row.querySelector('.release-note')!.textContent)).toEqual(['For the quay firstQuay hand alone', 'Berths by zonewhat everyone has', 'No notecalled off', 'No note']);
    expect(all.map((row) => within(row).queryAllByRole('button').map((each) => each.textContent).filter((text) => text !== 'What is different'))).toEqual([['Give it to everyone', 'Call it off'], [], ['Restore'], ['Restore']]);
    expect(all[2]!.textContent).toContain('In spite of errors: It could not wait');
    expect(all[3]!.textContent).toContain('6 documents, 6 of them new');
  });

  it('are only looked at by whoever may not publish', async () => {
    working(['review']);
    calls.answers.set('GET /api/releases', many);
    show(ReleasesPage, {});
    expect((await rows()).flatMap((row) => within(row).queryAllByRole('button').map((each) => each.textContent))).toEqual(many.map(() => 'What is different'));
  });

  it('are given to everyone, called off and restored; what destroys nothing asks nothing, what everyone notices does', async () => {
    calls.answers.set('GET /api/releases', many);
    calls.answers.set('POST /api/releases/1/restore', { release: release(5) });
    const asked = vi.spyOn(window, 'confirm').mockReturnValueOnce(false).mockReturnValue(true);
    show(ReleasesPage, {});
    const all = await rows();
    await userEvent.click(within(all[0]!).getByText('Give it to everyone'));
    expect((await screen.findByText('Release 4 is what everyone has.')).dataset['tone']).toBe('good');
    expect(asked).not.toHaveBeenCalled();
    await userEvent.click(within(all[0]!).getByText('Call it off'));
    expect(calls.of('POST /api/releases/4/call-off')).toEqual([]);
    await userEvent.click(within(all[3]!).getByText('Restore'));
    await screen.findByText('Release 5 is out; it holds what release 1 held.');
    expect(calls.of('POST /api/releases/1/restore')).toEqual([{ note: 'Back to release 1' }]);
  });

  it('that are set for a time stand before them, and those that were not made for a week', async () => {
    const ago = (days: number) => new Date(Date.now() - days * 86_400_000).toISOString();
    const plan = (id: number, more: object) => ({ id, by: 'ada', note: `Plan ${id}`, made: ago(9), at: ago(-1), roles: null, everyoneAt: null, state: 'waiting', reason: null, release: null, documents: [vessel], ...more });
    calls.answers.set('GET /api/releases', many);
    calls.answers.set('GET /api/releases/plans', [plan(4, {}), plan(3, { state: 'failed', at: ago(2), reason: 'The layout was published otherwise since.' }), plan(2, { state: 'failed', at: ago(8) }), plan(1, { state: 'out' })]);
    show(ReleasesPage, {});
    const section = within(await screen.findByRole('region', { name: 'Set for a time' }));
    expect(section.getAllByText(/^Plan \d/).map((each) => each.firstChild!.textContent)).toEqual(['Plan 4', 'Plan 3']);
    expect(section.getByText(/The layout was published otherwise since/)).toBeTruthy();
    await userEvent.click(section.getByText('Call it off'));
    await waitFor(() => expect(calls.of('POST /api/releases/plans/4/call-off')).toHaveLength(1));
  });
});
