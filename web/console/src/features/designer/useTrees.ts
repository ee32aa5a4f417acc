import { useMemo, useState } from 'react';
import { atWidth, bare, derived, variantOf } from '#layout';
import type { Session } from '../../api/client.ts';
import type { DraftState } from './draftState.ts';
import { widthsOf } from './WidthScale.tsx';

/** The trees one works on: the draft's own, what it is over what it extends, and that as a width has it. */
export function useTrees({ draft, under }: DraftState, scale: Session['application']['widths']) {
  /** The width whose own form is changed; without one, the base. */
  const [width, setWidth] = useState<string>();
  const own = draft?.tree;
  // A derived layout is what it extends with its own changes over it.
  const base = useMemo(() => (own && under ? derived(under.tree, own) : own), [own, under]);
  const widths = useMemo(() => widthsOf(base, scale), [base, scale]);
  const variant = base && width ? variantOf(base, width) : undefined;
  // What is looked at and changed: the base, or the base as a width has it.
  const tree = useMemo(() => base && atWidth(base, variant), [base, variant]);
  // What a width's own form is made over.
  const beneath = useMemo(() => (variant && base ? bare(base) : undefined), [variant, base]);
  return { width, setWidth, own, base, widths, variant, tree, beneath };
}
