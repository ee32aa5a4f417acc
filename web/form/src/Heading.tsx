import { createElement, useContext, type HTMLAttributes } from 'react';
import { LevelContext } from './hooks.ts';

/** A heading as deep as where it stands; below the sixth level there is none. */
export function Heading(props: HTMLAttributes<HTMLHeadingElement>) {
  return createElement(`h${Math.min(6, useContext(LevelContext))}`, props);
}
