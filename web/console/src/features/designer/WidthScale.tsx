import { useRef } from 'react';
import { variantOf, type TreeNode } from '#layout';
import { rangeOf, type WidthInfo } from './variants.ts';
import { say } from '../../shell/configurator/texts.ts';

/** The widths a sheet can have, in pixels. */
export const narrowest = 280;
export const widest = 1600;

export const within = (pixels: number) => Math.round(Math.min(widest, Math.max(narrowest, pixels || narrowest)));

/**
 * The application's named widths with the cut points of the layout's own put in: each range begins where the one before it ends, so that no
 * two claim the same width.
 */
export function widthsOf(tree: TreeNode | undefined, scale: readonly WidthInfo[]): WidthInfo[] {
  const own = (tree?.children ?? []).flatMap((child) =>
    child.kind === 'variant' && typeof child.properties['below'] === 'number'
      ? [{ name: String(child.properties['variant']), below: child.properties['below'] }]
      : [],
  );
  const cuts = [
    ...scale.map(({ name, below }) => ({ name, below: below ?? null })),
    ...own.filter(({ name }) => !scale.some((each) => each.name === name)),
  ];
  cuts.sort((one, other) => (one.below ?? Infinity) - (other.below ?? Infinity) || one.name.localeCompare(other.name));
  return cuts.map((cut, i) => ({ ...cut, from: cuts[i - 1]?.below ?? 0 }));
}

/** Follows a pointer that was pressed, by how far it has gone. */
export function followPointer(event: React.PointerEvent<HTMLElement>, move: (by: number) => void): void {
  event.preventDefault();
  const { currentTarget, clientX } = event;
  currentTarget.setPointerCapture(event.pointerId);
  const drag = (moved: PointerEvent) => move(moved.clientX - clientX);
  currentTarget.addEventListener('pointermove', drag);
  currentTarget.addEventListener('lostpointercapture', () => currentTarget.removeEventListener('pointermove', drag), { once: true });
}

interface WidthScaleProps {
  tree: TreeNode;
  widths: readonly WidthInfo[];
  /** The width whose own form is changed. */
  chosen: string | undefined;
  /** The sheet's width, in pixels. */
  width: number;
  onWidth: (pixels: number) => void;
  onChoose: (name: string) => void;
  /** Makes a named width of this layout's own that ends where the sheet does. */
  onCut: () => void;
}

/** The scale of widths over the sheet: each named range in its colour, filled where it has a form of its own, and how wide the sheet is. */
export function WidthScale({ tree, widths, chosen, width, onWidth, onChoose, onCut }: WidthScaleProps) {
  const strip = useRef<HTMLDivElement>(null);
  const at = (pixels: number) => `${Math.min(1, Math.max(0, (pixels - narrowest) / (widest - narrowest))) * 100}%`;
  const cuts = new Set(widths.flatMap((each) => [each.from * 16, (each.below ?? 0) * 16]));
  return (
    <div className="width-scale">
      <div className="width-strip" ref={strip}>
        {widths.map((each, i) => {
          const [from, to] = [Math.max(narrowest, each.from * 16), Math.min(widest, (each.below ?? widest / 16) * 16)];
          return (
            from < to && (
              <button
                key={each.name}
                type="button"
                className="width-range"
                data-width={i + 1}
                data-own={variantOf(tree, each.name) ? '' : undefined}
                aria-pressed={chosen === each.name}
                title={aboutWidth(each, variantOf(tree, each.name) !== undefined)}
                style={{ insetInlineStart: at(from), width: `calc(${at(to)} - ${at(from)} - 2px)` }}
                onClick={() => {
                  onChoose(each.name);
                  if (width < from || width >= to) onWidth(Math.min(to - 1, Math.max(from, to === widest ? from + 100 : to - 40)));
                }}
              >
                {each.name}
              </button>
            )
          );
        })}
        <div
          className="width-mark"
          role="slider"
          tabIndex={0}
          aria-label={say('widthScale.widthOfTheSheet')}
          aria-valuemin={narrowest}
          aria-valuemax={widest}
          aria-valuenow={width}
          aria-valuetext={say('widthScale.pixelsIn', width, widths.find(holds(width))?.name ?? '')}
          style={{ insetInlineStart: at(width) }}
          onPointerDown={(event) => {
            const pixels = (widest - narrowest) / strip.current!.clientWidth;
            followPointer(event, (by) => onWidth(within(width + by * pixels)));
          }}
          onKeyDown={(event) => {
            const by = ({ ArrowLeft: -10, ArrowRight: 10, PageDown: -100, PageUp: 100 } as Record<string, number>)[event.key];
            if (!by) return;
            event.preventDefault();
            onWidth(within(width + by));
          }}
        >
          <span>{width}</span>
        </div>
      </div>
      <button type="button" className="tool" disabled={cuts.has(width)} title={say('widthScale.aNamedWidthOfThis')} onClick={onCut}>
        {say('widthScale.cutAtPx', width)}
      </button>
    </div>
  );
}

/** Whether a range of widths, in rem, has a width in pixels in it. */
const holds = (width: number) => (range: { from: number; below?: number | null }) =>
  width / 16 >= range.from && (range.below == null || width / 16 < range.below);

/** A width, where it holds, and whether it has a form of its own. */
const aboutWidth = (width: WidthInfo, begun: boolean): string =>
  `${width.name}, ${rangeOf(width)}: ${say(begun ? 'widthScale.hasAFormOfIts' : 'widthScale.showsTheBase')}`;
