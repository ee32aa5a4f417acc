import { screen, waitFor, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Session } from '../src/api/client.ts';
import type { Calls } from './pages.ts';

const held = vi.hoisted(() => ({
  calls: undefined as Calls | undefined,
  refuse: undefined as { status: number; code: string; detail: string } | undefined,
}));
vi.mock('../src/api/client.ts', async (original) => ({
  ...(await original<object>()),
  get api() {
    const { api } = held.calls!;
    return {
      ...api,
      POST: async (path: string, init?: never) => {
        const answer = await (api['POST'] as (path: string, init?: never) => Promise<object>)(path, init);
        return held.refuse
          ? { error: { title: 'Refused', ...held.refuse }, response: new Response(null, { status: held.refuse.status }) }
          : answer;
      },
    };
  },
}));
const { Calls: Made, roles, show } = await import('./pages.ts');
const { SignIn } = await import('../src/features/people/SignIn.tsx');

const session = (more: Partial<Session> = {}) =>
  ({
    person: null,
    permissions: [],
    antiforgery: '',
    language: 'en',
    release: 1,
    peopleCanBePicked: false,
    provider: null,
    application: { title: 'Saltmarsh Quay', roles, languages: ['en'] },
    ...more,
  }) as unknown as Session;
const entered: unknown[] = [];
const open = (more?: Partial<Session>) =>
  show(SignIn, {
    session: session(more),
    onSignedIn: (found) => {
      entered.push(found);
    },
  });
let calls: Calls;
beforeEach(() => {
  calls = held.calls = new Made();
  calls.answers.set('POST /api/session', { person: { id: 'ada' } });
  held.refuse = undefined;
  entered.length = 0;
});

describe('signing in', () => {
  it('is picking a name where one may', async () => {
    calls.answers.set('GET /api/session/people', [{ id: 'bram', name: 'Bram Klaasen', roles: ['quay-hand'], language: 'nl' }]);
    open({ peopleCanBePicked: true });
    await userEvent.click(await screen.findByRole('button', { name: /Bram Klaasen\s*Quay hand/ }));
    await waitFor(() => expect(entered).toHaveLength(1));
    expect(calls.of('POST /api/session')).toEqual([{ person: 'bram' }]);
    expect(screen.queryByLabelText('Password')).toBeNull();
  });

  it('is by password, and what went wrong is said and costs nothing typed', async () => {
    held.refuse = { status: 401, code: 'not-signed-in', detail: 'No such name, or not this password.' };
    open();
    await userEvent.type(await screen.findByLabelText(/User name/), 'ada');
    await userEvent.type(screen.getByLabelText('Password'), 'wrong words{Enter}');
    const alert = await screen.findByRole('alert');
    expect([alert.textContent, alert.dataset['tone']]).toEqual(['No such name, or not this password.', 'bad']);
    held.refuse = undefined;
    await userEvent.clear(screen.getByLabelText('Password'));
    await userEvent.type(screen.getByLabelText('Password'), 'right words{Enter}');
    await waitFor(() => expect(entered).toHaveLength(1));
    expect(calls.of('POST /api/session').at(-1)).toEqual({ person: 'ada', password: 'right words' });
  });

  it('asks for a password of one’s own where somebody else set it, in words for people', async () => {
    held.refuse = { status: 401, code: 'password-to-change', detail: "Choose your own and send it as 'newPassword'." };
    open();
    await userEvent.type(await screen.findByLabelText(/User name/), 'ada');
    await userEvent.type(screen.getByLabelText('Password'), 'as it was set{Enter}');
    const own = await screen.findByLabelText(/new password/i);
    expect(document.activeElement).toBe(own);
    const alert = screen.getByRole('alert');
    expect([alert.textContent, alert.dataset['tone']]).toEqual(['This password was set by someone else. Choose your own.', undefined]);
    held.refuse = undefined;
    await userEvent.type(own, 'twelve terns upon the jetty{Enter}');
    await waitFor(() => expect(entered).toHaveLength(1));
    expect(calls.of('POST /api/session').at(-1)).toEqual({
      person: 'ada',
      password: 'as it was set',
      newPassword: 'twelve terns upon the jetty',
    });
  });

  it('is by token too, and by whoever vouches for one, back to where one was', async () => {
    window.history.replaceState(null, '', '/records/vessel/1');
    open({ provider: 'the port’s directory' });
    const way = await screen.findByRole('link', { name: /the port’s directory/ });
    expect(way.getAttribute('href')).toBe('/sign-in?back=%2Frecords%2Fvessel%2F1');
    await userEvent.click(screen.getByText('Use a personal token instead'));
    await userEvent.type(screen.getByLabelText(/token/i), 'bt_secret{Enter}');
    await waitFor(() => expect(entered).toHaveLength(1));
    expect(calls.of('POST /api/session')).toEqual([{ token: 'bt_secret' }]);
  });

  it.each([
    ['nl', 'Wachtwoord'],
    ['ar', 'كلمة المرور'],
  ])('speaks %s before anybody is known', async (language, password) => {
    open({ language });
    expect(await screen.findByLabelText(password)).toBeTruthy();
    expect(within(document.querySelector('main.sign-in')!).getByRole('heading').textContent).toBe('Saltmarsh Quay');
  });
});
