import { Graph, layout } from '@dagrejs/dagre';
import type { EntityRelations } from '../../api/client.ts';

/** A reference as it is drawn: in its entity's box, at a height from the box's top. */
export interface ReferenceRow {
  field: string;
  label: string;
  /** As much of the label as its box has room for. */
  drawn: string;
  target: string;
  y: number;
}

/** An entity as a box; in pixels at full size, from the diagram's corner. */
export interface EntityBox {
  entity: EntityRelations;
  /** As much of the entity's name as there is room for beside its dot. */
  drawn: string;
  x: number;
  y: number;
  width: number;
  height: number;
  rows: readonly ReferenceRow[];
}

/** A line from a reference to the entity it points at. */
export interface RelationLine {
  from: string;
  field: string;
  to: string;
  path: string;
}

export interface RelationPicture {
  width: number;
  height: number;
  boxes: readonly EntityBox[];
  lines: readonly RelationLine[];
}

export const headHeight = 46;
export const rowHeight = 26;
const padding = 12;
/** No box is wider; what does not fit is cut, and told as its title. */
const widest = 280;
/** What the dot takes beside the name. */
const dot = 20;
const narrowest = 132;
const margin = 24;

interface Point {
  x: number;
  y: number;
}

type Measure = (text: string, strong: boolean) => number;

/** The entities around one: itself, those it points at, those that point at it. */
export function around(entities: readonly EntityRelations[], key: string): EntityRelations[] {
  const middle = entities.find((each) => each.key === key);
  const targets = new Set(middle?.references.map((each) => each.target));
  return entities.filter((each) => each.key === key || targets.has(each.key) || each.references.some(({ target }) => target === key));
}

/**
 * Where every entity stands and every line runs: those that are related in columns along their references, the rest beneath in rows.
 * `measure` tells how wide a text is drawn; with `turned` the references run from right to left.
 */
export function pictureOf(entities: readonly EntityRelations[], measure: Measure, turned: boolean): RelationPicture {
  const known = new Set(entities.map((each) => each.key));
  const boxes = entities.map((each) => boxOf(each, known, measure));
  const bound = new Set(boxes.flatMap(({ entity, rows }) => (rows.length > 0 ? [entity.key, ...rows.map(({ target }) => target)] : [])));
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir: turned ? 'RL' : 'LR', nodesep: 22, ranksep: 84, marginx: margin, marginy: margin });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const box of boxes) if (bound.has(box.entity.key)) graph.setNode(box.entity.key, { width: box.width, height: box.height });
  for (const { entity, rows } of boxes)
    for (const { field, target } of rows) if (target !== entity.key) graph.setEdge(entity.key, target, {}, field);
  layout(graph);
  for (const box of boxes) {
    if (!bound.has(box.entity.key)) continue;
    const { x = 0, y = 0 } = graph.node(box.entity.key) as Partial<Point>;
    box.x = x - box.width / 2;
    box.y = y - box.height / 2;
  }
  // A reference stands where its line leaves with the fewest crossings.
  const byKey = new Map(boxes.map((box) => [box.entity.key, box]));
  for (const box of boxes) {
    const rows = box.rows.toSorted((one, other) => byKey.get(one.target)!.y - byKey.get(other.target)!.y);
    box.rows = rows.map((row, i) => ({ ...row, y: rowY(i) }));
  }
  const size = bound.size > 0 ? (graph.graph() as { width?: number; height?: number }) : {};
  const beneath = putBeneath(
    boxes.filter(({ entity }) => !bound.has(entity.key)),
    Math.max(size.width ?? 0, 960),
    size.height ?? margin,
  );
  const lines = boxes.flatMap((box) =>
    box.rows.map(({ field, target, y }): RelationLine => {
      const points =
        target === box.entity.key ? [] : ((graph.edge(box.entity.key, target, field) as { points?: Point[] } | undefined)?.points ?? []);
      return { from: box.entity.key, field, to: target, path: pathOf(box, box.y + y, byKey.get(target)!, points) };
    }),
  );
  return { width: Math.max(size.width ?? 0, beneath.width), height: beneath.height, boxes, lines };
}

/** As much of a text as there is room for; what is cut ends in a sign that it is. */
function cut(text: string, room: number, width: (text: string) => number): string {
  if (width(text) <= room) return text;
  const letters = [...text];
  while (letters.length > 1 && width(`${letters.join('')}…`) > room) letters.pop();
  return `${letters.join('')}…`;
}

/** Where the middle of a reference is, from the top of its box. */
const rowY = (i: number) => headHeight + rowHeight * (i + 0.5);

function boxOf(entity: EntityRelations, known: ReadonlySet<string>, measure: Measure): EntityBox {
  const rows = entity.references
    .filter(({ target }) => known.has(target))
    .map(({ field, label, target }, i) => ({
      field,
      label,
      drawn: cut(label, widest - 2 * padding, (text) => measure(text, false)),
      target,
      y: rowY(i),
    }));
  const drawn = cut(entity.plural, widest - 2 * padding - dot, (text) => measure(text, true));
  const texts = [measure(drawn, true) + dot, ...rows.map((row) => measure(row.drawn, false))];
  return {
    entity,
    drawn,
    x: 0,
    y: 0,
    width: Math.min(widest, Math.max(narrowest, ...texts.map((each) => Math.ceil(each) + 2 * padding))),
    height: headHeight + rows.length * rowHeight + (rows.length > 0 ? 6 : 0),
    rows,
  };
}

/** Puts boxes in rows under what is drawn. */
function putBeneath(boxes: EntityBox[], width: number, from: number): { width: number; height: number } {
  let [x, y, reached] = [margin, from, 0];
  for (const box of boxes) {
    if (x > margin && x + box.width > width - margin) [x, y] = [margin, y + headHeight + 16];
    box.x = x;
    box.y = y;
    x += box.width + 16;
    reached = Math.max(reached, x);
  }
  return { width: reached + margin - 16, height: boxes.length > 0 ? y + headHeight + margin : from };
}

/** From a reference's row to the box it points at, through where the columns between are free. */
function pathOf(from: EntityBox, y: number, to: EntityBox, points: readonly Point[]): string {
  const right = (box: EntityBox) => box.x + box.width;
  if (from === to) {
    const at = right(from);
    return `M${at} ${y} C${at + 44} ${y} ${at + 44} ${from.y + 16} ${at} ${from.y + 16}`;
  }
  // Between neighbours nothing stands in the way.
  const middle = points.length > 3 ? points.slice(1, -1) : [];
  const forwards = (points.at(-1)?.x ?? to.x) > (points[0]?.x ?? from.x);
  const start = { x: forwards ? right(from) : from.x, y };
  const end = { x: forwards ? to.x : right(to), y: to.y + headHeight / 2 };
  return curveThrough([start, ...middle, end], forwards ? 1 : -1);
}

/** A line that leaves and arrives level, and bends softly where it must. */
function curveThrough(points: readonly Point[], ahead: 1 | -1): string {
  const round = (value: number) => Math.round(value * 10) / 10;
  return points
    .map((point, i) => {
      if (i === 0) return `M${round(point.x)} ${round(point.y)}`;
      const before = points[i - 1]!;
      const reach = (ahead * Math.max(18, Math.abs(point.x - before.x))) / 2;
      const stops = [before.x + reach, before.y, point.x - reach, point.y, point.x, point.y];
      return `C${stops.map(round).join(' ')}`;
    })
    .join(' ');
}
