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
const { ReleasesPage } = await import('../src/features/releases/ReleasesPage.tsx');

let calls: Calls;
beforeEach(() => {
  calls = held.calls = releaseCalls();
  working(['configure', 'publish']);
});

describe('what waits in drafts', () => {
  const draft = (revision: number, changedBy = 'ada') => ({ revision, changedBy, changedAt: '2026-11-27T09:00:00Z' });
  const differences = [
    { kind: 'entity', key: 'vessel', change: 'changed', summary: ['Adds fields wingspan.'], draft: draft(3) },
    { kind: 'layout', key: 'vessel', change: 'changed', summary: ['Moves beam.', 'Widens length.'], draft: draft(7, 'greta') },
    { kind: 'navigation', key: 'navigation', change: 'added', summary: [], draft: draft(1) },
    { kind: 'layout', key: 'old', change: 'removed', summary: [], draft: null },
  ];
  const open = async (may: string[], own: object[] = [], documents: object[] = differences, releases: object[] = []) => {
    working(may);
    calls.answers.set('GET /api/releases', releases);
    calls.answers.set('GET /api/releases/diff', { from: '3', to: 'drafts', documents });
    calls.answers.set('GET /api/approvals', {
      required: true,
      given: [{ kind: 'entity', key: 'vessel', revision: 3, by: 'ada', at: '' }],
      own,
    });
    show(ReleasesPage, {});
    return within(await screen.findByRole('region', { name: 'Unpublished drafts' }));
  };

  it('is told in words, with a way to where it is changed', async () => {
    const waiting = await open(['configure']);
    expect([...document.querySelectorAll('.ahead .release-note')].map((each) => each.textContent)).toEqual([
      'entity vessel',
      'layout vessel',
      'menunew',
    ]);
    expect(waiting.getAllByRole('link').map((link) => link.getAttribute('href'))).toEqual([
      '/releases/entity/vessel',
      '/design/vessel',
      '/design/vessel/comments',
      '/application/menu',
      '/releases/navigation/navigation',
    ]);
    await userEvent.click(waiting.getByRole('button', { name: '2 changes' }));
    expect([...document.querySelectorAll('.ahead-words li')].map((each) => each.textContent)).toEqual(['Moves beam.', 'Widens length.']);
    expect([waiting.queryByRole('checkbox'), waiting.queryByText('Publish…')]).toEqual([null, null]);
  });

  it('is published together, as far as it is chosen, at the revisions that were looked at', async () => {
    const waiting = await open(['publish']);
    expect(waiting.getByRole<HTMLButtonElement>('button', { name: 'Publish…' }).disabled).toBe(true);
    await userEvent.click(waiting.getByLabelText('All'));
    await userEvent.click(waiting.getByLabelText('Choose the menu'));
    await userEvent.click(waiting.getByRole('button', { name: 'Publish these 2 together…' }));
    await userEvent.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Publish' }));
    await waitFor(() =>
      expect(calls.of('POST /api/releases')).toEqual([
        {
          documents: [
            { kind: 'entity', key: 'vessel', revision: 3 },
            { kind: 'layout', key: 'vessel', revision: 7 },
          ],
          note: '',
        },
      ]),
    );
  });

  it('says what some have already, and what is set for a time', async () => {
    calls.answers.set('GET /api/scheduled-releases', [
      {
        id: 1,
        at: '2027-01-04T06:30',
        by: 'ada',
        note: '',
        state: 'scheduled',
        documents: [{ kind: 'layout', key: 'vessel', revision: 6 }],
      },
    ]);
    await open(['publish'], [], differences, [
      release(2, {
        state: 'staged',
        rollout: { roles: ['quay-hand'], share: 0, stops: true },
        documents: [{ kind: 'entity', key: 'vessel', change: 'changed' }],
      }),
    ]);
    await waitFor(() =>
      expect(
        [...document.querySelectorAll('.ahead .release-about')].map((each) => /\d [AP]M\. (.*?\.|)(?: |$)/.exec(each.textContent)?.[1]),
      ).toEqual(['Quay hand got it in release 2.', 'Revision 6 is set for Jan 4, 2027, 6:30 AM.', '']),
    );
  });

  it('is published without choosing where there is one', async () => {
    const waiting = await open(['publish'], [], [differences[2]!]);
    expect(waiting.queryByRole('checkbox')).toBeNull();
    await userEvent.click(waiting.getByRole('button', { name: 'Publish…' }));
    expect((await screen.findByRole('dialog')).querySelector('h2')!.textContent).toBe('Publish the menu');
  });

  it('is approved, of whatever kind it is, by whoever changed nothing in it', async () => {
    const waiting = await open(['review'], [{ kind: 'layout', key: 'vessel' }]);
    await waiting.findByText('approved by Ada Wader');
    expect(waiting.getAllByRole('listitem').map((row) => within(row).queryByRole('button', { name: 'Approve' }) !== null)).toEqual([
      true,
      false,
      true,
    ]);
    await userEvent.click(within(waiting.getAllByRole('listitem')[2]!).getByRole('button', { name: 'Approve' }));
    expect(calls.of('POST /api/approvals')).toEqual([{ kind: 'navigation', key: 'navigation', revision: 1, approved: true }]);
  });
});

describe('the releases', () => {
  const many = [
    release(4, {
      state: 'staged',
      rollout: { roles: ['quay-hand'], share: 0, stops: true },
      note: 'For the quay first',
      documents: [{ kind: 'layout', key: 'vessel', change: 'changed' }],
    }),
    release(3, { state: 'current', current: true, note: 'Berths by zone' }),
    release(2, { state: 'stopped', stopReason: '12 of 24 saves failed.', overrideReason: 'It could not wait' }),
    release(1, { documents: Array.from({ length: 6 }, (_, i) => ({ kind: 'layout', key: `l${i}`, change: 'added' })) }),
  ];
  const rows = async () => (
    await screen.findByText('For the quay first'),
    [...document.querySelectorAll<HTMLElement>('ol.releases:last-of-type > li')]
  );

  it('are told in words, with what can be done with each', async () => {
    calls.answers.set('GET /api/releases', many);
    show(ReleasesPage, {});
    const all = await rows();
    expect(all.map((row) => row.querySelector('.release-note')!.textContent)).toEqual([
      'For the quay firstQuay hand only',
      'Berths by zonecurrent',
      'No notetaken back',
      'No note',
    ]);
    expect(
      all.map((row) =>
        within(row)
          .queryAllByRole('button')
          .map((each) => each.textContent)
          .filter((text) => text !== 'Show changes'),
      ),
    ).toEqual([['Promote to everyone', 'Cancel release'], [], ['Restore'], ['Restore']]);
    expect(all[2]!.textContent).toContain('because saving failed: 12 of 24 saves failed.');
    expect(all[2]!.textContent).toContain('Published despite errors: It could not wait');
    expect(all[3]!.textContent).toContain('6 documents, 6 of them new');
    expect(screen.queryByRole('button', { name: 'Earlier releases' })).toBeNull();
  });

  it('are shown a hundred at a time, and one that only some have says what it holds however much that is', async () => {
    const documents = Array.from({ length: 30 }, (_, i) => ({ kind: 'layout', key: `l${i}`, change: 'added' }));
    const staged = release(200, {
      note: 'For the quay first',
      state: 'staged',
      rollout: { roles: ['quay-hand'], share: 0, stops: true },
      documents,
    });
    const older = (count: number) => Array.from({ length: count }, (_, i) => release(199 - i));
    calls.answers.set('GET /api/releases', [{ ...staged, documents: [] }, ...older(99)]);
    calls.answers.set('GET /api/releases/{number}', staged);
    show(ReleasesPage, {});
    expect(await rows()).toHaveLength(100);
    await waitFor(() => expect(calls.of('GET /api/releases/200')).toHaveLength(1));
    calls.answers.set('GET /api/releases', [{ ...staged, documents: [] }, ...older(150)]);
    await userEvent.click(screen.getByRole('button', { name: 'Earlier releases' }));
    await waitFor(async () => expect(await rows()).toHaveLength(151));
    expect(screen.queryByRole('button', { name: 'Earlier releases' })).toBeNull();
  });

  it('are only looked at by whoever may not publish', async () => {
    working(['review']);
    calls.answers.set('GET /api/releases', many);
    show(ReleasesPage, {});
    expect(
      (await rows()).flatMap((row) =>
        within(row)
          .queryAllByRole('button')
          .map((each) => each.textContent),
      ),
    ).toEqual(many.map(() => 'Show changes'));
  });

  it('are given to everyone, called off and restored; what destroys nothing asks nothing, what everyone notices does', async () => {
    calls.answers.set('GET /api/releases', many);
    calls.answers.set('POST /api/releases/1/restore', { release: release(5) });
    const asked = vi.spyOn(window, 'confirm').mockReturnValueOnce(false).mockReturnValue(true);
    show(ReleasesPage, {});
    const all = await rows();
    await userEvent.click(within(all[0]!).getByText('Promote to everyone'));
    expect((await screen.findByText('Release 4 is current.')).dataset['tone']).toBe('good');
    expect(asked).not.toHaveBeenCalled();
    await userEvent.click(within(all[0]!).getByText('Cancel release'));
    expect(calls.of('POST /api/releases/4/cancel')).toEqual([]);
    await userEvent.click(within(all[3]!).getByText('Restore'));
    await screen.findByText('Release 5 is published; it holds what release 1 held.');
    expect(calls.of('POST /api/releases/1/restore')).toEqual([{ note: 'Back to release 1' }]);
  });

  it('are compared with any other, and bring back what is chosen of them', async () => {
    calls.answers.set('GET /api/releases', many);
    calls.answers.set('GET /api/releases/diff', {
      from: '1',
      to: '2',
      documents: [
        { kind: 'entity', key: 'berth', change: 'changed', summary: ['Sets fields code label en to Berth.'], draft: null },
        { kind: 'layout', key: 'berth', change: 'added', summary: [], draft: null },
        { kind: 'layout', key: 'old', change: 'removed', summary: [], draft: null },
      ],
    });
    calls.answers.set('POST /api/releases/2/restore', { release: release(5) });
    vi.spyOn(window, 'confirm').mockReturnValue(true);
    show(ReleasesPage, {});
    await userEvent.click(within((await rows())[2]!).getByText('Show changes'));
    await screen.findByText('layout old is gone');
    expect(calls.of('GET /api/releases/diff').at(-1)).toEqual({ from: '1', to: '2' });
    expect(screen.getByText('Sets fields code label en to Berth.')).toBeTruthy();
    const back = screen.getByRole<HTMLButtonElement>('button', { name: 'Publishes the selected documents as they were in this release' });
    expect([back.disabled, screen.queryByLabelText('Choose the layout old')]).toEqual([true, null]);
    await userEvent.click(screen.getByLabelText('Choose the entity berth'));
    await userEvent.click(screen.getByLabelText('Choose the layout berth'));
    await userEvent.click(back);
    await waitFor(() =>
      expect(calls.of('POST /api/releases/2/restore')).toEqual([
        {
          note: 'entity berth, layout berth as in release 2',
          documents: [
            { kind: 'entity', key: 'berth' },
            { kind: 'layout', key: 'berth' },
          ],
        },
      ]),
    );
    await userEvent.selectOptions(screen.getByLabelText(/Compared with release/), '3');
    await waitFor(() => expect(calls.of('GET /api/releases/diff').at(-1)).toEqual({ from: '3', to: '2' }));
  });

  it('that are set for a time stand before them, and those that were not made for a week', async () => {
    const ago = (days: number) => new Date(Date.now() - days * 86_400_000).toISOString();
    const plan = (id: number, more: object) => ({
      id,
      by: 'ada',
      note: `Plan ${id}`,
      made: ago(9),
      at: ago(-1),
      rollout: null,
      state: 'scheduled',
      reason: null,
      release: null,
      documents: [vessel],
      ...more,
    });
    calls.answers.set('GET /api/releases', many);
    calls.answers.set('GET /api/scheduled-releases', [
      plan(4, {}),
      plan(3, { state: 'failed', at: ago(2), reason: 'The layout was published otherwise since.' }),
      plan(2, { state: 'failed', at: ago(8) }),
      plan(1, { state: 'out' }),
    ]);
    show(ReleasesPage, {});
    const section = within(await screen.findByRole('region', { name: 'Scheduled' }));
    expect(section.getAllByText(/^Plan \d/).map((each) => each.firstChild!.textContent)).toEqual(['Plan 4', 'Plan 3']);
    expect(section.getByText(/The layout was published otherwise since/)).toBeTruthy();
    await userEvent.click(section.getByText('Cancel release'));
    await waitFor(() => expect(calls.of('POST /api/scheduled-releases/4/cancel')).toHaveLength(1));
  });
});
