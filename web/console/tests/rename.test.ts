import { screen } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { expect, it, vi } from 'vitest';
import { Rename } from '../src/features/designer/Rename.tsx';
import { show } from './pages.ts';

it('a text of lines keeps its lines where it is written: Shift+Enter begins another, Enter keeps them', async () => {
  const done = vi.fn();
  show(Rename, { name: '- one\n- two', onDone: done });
  const box = await screen.findByRole('textbox');
  expect((box as HTMLTextAreaElement).value).toBe('- one\n- two');
  await userEvent.click(box);
  await userEvent.keyboard('{Control>}{End}{/Control}{Shift>}{Enter}{/Shift}- three');
  expect(done).not.toHaveBeenCalled();
  await userEvent.keyboard('{Enter}');
  expect(done.mock.calls).toEqual([['- one\n- two\n- three']]);
});

it('a name is kept by Enter, and a text that has no lines yet may have some', async () => {
  const done = vi.fn();
  show(Rename, { name: 'Keeper', onDone: done });
  await userEvent.click(await screen.findByRole('textbox'));
  await userEvent.keyboard('s{Enter}');
  expect(done.mock.calls).toEqual([['Keepers']]);
  show(Rename, { name: 'Mind the step.', lines: true, onDone: done });
  await userEvent.click(await screen.findByRole('textbox'));
  await userEvent.keyboard('{Escape}');
  expect(done.mock.lastCall).toEqual([undefined]);
});
