import { useLayoutEffect, useRef } from 'react';
import { clock } from '../bench';
import { known } from '../../../shared/known';

interface Props {
  /** When the curve begins in the run, ms; more than once where it is gone through again. */
  starts: readonly number[];
  own_ms: number;
  curve: readonly (readonly [u: number, p: number])[];
  x: (u: number) => number;
  y: (p: number) => number;
}

/** A dot on the curve where the playing loop is just now. Moved by its transform alone. */
export function CurveDot({ starts, own_ms, curve, x, y }: Props) {
  const dot = useRef<HTMLElement>(null);
  useLayoutEffect(
    () =>
      clock.listen((moment) => {
        const start = starts.findLast((ms) => ms <= moment);
        const u = start === undefined ? 2 : (moment - start) / Math.max(own_ms, 1);
        const { style } = known(dot.current);
        const opacity = u <= 1 ? '1' : '0';
        // Only what changes is written: idle styles cost a frame, too.
        if (style.opacity !== opacity) style.opacity = opacity;
        if (u <= 1) style.transform = `translate(${x(u).toFixed(1)}px,${y(progressAt(curve, u)).toFixed(1)}px)`;
      }),
    [starts, own_ms, curve, x, y],
  );
  return <i ref={dot} className="curve-dot moment" style={{ top: 20, left: 13 }} aria-hidden="true" />;
}

/** Between the points that the server computed, straight lines. */
function progressAt(curve: Props['curve'], u: number): number {
  const after = curve.findIndex(([at]) => at >= u);
  if (after <= 0) return curve[Math.max(after, 0)]?.[1] ?? 0;
  const [u0, p0] = known(curve[after - 1]);
  const [u1, p1] = known(curve[after]);
  return u1 > u0 ? p0 + ((u - u0) / (u1 - u0)) * (p1 - p0) : p1;
}
