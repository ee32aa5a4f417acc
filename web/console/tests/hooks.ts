import { act, createElement } from 'react';
import { createRoot } from 'react-dom/client';
import { afterEach } from 'vitest';
import { queries } from '../src/shell/queries.ts';

(globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;

/** A hook in use, as a page would use it: what it answers now, and an end to it. */
export async function using<T>(hook: () => T): Promise<{ now: () => T; leave: () => Promise<void> }> {
  let now!: T;
  const Host = () => {
    now = hook();
    return null;
  };
  const root = createRoot(document.createElement('div'));
  await act(async () => root.render(createElement(Host)));
  return { now: () => now, leave: async () => act(async () => root.unmount()) };
}

/** Lets everything that waits for nothing but its turn happen. */
export const settle = async (): Promise<void> =>
  act(async () => {
    for (let i = 0; i < 20; i++) await Promise.resolve();
  });

afterEach(() => queries.clear());
