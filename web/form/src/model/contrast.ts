/** The relative luminance of a colour such as #1f2226 (WCAG 2.2, definitions). */
function luminance(colour: string): number {
  const [r = 0, g = 0, b = 0] = [1, 3, 5]
    .map((at) => parseInt(colour.slice(at, at + 2), 16) / 255)
    .map((part) => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4));
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** The contrast of two colours, from 1 to 21 (WCAG 2.2, definitions). */
export function contrast(one: string, other: string): number {
  const [light = 1, dark = 1] = [luminance(one), luminance(other)].sort((a, b) => b - a);
  return (light + 0.05) / (dark + 0.05);
}
