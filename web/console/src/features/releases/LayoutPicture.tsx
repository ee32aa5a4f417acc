/** A layout drawn small by the service; a revision makes another picture of it. */
export const LayoutPicture = ({ layout, revision }: { layout: string; revision: number }) => (
  <Picture src={`/api/layouts/${encodeURIComponent(layout)}/picture?revision=${revision}`} />
);

/** What a new layout of an entity would begin as, drawn small. */
export const BeginningPicture = ({ entity, from, kind }: { entity: string; from: string; kind: string }) => (
  <Picture src={`/api/entities/${encodeURIComponent(entity)}/picture?${new URLSearchParams({ from, kind })}`} />
);

/** What it is a picture of stands beside it. */
const Picture = ({ src }: { src: string }) => <img className="layout-picture" src={src} alt="" loading="lazy" decoding="async" />;
