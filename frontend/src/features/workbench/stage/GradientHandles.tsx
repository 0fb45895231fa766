import type { KeyboardEvent, SVGAttributes } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import type { Gradient } from '../../../api/contract';
import type { Point } from '../../../shared/geometry/matrix';
import { attempt, useBench } from '../bench';
import { reaches } from '../chosen';
import { setValues } from '../edits';
import { axisOf, handlesOf, pulled, stopPlace, type Handle } from './gradient';
import { onScreen, ownMatrix, useHandles, type OverLayer } from './useHandles';
import { known } from '../../../shared/known';

const NAMES = { centre: 'Middle', reach: 'Direction or reach', across: 'Width', focus: 'Focus' };
const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** px on the screen that stops stand beside the axis, where grips of the layer may lie. */
const ASIDE = 15;

/** The middle, direction and stops of a gradient, pulled where they lie. */
export function GradientHandles({ property, ...over }: OverLayer & { property: 'fill' | 'stroke' }) {
  const { id, pose, zoom } = over;
  const look = known(pose[id]);
  const size: Point = [Number(look.width), Number(look.height)];
  const matrix = ownMatrix(over);
  const commit = (paint: Gradient) => {
    const bench = useBench.getState();
    const { document: piece, state } = bench;
    return attempt(setValues(piece, state, id, { [property]: paint }, reaches(bench, [id])));
  };
  const { shown: gradient, drag } = useHandles<Handle, Gradient>({
    over,
    matrix,
    value: look[property] as Gradient,
    written: (paint) => [property, paint],
    at: (paint, handle) => handlesOf(paint, size).find(([name]) => name === handle)?.[1],
    pull: (paint, handle, to, event) => pulled(paint, size, handle, to, event.shiftKey),
    commit,
  });
  const onKey = (event: KeyboardEvent, handle: Handle, [x, y]: Point) => {
    const arrow = ARROWS[event.key];
    if (!arrow && event.key !== 'Delete') return;
    event.preventDefault();
    event.stopPropagation();
    const step = event.shiftKey ? 10 : 1;
    // What is in hand is deleted, and never the layer around it.
    const next = arrow
      ? pulled(gradient, size, handle, [x + arrow[0] * step, y + arrow[1] * step], false)
      : withoutStop(gradient, handle);
    if (next) void commit(next);
  };
  const axis = axisOf(gradient, size);
  const onStage = (share: number) => onScreen(matrix, zoom, stopPlace(gradient, share, size));
  const [from, to] = [axis.from, axis.to].map((at) => onScreen(matrix, zoom, at)) as [Point, Point];
  return (
    <svg className="gradient overlay" aria-label="Gradient">
      <Axis id={id} from={from} to={to} d={gradient.kind === 'conic' ? ring(onStage) : between(from, to)} />
      {handlesOf(gradient, size).map(([handle, at]) => (
        <GradientGrip
          key={handle}
          handle={handle}
          at={onScreen(matrix, zoom, at)}
          aside={typeof handle === 'number' && gradient.kind !== 'conic' ? beside(from, to) : [0, 0]}
          colour={typeof handle === 'number' ? known(gradient.stops[handle]).colour : 'none'}
          hands={{ onKeyDown: (event) => onKey(event, handle, at), ...drag(handle) }}
        />
      ))}
    </svg>
  );
}

/** px on the screen at the ends of the axis that belong to the grips there. */
const OF_GRIPS = 10;

/** Its line, and where a double click asks for a stop. */
const Axis = ({ id, from, to, d }: { id: string; from: Point; to: Point; d: string }) => (
  <>
    <path {...line('white', 1.4)} filter="drop-shadow(0 0 1px var(--ink))" d={`M${from.join()}L${to.join()}`} />
    <path className="axis" data-axis={id} fill="none" stroke="transparent" strokeWidth={9} d={d}>
      <title>Double-click adds a stop</title>
    </path>
  </>
);

/** The circle on which the stops of a conic gradient lie. */
function ring(placeAt: (share: number) => Point): string {
  return `M${Array.from({ length: 49 }, (_, i) => placeAt(i / 48).join(' ')).join('L')}`;
}

function between(from: Point, to: Point): string {
  const [x, y] = [to[0] - from[0], to[1] - from[1]];
  const long = Math.max(Math.hypot(x, y), 2 * OF_GRIPS);
  const [dx, dy] = [(x / long) * OF_GRIPS, (y / long) * OF_GRIPS];
  return `M${from[0] + dx} ${from[1] + dy}L${to[0] - dx} ${to[1] - dy}`;
}

/** So far beside a line, to its right. */
function beside(from: Point, to: Point): Point {
  const [x, y] = [to[0] - from[0], to[1] - from[1]];
  const long = Math.hypot(x, y) || 1;
  return [(-y / long) * ASIDE, (x / long) * ASIDE];
}

/** Nothing where too few stops would be left, or the handle is none. */
function withoutStop(gradient: Gradient, handle: Handle): Gradient | null {
  if (typeof handle !== 'number' || gradient.stops.length <= 2) return null;
  return { ...gradient, stops: gradient.stops.filter((_, i) => i !== handle) as Gradient['stops'] };
}

interface GripProps {
  handle: Handle;
  at: Point;
  /** How far beside that it stands. */
  aside: Point;
  colour: string;
  hands: SVGAttributes<SVGElement>;
}

function GradientGrip({ handle, at, aside, colour, hands }: GripProps) {
  const [x, y] = [at[0] + aside[0], at[1] + aside[1]];
  const own = { tabIndex: 0, role: 'button', 'data-gradient': handle, ...hands };
  return typeof handle === 'number' ? (
    <>
      <path {...line('ink', 1)} d={`M${at.join()}L${x} ${y}`} />
      <rect
        {...area('panel', 'ink', 1.4)}
        x={x - 5}
        y={y - 5}
        width={10}
        height={10}
        style={{ fill: colour === 'none' ? 'transparent' : colour }}
        aria-label={`Stop ${handle + 1} of the gradient; arrow keys move it, Delete removes it`}
        {...own}
      />
    </>
  ) : (
    <circle
      {...area('panel', 'ink', 1.4)}
      cx={x}
      cy={y}
      r={handle === 'centre' ? 5.5 : 4}
      aria-label={`${NAMES[handle]} of the gradient; arrow keys move it`}
      {...own}
    />
  );
}
