import { screen, waitFor } from '@testing-library/dom';
import { createElement, Fragment, lazy, type ComponentType } from 'react';
import { expect, it } from 'vitest';
import { Fetched } from '../src/features/designer/Fetched.tsx';
import { show } from './pages.ts';

const Control = () => createElement('input', { id: 'when', defaultValue: 'fetched' });

function page() {
  let come!: (module: { default: ComponentType }) => void;
  const Late = lazy(() => new Promise<{ default: ComponentType }>((resolve) => (come = resolve)));
  show(
    () =>
      createElement(
        Fragment,
        null,
        createElement('button', { type: 'button' }, 'Elsewhere'),
        createElement(Fetched, { id: 'when', value: 'record.length > 12', children: createElement(Late) }),
        createElement('p', { id: 'when-about' }, 'About it.'),
      ),
    {},
  );
  return () => come({ default: Control });
}

it('until a control is fetched what it says is read in its place; then the focus goes over to it', async () => {
  const come = page();
  const before = await screen.findByDisplayValue('record.length > 12');
  before.focus();
  come();
  const control = await screen.findByDisplayValue('fetched');
  await waitFor(() => expect(document.activeElement).toBe(control));
  expect(control.getAttribute('aria-describedby')).toBe('when-about');
});

it('whoever went on meanwhile keeps the focus', async () => {
  const come = page();
  (await screen.findByDisplayValue('record.length > 12')).focus();
  screen.getByRole('button', { name: 'Elsewhere' }).focus();
  come();
  await waitFor(() => expect(screen.getByDisplayValue('fetched').getAttribute('aria-describedby')).toBe('when-about'));
  expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Elsewhere' }));
});
