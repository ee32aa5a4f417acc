// @vitest-environment node
// @vitest-environment node
import { expect, it } from 'vitest';
import { changeLabel } from '../src/features/designer/draftState.ts';

it('is never longer than the service keeps, and cuts no character in two', () => {
  expect(changeLabel('Place Berth below Length')).toBe('Place Berth below Length');
  expect(changeLabel('x'.repeat(3000))).toHaveLength(200);
  for (const before of [197, 198, 199])
    expect(changeLabel(`${'x'.repeat(before)}🛟🛟🛟`)).not.toMatch(/[\uD800-\uDBFF](?![\uDC00-\uDFFF])/);
});
