/** A picture beside words, which say the same: one SVG path on a raster of 24, in the colour and size of the text. */
export function Icon({ path }: { path: string | undefined }) {
  return path ? <svg className="bt-icon" viewBox="0 0 24 24" aria-hidden><path d={path} /></svg> : null;
}
