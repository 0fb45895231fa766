import { useCallback, useState, type PointerEvent } from 'react';
import { line } from '../../../shared/drawing/paint';
import type { SpringShape, TimingReading } from '../../../api/contract';
import { handlesOf } from './bezier';
import { BezierGrips } from './BezierGrips';
import { CurveDot } from './CurveDot';
import { SpringGrips } from './SpringGrips';
import { known } from '../../../shared/known';

const W = 236;
const H = 104;

/** The curve over its time, drawn from the points that the server computed. */
interface Props {
  reading: TimingReading;
  /** Asks for the spring that looks like this. */
  reshape: (shape: SpringShape) => Promise<void>;
  /** CSS text of a curve; none for a spring. */
  easing: string | null;
  bend: (easing: string) => Promise<void>;
  /** When it begins in the run, ms. */
  starts?: readonly number[] | undefined;
}

export function CurvePlot({ reading, reshape, easing, bend, starts }: Props) {
  const { curve, spring, own_ms } = reading;
  const handles = easing === null ? null : handlesOf(easing);
  const before = useBefore(reading);
  const values = [...curve.map(([, p]) => p), ...(handles ? [handles[1], handles[3]] : [])];
  const low = Math.min(0, ...values);
  const high = Math.max(1, ...values);
  // A spring is shown a little beyond the moment it has settled.
  const span = spring ? 1.15 : 1;
  const x = useCallback((u: number) => (u / span) * W, [span]);
  const y = useCallback((p: number) => H - ((p - low) / (high - low)) * H, [low, high]);
  const pathOf = (points: readonly (readonly [number, number])[]) =>
    points.map(([u, p], i) => `${i ? 'L' : 'M'}${x(u).toFixed(1)} ${y(p).toFixed(1)}`).join('');
  const shown = pathOf(curve) + (spring ? `L${W} ${y(1)}` : '');
  const back = (event: PointerEvent<SVGElement>) =>
    [(plotAt(event)[0] / W) * span, low + ((H - plotAt(event)[1]) / H) * (high - low)] as const;
  return (
    <figure className="plot">
      <svg
        width={W + 16}
        height={H + 44}
        viewBox={`-8 -20 ${W + 16} ${H + 44}`}
        role="group"
        aria-label={describe(reading)}
      >
        {[0.25, 0.5, 0.75].map((u) => (
          <line key={u} {...line('grid')} x1={u * W} x2={u * W} y1={0} y2={H} />
        ))}
        <rect className="frame" {...line('hairline')} width={W} height={H} />
        <line className="goal" {...line('brass', 1, '3 3')} x1={0} x2={W} y1={y(1)} y2={y(1)} />
        {low < 0 && <line className="goal" {...line('brass', 1, '3 3')} x1={0} x2={W} y1={y(0)} y2={y(0)} />}
        {before && (
          <path
            className="before"
            {...line('faint')}
            d={pathOf(before.curve.map(([u, p]) => [Math.min((u * before.own_ms) / Math.max(own_ms, 1), span), p]))}
          />
        )}
        <path {...line('brass')} d={speedOf(curve, x)} />
        <path {...line('glass', 2)} d={shown} />
        {handles && <BezierGrips handles={handles} x={x} y={y} back={back} commit={bend} />}
        {spring && <SpringGrips reading={reading} x={x} y={y} back={back} height={H} commit={reshape} />}
        <text className="figure" y={H + 14}>
          0
        </text>
        <text x={W} y={H + 14} className="figure" textAnchor="end">
          {Math.round(own_ms * span)} ms
        </text>
      </svg>
      {starts && <CurveDot starts={starts} own_ms={own_ms} curve={curve} x={x} y={y} />}
      {spring && spring.overshoot < 0.0005 && (
        <figcaption className="quiet">No overshoot: it nears the goal from one side.</figcaption>
      )}
    </figure>
  );
}

/** The pointer in px of the plot. */
function plotAt(event: PointerEvent<SVGElement>): [number, number] {
  const box = known(event.currentTarget.ownerSVGElement).getBoundingClientRect();
  return [event.clientX - box.left - 8, event.clientY - box.top - 20];
}

/** How fast it goes, from the foot of the plot for the slowest to half its height for the fastest. */
function speedOf(curve: readonly (readonly [number, number])[], x: (u: number) => number): string {
  const steps = curve.slice(1).map(([u, p], i) => ({
    u: (u + known(curve[i])[0]) / 2,
    v: u > known(curve[i])[0] ? Math.abs((p - known(curve[i])[1]) / (u - known(curve[i])[0])) : 0,
  }));
  const most = Math.max(...steps.map(({ v }) => v), 1e-9);
  return steps
    .map(({ u, v }, i) => `${i ? 'L' : 'M'}${x(u).toFixed(1)} ${(H - (v / most) * (H / 2)).toFixed(1)}`)
    .join('');
}

/** What was shown before the last edit. */
function useBefore(reading: TimingReading): TimingReading | null {
  const [known, setKnown] = useState<{ now: TimingReading; before: TimingReading | null }>({
    now: reading,
    before: null,
  });
  if (known.now !== reading) setKnown({ now: reading, before: known.now });
  return known.now === reading ? known.before : known.now;
}

function describe({ spring, own_ms }: TimingReading): string {
  if (!spring) return `Curve over ${own_ms} ms`;
  const peak = spring.peak_ms === null ? 'no overshoot' : `peak ${spring.peak} at ${spring.peak_ms} ms`;
  return `Spring: ${peak}, settled after ${spring.settling_ms} ms`;
}
