import { screen, waitFor, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { show } from './pages.ts';

const { ImportDialog } = await import('../src/features/bundles/ImportDialog.tsx');

const documents = [
  ['entity', 'berth'],
  ['layout', 'berth'],
  ['layout', 'vessel'],
  ['navigation', 'navigation'],
].map(([kind, key]) => ({ kind: kind!, key: key!, path: '', hash: '', restsOn: [] }));

/** A service that says of each document asked for what would come of it, and keeps what it was asked. */
const service = {
  asked: [] as URLSearchParams[],
  comes: {} as Record<string, object>,
  findings: [] as object[],
  problem: undefined as object | undefined,
};
const closed = vi.fn();
const taken = vi.fn();

beforeEach(() => {
  Object.assign(service, { asked: [], comes: {}, findings: [], problem: undefined });
  closed.mockClear();
  taken.mockClear();
  vi.stubGlobal('fetch', async (address: string, how: { method: string; body: Blob }) => {
    const query = new URL(address, 'http://quay.example').searchParams;
    service.asked.push(query);
    expect([how.method, how.body.size]).toEqual(['POST', 5]);
    if (service.problem) return new Response(JSON.stringify(service.problem), { status: 422 });
    const only = query.getAll('only');
    const some = documents.filter((each) => only.length === 0 || only.includes(`${each.kind}/${each.key}`));
    return new Response(
      JSON.stringify({
        imported: query.get('dryRun') === 'false',
        findings: service.findings,
        bundle: { format: 'bright-tier-bundle', version: 1, at: '2026-11-27T09:00:00Z', from: 'Saltmarsh Quay', release: 4, documents },
        documents: some.map(({ kind, key }) => ({
          kind,
          key,
          change: 'changed',
          summary: [],
          impact: [],
          conflicts: [],
          revision: 1,
          text: '',
          ...service.comes[`${kind}/${key}`],
        })),
      }),
      { status: 200 },
    );
  });
});

const open = async () => {
  show(ImportDialog, { onClose: closed, onTaken: taken });
  await userEvent.upload(await screen.findByLabelText('The archive'), new File(['bytes'], 'quay.zip', { type: 'application/zip' }));
};
const row = (name: string) => within(screen.getByText(name).closest('li')!);
const button = () => document.querySelector<HTMLButtonElement>('button[type=submit]')!;
/** What was asked last, once it says so. */
const asks = (what: string) => waitFor(() => expect(decodeURIComponent(service.asked.at(-1)!.toString())).toBe(what));

describe('importing a bundle', () => {
  it('tells what would come of each, and takes the whole of it', async () => {
    service.comes = {
      'layout/vessel': { change: 'made' },
      'layout/berth': { summary: ['Sets the label.'], impact: ['layout/vessel'] },
      'entity/berth': { change: 'unchanged' },
    };
    service.findings = [{ kind: 'layout', key: 'berth', place: '', severity: 'warning', code: 'label-cut', message: 'It is cut.' }];
    await open();
    expect((await screen.findByText('Saltmarsh Quay')).parentElement!.textContent).toBe(
      'From Saltmarsh Quay, release 4, made Nov 27, 2026, 9:00 AM.'.replace(
        '9:00 AM',
        new Intl.DateTimeFormat('en', { timeStyle: 'short' }).format(new Date('2026-11-27T09:00:00Z')),
      ),
    );
    expect([
      row('layout vessel').queryByText('new'),
      row('menu').queryByText('changed'),
      row('entity berth').queryByText('unchanged'),
    ]).not.toContain(null);
    expect(
      row('layout berth')
        .getAllByRole('listitem', { hidden: true })
        .map((each) => each.textContent),
    ).toEqual(['Sets the label.', 'Noticed by: layout/vessel']);
    expect(screen.getByText('It is cut.', { exact: false }).textContent).toBe('warning, layout berth: It is cut.');
    expect(row('menu').queryByRole('textbox')).toBeNull();
    expect(button().textContent).toBe('Take 3 into the drafts');
    await userEvent.click(button());
    await asks('dryRun=false&merge=true');
    await waitFor(() => expect(taken.mock.calls[0]!.slice(1)).toEqual(['Saltmarsh Quay']));
    expect((taken.mock.calls[0]![0] as { key: string }[]).map((each) => each.key)).toEqual(['berth', 'vessel', 'navigation']);
  });

  it('takes some, under other keys, in place of what is here', async () => {
    await open();
    await userEvent.click(await screen.findByRole('checkbox', { name: 'menu', hidden: true }));
    await userEvent.type(screen.getByLabelText('Key here of the layout berth'), 'place');
    await userEvent.click(screen.getByRole('checkbox', { name: /Merge with changes made here/, hidden: true }));
    await asks('only=entity/berth&only=layout/berth&only=layout/vessel&rename=layout/berth:place&dryRun=true&merge=false');
    await waitFor(() => expect(button().textContent).toBe('Take 3 into the drafts'));
    expect(row('menu').queryByText('not taken')).not.toBeNull();
  });

  it('is not taken while both changed the same, unless somebody has the say', async () => {
    service.comes = { 'layout/vessel': { change: 'conflict', conflicts: ['The title was set to two values.'] } };
    await open();
    const say = await screen.findByLabelText('On conflict, use');
    expect([button().disabled, row('layout vessel').getByText('Conflicts').tagName]).toEqual([true, 'SUMMARY']);
    service.comes = { 'layout/vessel': { change: 'merged' } };
    await userEvent.selectOptions(say, 'theirs');
    await asks('dryRun=true&merge=true&conflictResolution=theirs');
    await waitFor(() => expect(button().disabled).toBe(false));
  });

  it('says what is wrong, all of it, and goes on once that is mended', async () => {
    service.problem = {
      status: 422,
      code: 'dependency-missing',
      title: 'Missing',
      detail: 'Something is missing.',
      problems: [
        { pointer: 'layouts/berth.yaml', message: 'rests on entity berth' },
        { pointer: 'layouts/vessel.yaml', message: 'rests on entity vessel' },
      ],
    };
    await open();
    expect(
      within(await screen.findByRole('alert', { hidden: true }))
        .getAllByRole('listitem', { hidden: true })
        .map((each) => each.textContent),
    ).toEqual(['layouts/berth.yaml rests on entity berth', 'layouts/vessel.yaml rests on entity vessel']);
    expect(button().disabled).toBe(true);
    service.problem = undefined;
    await userEvent.upload(screen.getByLabelText('The archive'), new File(['other'], 'quay.zip', { type: 'application/zip' }));
    await waitFor(() => expect(button().disabled).toBe(false));
    for (const each of await screen.findAllByRole('checkbox', { name: /berth|vessel|menu/, hidden: true })) await userEvent.click(each);
    expect([button().disabled, button().textContent, taken.mock.calls.length]).toEqual([true, 'Import into drafts', 0]);
  });
});
