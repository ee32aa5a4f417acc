import { useMemo, useRef, useState, type PointerEvent, type RefObject } from 'react';
import type { EntityRelations } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { address, navigate } from '../../shell/location.ts';
import { headHeight, pictureOf, rowHeight, type EntityBox, type RelationPicture } from './relationLayout.ts';

/** A reference that is there: the entity that has it, and the field. */
export interface ReferenceName {
  entity: string;
  field: string;
}

interface RelationDiagramProps {
  entities: readonly EntityRelations[];
  fit: boolean;
  /** A reference was pressed. */
  onOpen: (reference: ReferenceName) => void;
  /** An entity was led to another one; nothing where nothing may be changed. */
  onRelate: ((from: string, to: string) => void) | undefined;
}

/** How wide a text is drawn, in pixels. */
function measureIn(font: string): (text: string, strong: boolean) => number {
  const canvas = document.createElement('canvas').getContext('2d');
  return (text, strong) => {
    if (!canvas) return text.length * 8;
    canvas.font = `${strong ? 650 : 400} 14px ${font}`;
    return canvas.measureText(text).width;
  };
}

/** The entities as boxes with their references, and a line from each reference to the entity it points at. */
export function RelationDiagram({ entities, fit, onOpen, onRelate }: RelationDiagramProps) {
  const svg = useRef<SVGSVGElement>(null);
  const [lit, setLit] = useState<string>();
  const turned = document.documentElement.dir === 'rtl';
  const picture = useMemo(() => pictureOf(entities, measureIn(getComputedStyle(document.body).fontFamily), turned), [entities, turned]);
  const pulling = usePulling(svg, turned, onRelate);
  const { width, height, boxes } = picture;
  return (
    <div className="relations-frame" data-fit={fit ? '' : undefined}>
      <svg
        ref={svg}
        className="relations"
        role="group"
        aria-label={say('relations.diagram')}
        viewBox={`0 0 ${width} ${height}`}
        width={width}
        height={height}
        onPointerMove={pulling.move}
        onPointerUp={pulling.end}
      >
        <defs>
          <marker id="relation-end" viewBox="0 0 8 8" refX="7.5" refY="4" markerWidth="8" markerHeight="8" orient="auto">
            <path d="M0 0.5 L8 4 L0 7.5 Z" />
          </marker>
        </defs>
        <Lines picture={picture} lit={lit} />
        {boxes.map((box) => (
          <Box
            key={box.entity.key}
            box={box}
            nameOf={(key) => entities.find((each) => each.key === key)?.plural ?? key}
            turned={turned}
            over={pulling.over === box.entity.key}
            onLight={setLit}
            onOpen={onOpen}
            onPull={onRelate && !box.entity.attached ? pulling.begin : undefined}
          />
        ))}
        {pulling.line && <path className="relation-pull" d={pulling.line} />}
      </svg>
    </div>
  );
}

/** The lines; those of what is looked at stand out. */
function Lines({ picture, lit }: { picture: RelationPicture; lit: string | undefined }) {
  return (
    <g aria-hidden="true">
      {picture.lines.map(({ from, field, to, path }) => (
        <path
          key={`${from} ${field}`}
          className="relation-line"
          data-lit={lit !== undefined && (lit === from || lit === to || lit === `${from} ${field}`) ? '' : undefined}
          d={path}
          markerEnd="url(#relation-end)"
        />
      ))}
    </g>
  );
}

interface BoxProps {
  box: EntityBox;
  /** What an entity is called, by its key. */
  nameOf: (entity: string) => string;
  turned: boolean;
  over: boolean;
  onLight: (what: string | undefined) => void;
  onOpen: (reference: ReferenceName) => void;
  onPull: ((event: PointerEvent<SVGElement>, box: EntityBox) => void) | undefined;
}

/** An entity: its name leads to its fields, each of its references to what it is. */
function Box({ box, nameOf, turned, over, onLight, onOpen, onPull }: BoxProps) {
  const { entity, x, y, width, height, rows } = box;
  const start = turned ? width - 12 : 12;
  const light = (what: string) => ({
    onPointerEnter: () => onLight(what),
    onPointerLeave: () => onLight(undefined),
    onFocus: () => onLight(what),
    onBlur: () => onLight(undefined),
  });
  return (
    <g className="relation-box" data-entity={entity.key} data-over={over ? '' : undefined} transform={`translate(${x} ${y})`}>
      <rect width={width} height={height} rx="6" />
      <a
        href={address('data', 'entity', entity.key)}
        onClick={(event) => {
          // A link that is drawn tells the page less than one that is written; the browser's own ways of opening it stay.
          if (event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return;
          event.preventDefault();
          navigate('data', 'entity', entity.key);
        }}
        {...light(entity.key)}
      >
        <title>{entity.plural}</title>
        <rect className="relation-hit" width={width} height={headHeight} rx="6" />
        <text x={start} y="20" className="relation-name">
          {box.drawn}
        </text>
        <text x={start} y="36" className="relation-count">
          {say('relations.fields', entity.fields)}
        </text>
      </a>
      {rows.map((row) => {
        const open = () => onOpen({ entity: entity.key, field: row.field });
        return (
          <g
            key={row.field}
            role="button"
            tabIndex={0}
            aria-label={say('relations.reference', row.label, entity.label, nameOf(row.target))}
            transform={`translate(0 ${row.y - rowHeight / 2})`}
            onClick={open}
            onKeyDown={(event) => {
              if (event.key !== 'Enter' && event.key !== ' ') return;
              event.preventDefault();
              open();
            }}
            {...light(`${entity.key} ${row.field}`)}
          >
            <title>{row.label}</title>
            <rect className="relation-hit" x="1" width={width - 2} height={rowHeight} />
            <text x={start} y={rowHeight / 2 + 5}>
              {row.drawn}
            </text>
          </g>
        );
      })}
      {onPull && (
        <circle className="relation-grip" cx={turned ? 12 : width - 12} cy="15" r="5" onPointerDown={(event) => onPull(event, box)}>
          <title>{say('relations.relate', entity.plural)}</title>
        </circle>
      )}
    </g>
  );
}

/** A line pulled from an entity's grip until it is let go over another one. */
function usePulling(svg: RefObject<SVGSVGElement | null>, turned: boolean, onRelate: ((from: string, to: string) => void) | undefined) {
  const [pull, setPull] = useState<{ from: EntityBox; x: number; y: number; over?: string | undefined }>();
  const at = (event: PointerEvent) => {
    const matrix = svg.current!.getScreenCTM()!.inverse();
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    const under = document.elementsFromPoint(event.clientX, event.clientY).map((each) => each.closest<SVGElement>('[data-entity]'));
    return { x, y, over: under.find((each) => each)?.dataset['entity'] };
  };
  return {
    over: pull?.over,
    line: pull && `M${pull.from.x + (turned ? 12 : pull.from.width - 12)} ${pull.from.y + 15} L${pull.x} ${pull.y}`,
    begin: (event: PointerEvent<SVGElement>, from: EntityBox) => {
      event.preventDefault();
      svg.current?.setPointerCapture(event.pointerId);
      setPull({ from, ...at(event) });
    },
    move: (event: PointerEvent) => pull && setPull({ from: pull.from, ...at(event) }),
    end: (event: PointerEvent) => {
      if (!pull) return;
      const { over } = at(event);
      setPull(undefined);
      if (over) onRelate?.(pull.from.entity.key, over);
    },
  };
}
