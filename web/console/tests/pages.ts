import { createElement, type ComponentType } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach } from 'vitest';
import { queries } from '../src/shell/queries.ts';
import { enter } from '../src/shell/session.ts';

let root: Root | undefined;

// The page the tests draw in has no CSS object and cannot open dialogs; ids in tests need no escaping.
globalThis.CSS ??= { escape: (text: string) => text } as typeof CSS;
HTMLDialogElement.prototype.showModal ??= function showModal(this: HTMLDialogElement) {
  this.open = true;
};
HTMLDialogElement.prototype.close ??= function close(this: HTMLDialogElement) {
  this.open = false;
  this.dispatchEvent(new Event('close'));
};

export const roles = [
  { key: 'administrator', label: 'Administrator', entities: [] },
  { key: 'quay-hand', label: 'Quay hand', entities: [] },
  { key: 'yard-foreman', label: 'Yard foreman', entities: ['liftOut', 'workLine'] },
];

/** Somebody works here. */
export function working(may: string[], language = 'en'): void {
  enter({
    person: { id: 'greta', name: 'Greta Root', roles: ['administrator'], language },
    permissions: may,
    antiforgery: '',
    language,
    release: 1,
    application: { roles, languages: ['en', 'nl', 'ar'] },
  } as never);
}

/** Draws a page until the test is over. */
export function show<Props extends object>(page: ComponentType<Props>, props: Props): void {
  const at = document.createElement('main');
  document.body.replaceChildren(at);
  root = createRoot(at);
  root.render(createElement(page, props));
}

afterEach(() => {
  root?.unmount();
  root = undefined;
  queries.clear();
});

/** Calls that were made, in order, and what each is answered: by its method and path. */
export class Calls {
  readonly made: { call: string; given: unknown }[] = [];
  readonly answers = new Map<string, unknown>();

  private answer(method: string, path: string, init: { params?: { path?: Record<string, string>; query?: unknown }; body?: unknown } = {}) {
    const address = path.replace(/\{(\w+)\}/g, (_, name: string) => init.params?.path?.[name] ?? name);
    this.made.push({ call: `${method} ${address}`, given: init.body ?? init.params?.query });
    const found = this.answers.get(`${method} ${address}`) ?? this.answers.get(`${method} ${path}`);
    if (typeof found === 'function') return Promise.resolve({ data: found(init.params?.query ?? init.body), response: new Response() });
    if (found instanceof Error)
      return Promise.resolve({
        error: { status: 422, code: 'invalid', title: 'Refused', detail: found.message },
        response: new Response(null, { status: 422 }),
      });
    return Promise.resolve({ data: found, response: new Response(null, { status: found === undefined ? 204 : 200 }) });
  }

  readonly api = Object.fromEntries(
    ['GET', 'PUT', 'POST', 'DELETE'].map((method) => [method, (path: string, init?: never) => this.answer(method, path, init)]),
  );

  of(call: string): unknown[] {
    return this.made.filter((each) => each.call === call).map((each) => each.given);
  }
}
