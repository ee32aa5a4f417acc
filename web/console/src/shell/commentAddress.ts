import { address } from './location.ts';

/** Where what is said about a draft stands. */
export const commentAddress = ({ kind, key }: { kind: string; key: string }): string =>
  kind === 'layout' ? address('design', key, 'comments') : address('releases', kind, key);
