import type { KeyboardEvent, SVGAttributes } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import type { Gradient } from '../../../api/contract';
import type { Point } from '../../../shared/geometry/matrix';
import { attempt, useBench } from '../bench';
import { reaches } from '../chosen';
import { setValues } from '../edits';
import { axisOf, handlesOf, pulled, type Handle } from './gradient';
import { onScreen, ownMatrix, useHandles, type OverLayer } from './useHandles';
import { known } from '../../../shared/known';

const NAMES = { centre: 'Middle', reach: 'Direction or reach' };
const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The middle, direction and stops of a gradient, pulled where they lie. */
export function GradientHandles(over: OverLayer) {
  const { id, pose, zoom } = over;
  const look = known(pose[id]);
  const size: Point = [Number(look.width), Number(look.height)];
  const matrix = ownMatrix(over);
  const commit = (fill: Gradient) => {
    const bench = useBench.getState();
    const { document: piece, state } = bench;
    return attempt(setValues(piece, state, id, { fill }, reaches(bench, [id])));
  };
  const { shown: gradient, drag } = useHandles<Handle, Gradient>({
    over,
    matrix,
    value: look.fill as Gradient,
    written: (fill) => ['fill', fill],
    at: (fill, handle) => handlesOf(fill, size).find(([name]) => name === handle)?.[1],
    pull: (fill, handle, to, event) => pulled(fill, size, handle, to, event.shiftKey),
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
  const [from, to] = [axis.from, axis.to].map((at) => onScreen(matrix, zoom, at)) as [Point, Point];
  return (
    <svg className="gradient overlay" aria-label="Gradient">
      <line
        {...line('white', 1.4)}
        filter="drop-shadow(0 0 1px var(--ink))"
        x1={from[0]}
        y1={from[1]}
        x2={to[0]}
        y2={to[1]}
      />
      {handlesOf(gradient, size).map(([handle, at]) => (
        <GradientGrip
          key={handle}
          handle={handle}
          at={onScreen(matrix, zoom, at)}
          colour={typeof handle === 'number' ? known(gradient.stops[handle]).colour : 'none'}
          hands={{ onKeyDown: (event) => onKey(event, handle, at), ...drag(handle) }}
        />
      ))}
    </svg>
  );
}

/** Nothing where too few stops would be left, or the handle is none. */
function withoutStop(gradient: Gradient, handle: Handle): Gradient | null {
  if (typeof handle !== 'number' || gradient.stops.length <= 2) return null;
  return { ...gradient, stops: gradient.stops.filter((_, i) => i !== handle) as Gradient['stops'] };
}

interface GripProps {
  handle: Handle;
  at: Point;
  colour: string;
  hands: SVGAttributes<SVGElement>;
}

function GradientGrip({ handle, at: [x, y], colour, hands }: GripProps) {
  const own = { tabIndex: 0, role: 'button', 'data-gradient': handle, ...hands };
  return typeof handle === 'number' ? (
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
