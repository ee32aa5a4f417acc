import { attribute } from '../dom/dom.ts';
import { contrast } from './contrast.ts';

/** What an application chose once for all its forms; what is not said is as supplied. */
export interface Theme {
  primary?: string | null;
  accent?: string | null;
  typeface?: string | null;
  /** Paper, ink and every colour at once (tokens.css). */
  ground?: string | null;
}

/** What a ground has of its own by day, where a theme says nothing else (tokens.css). */
export const groundColours = {
  sand: { primary: '#1c5f7d', accent: '#c97a0a' },
  chalk: { primary: '#2b549b', accent: '#c26a2e' },
  heather: { primary: '#6d3f86', accent: '#b3741b' },
} as const;

export type Ground = keyof typeof groundColours;

const fonts: Record<string, string> = { serif: "Georgia, 'Times New Roman', serif", system: 'system-ui, sans-serif' };

/** Of dark ink and white what stands out more from a colour. */
const onIt = (colour: string) => (contrast(colour, '#1d1300') > contrast(colour, '#ffffff') ? '#1d1300' : '#ffffff');

/** By day as chosen; at night so much of it in white that even black can be read on the night's paper. */
const night = (colour: string) => `color-mix(in oklab, ${colour} 35%, white)`;

/** The tokens (tokens.css) that a theme has otherwise than they are supplied. */
function tokens({ primary, accent, typeface }: Theme): Record<string, string> {
  return {
    ...(primary
      ? {
          '--cool': `light-dark(${primary}, ${night(primary)})`,
          '--on-cool': 'light-dark(#ffffff, #10202a)',
          '--cool-soft': `color-mix(in oklab, ${primary} 14%, var(--paper))`,
        }
      : {}),
    ...(accent
      ? {
          '--lamp': `light-dark(${accent}, ${night(accent)})`,
          '--on-lamp': `light-dark(${onIt(accent)}, #1d1300)`,
          '--lamp-soft': `color-mix(in oklab, ${accent} 16%, var(--paper))`,
          '--lamp-ink': `light-dark(color-mix(in oklab, ${accent} 60%, black), ${night(accent)})`,
        }
      : {}),
    ...(typeface && fonts[typeface] ? { '--font': fonts[typeface], 'font-family': fonts[typeface] } : {}),
  };
}

const all = Object.keys(tokens({ primary: '#000000', accent: '#000000', typeface: 'serif' }));

/** Gives an element, and what is in it, the ground, colours and typeface of a theme, in the place of any it was given before. */
export function themed(element: HTMLElement, theme: Theme | undefined): void {
  if (!theme && element.style.length === 0 && !element.hasAttribute('data-ground')) return;
  attribute(element, 'data-ground', theme?.ground);
  const chosen = tokens(theme ?? {});
  for (const name of all) {
    if (chosen[name]) element.style.setProperty(name, chosen[name]);
    else element.style.removeProperty(name);
  }
}
