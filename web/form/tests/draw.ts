import { afterEach } from 'vitest';
import { FormView } from '../src/drawing/FormView.ts';
import type { FormStore } from '../src/state/store.ts';

// The page the tests draw in has no CSS object; ids in tests need no escaping.
globalThis.CSS ??= { escape: (text: string) => text } as typeof CSS;

let drawn: FormView[] = [];

/** Draws a form into the page, until the test is over. */
export function draw(store: FormStore): FormView {
  const drawing = new FormView(store);
  drawn.push(drawing);
  document.body.append(drawing.element);
  return drawing;
}

afterEach(() => {
  for (const drawing of drawn) drawing.dispose();
  drawn = [];
  document.body.replaceChildren();
});
