import { attribute } from '../dom/dom.ts';
import type { Item } from '../model/types.ts';
import type { FormStore } from '../state/store.ts';

/** The heading of a level; below the sixth there is none. */
export const heading = (level: number) => `h${Math.min(6, level)}` as 'h2';

/** Whether an item is drawn: its condition holds, and its field is known. */
export const seen = (store: FormStore, item: Item) =>
  store.state(item.id).visible && (item.kind !== 'field' || store.form.fields[item.field] !== undefined);

/** Gives an element its class; while designing, what users would not see is drawn faintly, with the reason. */
export function ghostly(store: FormStore, element: HTMLElement, name: string, node: { id: string; ghost?: string }): void {
  const why = node.ghost ?? (store.designing && store.isHiddenByValues(node.id) ? 'Hidden for this record' : undefined);
  attribute(element, 'class', why ? `${name} bt-ghost` : name);
  attribute(element, 'title', why);
}

/**
 * A colour that a style names without the other is meant for paper in daylight: at night it is drawn towards the theme's own, so that both
 * can be read together.
 */
const alone = (colour: string, theme: string, share: number) =>
  `light-dark(${colour}, color-mix(in srgb, ${colour} ${share}%, var(${theme})))`;

/** Gives an element the colours of a named style. */
export function styled(store: FormStore, element: HTMLElement, name: string | undefined): void {
  const { ink, paper, strong } = (name ? store.form.styles?.[name] : undefined) ?? {};
  const wanted = {
    color: ink ? (paper ? ink : alone(ink, '--ink', 30)) : '',
    background: paper ? (ink ? paper : alone(paper, '--paper', 20)) : '',
    fontWeight: strong ? '640' : '',
  };
  if (!name && element.style.length === 0) return;
  Object.assign(element.style, wanted);
}
