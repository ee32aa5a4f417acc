import { fromLocal } from '#form';
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
const { show, working } = await import('./pages.ts');
const { release, vessel, releaseCalls } = await import('./releaseAnswers.ts');
const { PublishDialog } = await import('../src/features/releases/PublishDialog.tsx');

let calls: Calls;
beforeEach(() => {
  calls = held.calls = releaseCalls();
  working(['configure', 'publish']);
});

describe('publishing', () => {
  const closed = vi.fn();
  const published = vi.fn();
  const open = async (more: Partial<Parameters<typeof PublishDialog>[0]> = {}) => {
    closed.mockClear();
    published.mockClear();
    show(PublishDialog, { documents: [vessel], title: 'the vessel form', errors: [], onClose: closed, onPublished: published, ...more });
    await screen.findByRole('dialog');
    return () => calls.of('POST /api/releases').at(-1) as Record<string, unknown>;
  };
  const button = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name });

  it('goes to everyone at once with its note, and says who has drawn it', async () => {
    const sent = await open();
    await userEvent.type(screen.getByLabelText('Note for your colleagues'), 'Beam first');
    await userEvent.click(button('Publish'));
    const receipt = within(await screen.findByRole('dialog', { name: 'Release 8 is published' }));
    expect(sent()).toEqual({ documents: [vessel], note: 'Beam first' });
    expect(receipt.getByText('layout vessel')).toBeTruthy();
    expect((await receipt.findByText('2 of 3 open browsers so far')).getAttribute('role')).toBe('status');
    expect(published).toHaveBeenCalledOnce();
    await userEvent.click(button('Done'));
    expect(closed).toHaveBeenCalledOnce();
  });

  it('takes along what it rests on, unless one leaves it', async () => {
    calls.answers.set('GET /api/releases/dependencies', [
      { kind: 'entity', key: 'vessel', revision: 3, forKind: 'layout', forKey: 'vessel', changedBy: ['greta'] },
      { kind: 'choice-list', key: 'propulsion', revision: 2, forKind: 'entity', forKey: 'vessel', changedBy: ['ada'] },
    ]);
    const sent = await open();
    const fieldset = within(await screen.findByRole('group', { name: 'Also changed, and required' }));
    expect(fieldset.getAllByRole('checkbox').map((each) => each.parentElement!.textContent.trim())).toEqual([
      'the entity vessel for the layout vessel, changed by greta',
      'the choice list propulsion for the entity vessel, changed by Ada Wader',
    ]);
    await userEvent.click(fieldset.getAllByRole('checkbox')[1]!);
    await userEvent.click(button('Publish'));
    await screen.findByText('Release 8 is published');
    expect(sent()['documents']).toEqual([{ kind: 'entity', key: 'vessel', revision: 3 }, vessel]);
  });

  it('says that nothing differs where no release was made', async () => {
    calls.answers.set('POST /api/releases', { release: release(7, { documents: [] }), reached: [], openClients: 0, made: false });
    await open();
    await userEvent.click(button('Publish'));
    expect(await screen.findByRole('heading', { name: 'Nothing differs from release 7' })).toBeTruthy();
  });

  it('goes to some people first, and not before some are named', async () => {
    const rollout = { roles: ['quay-hand'], people: ['ada'], share: 10, steps: [], stops: true };
    calls.answers.set('POST /api/releases', { release: release(8, { rollout, documents: [] }), reached: [], openClients: 0 });
    const sent = await open();
    await userEvent.click(screen.getByText('To everyone, now'));
    await userEvent.click(screen.getByLabelText('To some people first'));
    expect(button('Publish').disabled).toBe(true);
    await userEvent.click(screen.getByLabelText('Quay hand'));
    expect(screen.getByText('to Quay hand first')).toBeTruthy();
    await userEvent.selectOptions(await screen.findByLabelText('Add a person…'), 'Ada Wader');
    const share = screen.getByLabelText(/a share of all people/);
    await userEvent.clear(share);
    await userEvent.type(share, '10');
    expect(screen.getByText('to Quay hand, Ada Wader, 10 of 100 people first')).toBeTruthy();
    await userEvent.click(button('Publish'));
    expect(await screen.findByText('Release 8 is published to Quay hand, Ada Wader, 10 of 100 people')).toBeTruthy();
    expect(sent()['rollout']).toEqual(rollout);
    expect(screen.getByText(/Everyone else keeps the current release/)).toBeTruthy();
  });

  it('reaches more people step by step, each time more than the last', async () => {
    const sent = await open();
    await userEvent.click(screen.getByLabelText('To some people first'));
    await userEvent.click(screen.getByLabelText('Quay hand'));
    await userEvent.click(button('Reach more people at a time…'));
    expect(screen.getByLabelText<HTMLInputElement>('People of 100 at step 1').value).toBe('100');
    expect(button('Another step…').disabled).toBe(true);
    await userEvent.clear(screen.getByLabelText('People of 100 at step 1'));
    await userEvent.type(screen.getByLabelText('People of 100 at step 1'), '30');
    await userEvent.click(button('Another step…'));
    await userEvent.click(button('Another step…'));
    await userEvent.click(button('Remove step 2'));
    await userEvent.type(screen.getByLabelText('Time of step 1'), '2027-01-04T06:30');
    await userEvent.type(screen.getByLabelText('Time of step 2'), '2027-01-05T06:30');
    await userEvent.click(screen.getByLabelText(/^Take it back/));
    await userEvent.click(button('Publish'));
    await screen.findByText(/^Release 8 is published/);
    const local = (time: string) => fromLocal(time, Intl.DateTimeFormat().resolvedOptions().timeZone);
    expect(sent()['rollout']).toEqual({
      roles: ['quay-hand'],
      people: [],
      share: 0,
      steps: [
        { at: local('2027-01-04T06:30'), share: 30 },
        { at: local('2027-01-05T06:30'), share: 100 },
      ],
      stops: false,
    });
  });

  it('is set for a time, in the time of whoever sets it', async () => {
    calls.answers.set('POST /api/scheduled-releases', { id: 1, at: '2027-01-04T06:00:00Z' });
    await open();
    await userEvent.click(screen.getByLabelText('At a scheduled time'));
    await userEvent.type(screen.getByLabelText('Publication time'), '2027-01-04T06:30');
    await userEvent.click(button('Schedule'));
    expect(await screen.findByText(/^Scheduled for /)).toBeTruthy();
    expect(calls.of('POST /api/scheduled-releases')).toEqual([
      { documents: [vessel], note: '', at: fromLocal('2027-01-04T06:30', Intl.DateTimeFormat().resolvedOptions().timeZone) },
    ]);
    expect(calls.of('POST /api/releases')).toEqual([]);
  });

  it('stops at errors, and goes out in spite of them only with a reason from whoever may', async () => {
    const errors = [{ node: 'rig', code: 'unknown-field', message: 'There is no field mst.' }];
    await open({ errors });
    expect(screen.getByRole('alert').textContent).toContain('There is no field mst.');
    expect([button('Publish').disabled, screen.queryByText(/in spite of it/)]).toEqual([true, null]);
    working(['publish', 'override']);
    const sent = await open({ errors });
    await userEvent.click(await screen.findByLabelText('Publish despite errors'));
    await userEvent.type(screen.getByLabelText('Reason for publishing despite errors'), 'The yard waits');
    await userEvent.click(button('Publish'));
    await screen.findByText('Release 8 is published');
    expect(sent()['overrideReason']).toBe('The yard waits');
  });

  it('says what the service found, and lets one try again', async () => {
    calls.answers.set('POST /api/releases', new Error('Another release was made at the same moment.'));
    await open();
    await userEvent.click(button('Publish'));
    expect((await screen.findByRole('alert')).textContent).toBe('Another release was made at the same moment.');
    expect([button('Publish').disabled, published.mock.calls.length]).toEqual([false, 0]);
  });
});

describe('a receipt', () => {
  it('says where what went out is reached, and puts into the menu what is nowhere', async () => {
    const put: { body: unknown; tag: string | null }[] = [];
    vi.stubGlobal('fetch', (_: string, init: RequestInit) => {
      if (init.method === 'PUT') put.push({ body: JSON.parse(init.body as string), tag: new Headers(init.headers).get('If-Match') });
      return Promise.resolve(
        new Response(JSON.stringify({ kind: 'navigation', entries: [{ key: 'berth', title: 'Berths', entity: 'berth' }] }), {
          headers: { ETag: init.method === 'PUT' ? '"5"' : '"4"' },
        }),
      );
    });
    calls.answers.set('POST /api/releases', {
      release: release(8),
      openClients: 3,
      reached: [
        { entity: 'berth', label: 'Berths', address: '/records/berth', menu: ['On the water', 'Berths'] },
        { entity: 'vessel', label: 'Vessels', address: '/records/vessel', menu: null },
      ],
    });
    show(PublishDialog, { documents: [vessel], title: 'the vessel form', errors: [], onClose: vi.fn(), onPublished: vi.fn() });
    await userEvent.click(await screen.findByRole('button', { name: 'Publish' }));
    expect((await screen.findByText('Berths')).parentElement!.textContent).toBe('Berths, in the menu under On the water › Berths');
    expect(screen.getByText('Vessels').parentElement!.textContent).toContain('not in the menu yet');
    await userEvent.click(screen.getByRole('button', { name: 'Add it to the menu' }));
    expect(await screen.findByRole('heading', { name: 'Publish the menu' })).toBeTruthy();
    expect(put).toEqual([
      {
        body: {
          kind: 'navigation',
          entries: [
            { key: 'berth', title: 'Berths', entity: 'berth' },
            { key: 'vessel', title: 'Vessels', entity: 'vessel' },
          ],
        },
        tag: '"4"',
      },
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Publish' }));
    await waitFor(() =>
      expect(calls.of('POST /api/releases').at(-1)).toEqual({
        documents: [{ kind: 'navigation', key: 'navigation', revision: 5 }],
        note: 'Vessels in the menu',
      }),
    );
    vi.unstubAllGlobals();
  });
});
