import type { PointerEvent } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import type { Point } from '../../../shared/geometry/matrix';
import { mapPath, writePath } from '../../../shared/geometry/path';
import { usePen } from './usePen';
import { known } from '../../../shared/known';

interface Props {
  zoom: number;
  /** From the pointer to px of the piece. */
  pointAt: (event: PointerEvent) => Point;
}

/** Draws a path point by point, or a line in one go. */
export function Pen({ zoom, pointAt }: Props) {
  const { knots, pointer, down, move, up, line: straight } = usePen(zoom, pointAt);
  // As it would go on from the last point.
  const open = pointer && knots.length ? [...knots, { at: pointer, into: null, out: null }] : knots;
  const [shown] = mapPath([{ knots: open, closed: false }], ([x, y]) => [x * zoom, y * zoom]);
  return (
    <svg
      className="overlay"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      aria-label={straight ? 'Draw a line' : 'Draw a path'}
    >
      <rect fill="transparent" x="-4000" y="-4000" width="8000" height="8000" />
      {open.length > 1 && <path {...line('glass', 1.6)} d={writePath([known(shown)])} />}
      {known(shown)
        .knots.slice(0, knots.length)
        .map(({ at, into, out }, i) => (
          <g key={i}>
            {into && out && <line {...line('ink')} x1={into[0]} y1={into[1]} x2={out[0]} y2={out[1]} />}
            <circle {...area('panel', 'ink', 1.4)} cx={at[0]} cy={at[1]} r={i === 0 ? 4.5 : 3.5} />
          </g>
        ))}
    </svg>
  );
}
