import { make } from '#form';
import type { ComponentType } from 'react';
import { words } from './words.ts';

/** A part of the page that is drawn by components, which are fetched when it is opened. */
export interface Island<Props> {
  readonly element: HTMLElement;
  show: (props: Props) => void;
  close: () => void;
}

/** Makes such a part. What runs a form is plain, and there at once; see docs/decisions/013. */
export function island<Props extends object>(load: () => Promise<ComponentType<Props>>, first: Props, waiting?: string): Island<Props> {
  const element = make('div', { class: 'island' }, waiting && make('p', { class: 'waiting' }, waiting));
  let props = first;
  let closed = false;
  let root: { show: (props: Props) => void; close: () => void } | undefined;
  Promise.all([import('./components.tsx'), load()]).then(
    ([{ draw }, component]) => {
      if (!closed) root = draw(element, component, props);
    },
    () => {
      // The service was replaced by a newer one while this page stood open, or it cannot be reached.
      element.replaceChildren(
        make(
          'p',
          { class: 'notice', 'data-tone': 'bad', role: 'alert' },
          `${words()('notFetched')} `,
          make('button', { type: 'button', class: 'bt-link', on: { click: () => window.location.reload() } }, words()('loadAgain')),
        ),
      );
    },
  );
  return {
    element,
    show: (next) => {
      props = next;
      root?.show(next);
    },
    close: () => {
      closed = true;
      root?.close();
      element.remove();
    },
  };
}
