import { act } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Edit, TreeNode } from '#layout';
import { settle, using } from './hooks.ts';

/** A service that keeps one draft, and can be out of reach, slow, or refuse. */
const service = vi.hoisted(() => ({
  revision: 1,
  took: [] as { base: number; label: string; name: string; edits: unknown[] }[],
  /** What was read. */
  read: [] as string[],
  state: 'up' as 'up' | 'down' | 'starting' | 'refusing' | 'held',
  held: [] as (() => void)[],
}));

const title = (edits: unknown[]): string | undefined =>
  (edits as Edit[]).map((edit) => (edit.op === 'set' && edit.property === 'title' ? String(edit.value) : undefined)).at(-1);
const tree = (): TreeNode => ({
  id: 'layout',
  kind: 'layout',
  properties: { key: 'vessel', title: title(service.took.at(-1)?.edits ?? []) ?? 'Vessel' },
  children: [],
});
const draft = () => ({ key: 'vessel', entity: 'vessel', revision: service.revision, published: null, tree: tree(), findings: [] });

vi.mock('../src/api/client.ts', async (original) => {
  const real = await original<object>();
  const said = (status: number, body: unknown) => ({
    response: new Response(null, { status }),
    ...(status < 400 ? { data: body } : { error: body }),
  });
  return {
    ...real,
    api: {
      GET: async (path: string) =>
        service.read.push(path) &&
        said(
          200,
          path.endsWith('/changes')
            ? [{ by: 'greta', label: 'Name of Vessel' }]
            : path === '/api/people'
              ? [{ id: 'greta', name: 'Greta Root' }]
              : path.endsWith('/view')
                ? { revision: service.revision, form: { title: `at ${service.revision}` }, findings: [{ code: 'tab-alone' }], lengths: [] }
                : draft(),
        ),
      POST: async (_: string, { body }: { body: { base: number; edits: unknown[]; label: string; name: string } }) => {
        if (service.state === 'held') await new Promise<void>((go) => service.held.push(go));
        if (service.state === 'down') throw new TypeError('Failed to fetch');
        if (service.state === 'starting') return said(503, { status: 503, code: 'not-ready', title: 'The service is starting' });
        if (service.state === 'refusing')
          return said(409, { status: 409, code: 'conflict', title: 'Conflict', detail: 'Somebody else took it off.' });
        const before = tree().properties['title']!;
        service.took.push(body);
        service.revision++;
        return said(200, {
          revision: service.revision,
          edits: body.edits,
          inverse: [{ op: 'set', node: 'layout', property: 'title', value: before }],
        });
      },
    },
  };
});

const { useDraft } = await import('../src/features/designer/useDraft.ts');
const { ApiError } = await import('../src/api/client.ts');
const { PreviewSource } = await import('../src/features/designer/previewSource.ts');
const { enter } = await import('../src/shell/session.ts');

const name = (to: string): Edit[] => [{ op: 'set', node: 'layout', property: 'title', value: to }];
const labels = () => service.took.map((each) => each.label);
const kept = () =>
  Object.keys(localStorage)
    .filter((key) => key.startsWith('designing:ada:vessel:'))
    .map((key) => JSON.parse(localStorage.getItem(key)!) as { label: string; name: string; at: number })
    .toSorted((one, other) => one.at - other.at);
const open = async (may: string[] = ['configure']) => {
  enter({ person: { id: 'ada', name: 'Ada Wader', roles: [], language: 'en' }, permissions: may, antiforgery: '' } as never);
  const hook = await using(() => useDraft('vessel'));
  await settle();
  return hook;
};
const does = async (act_: () => unknown) => {
  await act(async () => {
    void act_();
  });
  await settle();
};
const after = async (milliseconds: number) => {
  await act(async () => {
    await vi.advanceTimersByTimeAsync(milliseconds);
  });
  await settle();
};

beforeEach(() => {
  Object.assign(service, { revision: 1, took: [], read: [], state: 'up', held: [] });
  localStorage.clear();
  sessionStorage.clear();
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

describe('a draft being changed', () => {
  it('shows a change before the service has answered, and is what the service says after', async () => {
    const { now, leave } = await open();
    service.state = 'held';
    await does(() => now().apply(name('Boat'), 'Name'));
    expect(now().draft!.tree.properties['title']).toBe('Boat');
    expect([now().draft!.revision, now().undoLabel]).toEqual([1, undefined]);
    service.state = 'up';
    service.held.forEach((go) => go());
    await settle();
    expect([now().draft!.revision, now().undoLabel, kept()]).toEqual([2, 'Name', []]);
    await leave();
  });

  it.each(['down', 'starting'] as const)('keeps what is done while the service is %s, says so, and sends it in order', async (state) => {
    const { now, leave } = await open();
    service.state = state;
    await does(() => now().apply(name('Boat'), 'First'));
    await does(() => now().apply(name('Ship'), 'Second'));
    expect(kept().map((each) => each.label)).toEqual(['First', 'Second']);
    // Under these names it is sent, however often, so that the service takes each once.
    const names = kept().map((each) => each.name);
    expect(new Set(names).size).toBe(2);
    await after(1_600);
    expect(now().message).toEqual({
      bad: true,
      text: 'The service cannot be reached. 2 changes wait here and will be sent; nothing is lost, and you can go on.',
    });
    expect(now().draft!.tree.properties['title']).toBe('Ship');
    service.state = 'up';
    await after(1_600);
    expect([labels(), service.took.map((each) => each.name), kept(), now().message]).toEqual([['First', 'Second'], names, [], undefined]);
    await leave();
  });

  it('finishes what is on its way when the form is left, and is not sent twice when it is opened again', async () => {
    const { now, leave } = await open();
    service.state = 'held';
    await does(() => now().apply(name('Boat'), 'First'));
    await does(() => now().apply(name('Ship'), 'Second'));
    await leave();
    const again = await open();
    expect(again.now().draft).toBeUndefined();
    service.state = 'up';
    service.held.forEach((go) => go());
    await settle();
    expect([labels(), kept(), again.now().draft?.tree.properties['title']]).toEqual([['First', 'Second'], [], 'Ship']);
    await again.leave();
  });

  it('waits in the browser when the form is left while nobody answers; nothing that came later overtakes it', async () => {
    const { now, leave } = await open();
    service.state = 'down';
    await does(() => now().apply(name('Boat'), 'First'));
    await does(() => now().apply(name('Ship'), 'Second'));
    await leave();
    await after(1_600);
    service.state = 'up';
    await after(10_000);
    expect([labels(), kept().map((each) => each.label)]).toEqual([[], ['First', 'Second']]);
    const again = await open();
    expect([labels(), kept(), again.now().undoLabel]).toEqual([['First', 'Second'], [], 'Second']);
    await again.leave();
  });

  it('keeps what each of two tabs has not sent, and both together are applied once', async () => {
    const [here, there] = [await open(), await open()];
    service.state = 'down';
    await does(() => here.now().apply(name('Boat'), 'Here'));
    await does(() => there.now().apply(name('Ship'), 'There'));
    expect(kept().map((each) => each.label)).toEqual(['Here', 'There']);
    // One of the two is closed, and the layout opened again while the other still waits.
    await here.leave();
    await after(1_600);
    const again = await open();
    service.state = 'up';
    await after(1_600);
    await after(1_600);
    expect(new Set(labels())).toEqual(new Set(['Here', 'There']));
    expect(new Set(service.took.map((each) => each.name)).size, 'each under one name, so that the service applies it once').toBe(2);
    expect(kept()).toEqual([]);
    await there.leave();
    await again.leave();
  });

  it('says what was refused, gives it up and looks at the draft anew', async () => {
    const { now, leave } = await open();
    service.state = 'refusing';
    await does(() => now().apply(name('Boat'), 'Name'));
    expect(now().message).toEqual({ bad: true, text: 'Somebody else took it off.' });
    expect([now().draft!.tree.properties['title'], now().undoLabel, kept()]).toEqual(['Vessel', undefined, []]);
    await leave();
  });

  it('is undone and done again by name, and typing into one property is one step', async () => {
    const { now, leave } = await open();
    await does(() => now().apply(name('B'), 'Name'));
    await does(() => now().apply(name('Bo'), 'Name'));
    await after(2_500);
    await does(() => now().apply(name('Boat'), 'Name'));
    await does(now().undo);
    expect([now().message?.text, now().draft!.tree.properties['title'], now().undoLabel, now().redoLabel]).toEqual([
      'Undone: Name',
      'Bo',
      'Name',
      'Name',
    ]);
    await does(now().undo);
    expect([now().draft!.tree.properties['title'], now().undoLabel]).toEqual(['Vessel', undefined]);
    await does(now().redo);
    await does(now().redo);
    expect([now().message?.text, now().draft!.tree.properties['title'], now().redoLabel]).toEqual(['Done again: Name', 'Boat', undefined]);
    await leave();
  });

  it('can still be undone after the page was loaded anew, and not by somebody else', async () => {
    const first = await open();
    await does(() => first.now().apply(name('Boat'), 'Name'));
    await first.leave();
    const second = await open();
    expect(second.now().undoLabel).toBe('Name');
    await does(second.now().undo);
    expect(second.now().draft!.tree.properties['title']).toBe('Vessel');
    await second.leave();
  });

  it('follows from what was answered, and is read only where somebody was in between', async () => {
    const { now, leave } = await open();
    service.read.length = 0;
    await does(() => now().apply(name('Boat'), 'Name'));
    expect([now().draft!.revision, now().draft!.tree.properties['title'], service.read]).toEqual([2, 'Boat', []]);
    service.revision++;
    await does(() => now().apply(name('Ship'), 'Name'));
    expect([now().draft!.revision, now().draft!.tree.properties['title'], service.read]).toEqual([4, 'Ship', ['/api/layouts/{key}']]);
    await leave();
  });

  it('is looked at once for each revision and each pair of eyes, and what the checks find is of its revision alone', async () => {
    const { now, leave } = await open();
    const preview = new PreviewSource('vessel');
    const request = { role: null, mode: 'edit', language: 'en', showHidden: true };
    service.read.length = 0;
    const view = await preview.view(1, request);
    expect([view.form, await preview.view(1, { ...request }), service.read.length]).toEqual([{ title: 'at 1' }, view, 1]);
    await preview.view(1, { ...request, role: 'harbour-office' });
    await preview.view(2, request);
    preview.forget();
    await preview.view(2, request);
    expect(service.read).toEqual(Array(4).fill('/api/layouts/{key}/view'));
    await act(async () => now().check({ ...view, revision: 9 }));
    expect(now().draft!.findings).toEqual([]);
    await act(async () => now().check(view));
    expect(now().draft!.findings).toEqual([{ code: 'tab-alone' }]);
    await leave();
  });

  it('takes up what the service worked out itself, after what waited before it, and undoes it', async () => {
    const { now } = await open();
    const calls: number[] = [];
    const paste = (fails = false) =>
      now().perform(async () => {
        calls.push(service.took.length);
        if (fails) throw new ApiError({ status: 422, code: 'invalid', title: 'Nothing of it can be placed here.' } as never);
        service.revision++;
        return { revision: service.revision, edits: [], inverse: name('Vessel') } as never;
      }, 'Paste');
    await does(() => {
      void now().apply(name('Boat'), 'Name');
      void paste();
    });
    expect([calls, now().draft!.revision, now().undoLabel]).toEqual([[1], 3, 'Paste']);
    await does(() => now().undo());
    expect([labels().at(-1), now().undoLabel]).toEqual(['Undone: Paste', 'Name']);
    let refused = '';
    await does(() =>
      paste(true).catch((error: Error) => {
        refused = error.message;
      }),
    );
    await does(() => now().apply(name('Ship'), 'Name'));
    expect([refused, labels().at(-1)]).toEqual(['Nothing of it can be placed here.', 'Name']);
  });

  it('is only looked at by whoever may not configure', async () => {
    const { now, leave } = await open(['review']);
    await does(() => now().apply(name('Boat'), 'Name'));
    expect([now().message?.text, labels()]).toEqual(['You can view, comment on and approve this form, but not change it.', []]);
    await leave();
  });
});
