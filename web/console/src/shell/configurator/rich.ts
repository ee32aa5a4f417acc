import { createElement, Fragment, type ReactNode } from 'react';
import { say, type TextKey } from './texts.ts';

/** A text of the configurator's pages with elements among its values. */
export function rich(key: TextKey, ...values: ReactNode[]): ReactNode {
  const plain = values.map((value, i) => (typeof value === 'string' || typeof value === 'number' ? value : `\u0000${i}\u0000`));
  return say(key, ...plain)
    .split('\u0000')
    .map((part, i) => createElement(Fragment, { key: i }, i % 2 === 0 ? part : values[Number(part)]));
}
