// @vitest-environment node
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { contrast } from '../src/model/contrast.ts';
import { groundColours, type Ground } from '../src/model/theme.ts';

const sheet = readFileSync(join(import.meta.dirname, '../src/tokens.css'), 'utf8');

/** The colours of the blocks of a sheet that begin with a selector. */
const block = (selector: RegExp, from: string): Record<string, string> =>
  Object.fromEntries([...(selector.exec(from)?.[1] ?? '').matchAll(/--([\w-]+): ([^;]+);/g)].map(([, name, value]) => [name!, value!]));

const [day, night] = sheet.split('@media (prefers-color-scheme: dark)') as [string, string];
const supplied = { light: block(/\[data-ground='sand'\] \{([^}]*)\}/, day), dark: block(/\[data-ground='sand'\] \{([^}]*)\}/, night) };

/** Every colour of a ground, by day or by night. */
function ground(name: string, scheme: 'light' | 'dark'): Record<string, string> {
  const own = name === 'sand' ? {} : block(new RegExp(`\\[data-ground='${name}'\\] \\{([^}]*)\\}`), sheet);
  const chosen = Object.entries(own).map(([token, value]) => {
    const [, light, dark] = /light-dark\((#\w{6}), (#\w{6})\)/.exec(value)!;
    return [token, (scheme === 'light' ? light : dark)!];
  });
  return { ...supplied.light, ...(scheme === 'dark' ? supplied.dark : {}), ...(Object.fromEntries(chosen) as Record<string, string>) };
}

describe.each(Object.keys(groundColours) as Ground[])('on the ground %s', (name) => {
  it.each(['light', 'dark'] as const)('every text can be read by %s (WCAG 2.2, 1.4.3)', (scheme) => {
    const of = ground(name, scheme);
    const pairs = [
      ...['paper', 'paper-raised', 'paper-sunk', 'field', 'lamp-soft', 'cool-soft', 'danger-soft', 'good-soft'].map((on) => ['ink', on]),
      ...['paper', 'paper-raised', 'paper-sunk', 'field'].map((on) => ['ink-soft', on]),
      ...['paper', 'paper-raised', 'paper-sunk', 'cool-soft'].map((on) => ['cool', on]),
      ...['paper', 'paper-raised', 'lamp-soft'].map((on) => ['lamp-ink', on]),
      ...['paper', 'paper-raised', 'danger-soft'].map((on) => ['danger', on]),
      ...['paper', 'paper-raised', 'good-soft'].map((on) => ['good', on]),
      ['on-cool', 'cool'],
      ['on-lamp', 'lamp'],
    ] as [string, string][];
    const faint = pairs.map(([text, on]) => [text, on, contrast(of[text]!, of[on]!)] as const).filter(([, , ratio]) => !(ratio >= 4.5));
    expect(faint).toEqual([]);
  });

  it('has by day the colours the editor of themes shows', () => {
    const { cool, lamp } = ground(name, 'light');
    expect({ primary: cool, accent: lamp }).toEqual(groundColours[name]);
  });

  it.each(['light', 'dark'] as const)('what is chosen stands out by %s (WCAG 2.2, 1.4.11)', (scheme) => {
    const of = ground(name, scheme);
    for (const on of ['paper', 'paper-raised']) expect(contrast(of['lamp']!, of[on]!), on).toBeGreaterThanOrEqual(3);
  });
});
